/** What the service worker looks at before it looks for a new version of the program. */
const STORE = 'pentachord show';
const MARK = '/show-is-played';

/** Says that a show is being played, over reloads and crashes, until the returned function is called. */
export function holdShow(): () => void {
  void mark(true);
  return () => void mark(false);
}

/** On the desk no show is being played, whatever a page that crashed has left behind. */
export function letShowGo(): void {
  void mark(false);
}

async function mark(isPlayed: boolean): Promise<void> {
  try {
    const store = await caches.open(STORE);
    if (isPlayed) await store.put(MARK, new Response(''));
    else await store.delete(MARK);
  } catch {
    // Without storage there is no service worker either that could bring a new version.
  }
}
