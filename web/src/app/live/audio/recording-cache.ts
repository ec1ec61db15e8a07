/** Where the browser keeps the bytes of recordings. */
const KEPT = 'pentachord recordings';

/** Bytes of a recording, and whether this browser keeps them. */
export interface FoundBytes {
  bytes: Uint8Array<ArrayBuffer>;
  isKept: boolean;
}

/** What to say when the bytes of a recording are not to be had. */
export class NotThere extends Error {}

/**
 * The bytes of recordings, kept in the browser by their hash, so that a show plays with the server gone. Asked for anew they come from
 * here; else from the server, and are looked at before they are kept.
 */
export class RecordingCache {
  /** @throws NotThere with the reason, in words that can stand behind a name */
  async find(id: string): Promise<FoundBytes> {
    const cache = await this.open();
    const kept = await cache?.match(addressOf(id)).catch(() => undefined);
    if (kept) {
      const bytes = new Uint8Array(await kept.arrayBuffer());
      if ((await hashOf(bytes)) === id) return { bytes, isKept: true };
      await cache?.delete(addressOf(id)).catch(() => false);
    }
    const bytes = await fetched(id);
    return { bytes, isKept: await this.keep(id, bytes, cache) };
  }

  /** Keeps bytes that were brought in here; false where there is no room. */
  async keep(id: string, bytes: Uint8Array<ArrayBuffer>, into?: Cache | null): Promise<boolean> {
    const cache = into === undefined ? await this.open() : into;
    try {
      await cache?.put(addressOf(id), new Response(bytes));
      return cache !== null;
    } catch {
      return false;
    }
  }

  private async open(): Promise<Cache | null> {
    try {
      return typeof caches === 'undefined' ? null : await caches.open(KEPT);
    } catch {
      return null;
    }
  }
}

function addressOf(id: string): string {
  return `/api/recordings/${id}/bytes`;
}

async function fetched(id: string): Promise<Uint8Array<ArrayBuffer>> {
  let answer: Response;
  try {
    answer = await fetch(addressOf(id));
  } catch {
    throw new NotThere('the server does not answer, and this browser does not keep it');
  }
  if (answer.status === 404) throw new NotThere('it is missing; drop its file on the page again');
  if (!answer.ok) throw new NotThere('the server cannot give it');
  const bytes = new Uint8Array(await answer.arrayBuffer());
  if ((await hashOf(bytes)) !== id)
    throw new NotThere('it is damaged; drop its file on the page again');
  return bytes;
}

/** SHA-256 of bytes, in hexadecimal: what a recording is known by. */
export async function hashOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes);
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}
