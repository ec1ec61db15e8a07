// Angular’s service worker keeps the program in the browser; two rules of this house stand before it.

// What is asked of the server is asked of the server: it is never kept, and goes no way round.
self.addEventListener('fetch', (event) => {
  const { origin, pathname } = new URL(event.request.url);
  if (origin === self.location.origin && pathname.startsWith('/api/'))
    event.stopImmediatePropagation();
});

/** Whether a show is being played, and the program that plays it is kept already. */
async function mustNotChange() {
  const names = await caches.keys();
  if (!names.some((name) => name.includes(':assets:'))) return false;
  return (await caches.match('/show-is-played', { cacheName: 'pentachord show' })) !== undefined;
}

// A new version is not even looked for in the middle of a show: reloaded, the page is the one that it was.
const fetchAnything = self.fetch.bind(self);
self.fetch = async (input, init) => {
  const { pathname } = new URL(typeof input === 'string' ? input : input.url, self.location.href);
  if (pathname === '/ngsw.json' && (await mustNotChange()))
    return new Response(null, { status: 503 });
  return fetchAnything(input, init);
};

importScripts('ngsw-worker.js');
