/* global self, caches, fetch, Request, Response, URL */
// Opens the application's pages where the server is away. What is recorded is not its business: pages keep that.

/** Put in by the build: which one it is, and its files. */
const VERSION = 'VERSION';
const FILES = ['FILES'];

const PREFIX = 'brackenridge-pages-';
const PAGES = PREFIX + VERSION;

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(PAGES)
      .then(async (cache) => {
        await cache.add(new Request('/', { cache: 'reload' }));
        await cache.addAll(FILES);
      })
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener('activate', (event) => {
  const tidy = async () => {
    // The version before stays, since a page that is open may still fetch a file of it.
    const names = (await caches.keys()).filter((name) => name.startsWith(PREFIX) && name !== PAGES);
    await Promise.all(names.slice(0, -1).map((name) => caches.delete(name)));
    await self.clients.claim();
  };
  event.waitUntil(tidy());
});

/** The page from the server, or the kept one where the server does not answer. */
async function page(request) {
  try {
    const answer = await fetch(request);
    if (answer.ok) return answer;
  } catch {
    // The server is away.
  }
  const kept = await caches.match('/', { cacheName: PAGES });
  return kept ?? Response.error();
}

async function file(request) {
  return (await caches.match(request, { ignoreVary: true })) ?? fetch(request);
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== self.location.origin || pathname.startsWith('/api/')) return;
  if (request.mode === 'navigate') event.respondWith(page(request));
  else if (pathname.startsWith('/assets/') || pathname === '/icon.svg') event.respondWith(file(request));
});
