// Keeps the application itself, so that it opens while the server is away. Data are not its business:
// readings wait in IndexedDB, and /api is never answered from here.
const CACHE = 'velvet-hand'

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

self.addEventListener('message', (event) => {
  event.waitUntil(
    caches.open(CACHE).then((cache) => Promise.all(event.data.keep.map((url) => keep(cache, url)))),
  )
})

async function keep(cache, url) {
  if (url !== '/' && (await cache.match(url))) return
  const answer = await fetch(url).catch(() => undefined)
  if (answer?.ok) await cache.put(url, answer)
}

self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url)
  if (event.request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/'))
    return
  if (event.request.mode === 'navigate') {
    event.respondWith(fetch(event.request).catch(async () => (await caches.match('/')) ?? Response.error()))
  } else if (url.pathname.startsWith('/assets/')) {
    event.respondWith(caches.match(event.request).then((kept) => kept ?? fetch(event.request)))
  }
})
