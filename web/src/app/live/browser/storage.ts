/**
 * The browser's own small store, which survives a reload. A browser in which it is shut off throws as soon as it is looked at:
 * then nothing is remembered, and everything else goes on.
 */
function storage(): Storage | null {
  try {
    return localStorage;
  } catch {
    return null;
  }
}

/** What is remembered under a name; null for nothing. */
export function remembered(name: string): string | null {
  try {
    return storage()?.getItem(name) ?? null;
  } catch {
    return null;
  }
}

/** Remembers a text; false where there is no room, or nothing can be remembered. */
export function remember(name: string, text: string): boolean {
  try {
    const store = storage();
    store?.setItem(name, text);
    return store !== null;
  } catch {
    return false;
  }
}

/** The store of this window alone, which a reload and a crash leave; null where there is none. */
export function ownStorage(): Storage | null {
  try {
    return sessionStorage;
  } catch {
    return null;
  }
}
