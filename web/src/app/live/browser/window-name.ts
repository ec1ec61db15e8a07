import { ownStorage } from './storage';

/** Under which the browser keeps it for one window. */
const KEY = 'pentachord window';
/** Where nothing is kept. */
const forThisPage = crypto.randomUUID();

/** A name that this window keeps over a reload, and shares with no other; where nothing is kept, one for the page's life. */
export function windowName(): string {
  const store = ownStorage();
  const kept = store?.getItem(KEY);
  if (!store) return forThisPage;
  if (kept) return kept;
  const name = crypto.randomUUID();
  try {
    store.setItem(KEY, name);
    return name;
  } catch {
    return forThisPage;
  }
}
