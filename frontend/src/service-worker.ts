/// <reference types="@sveltejs/kit" />
/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
import { build, files, version } from '$service-worker';

// The page works without the network: its files are kept at install, and every address of it
// gets the one page. What the server computes is kept by the page itself; the few answers that
// hardly change (units, fields, method pages) are kept here as they come.
const worker = globalThis as unknown as ServiceWorkerGlobalScope;
const CACHE = `ember-${version}`;
const SHELL = '/';
const SLOW = [/^\/api\/reference$/, /^\/api\/methods\//, /^\/api\/catalog\/templates$/];
const PHOTO = /^\/api\/jobs\/[^/]+\/photos\//;

worker.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(CACHE)
      .then((cache) => cache.addAll([SHELL, ...build, ...files]))
      .then(() => worker.skipWaiting())
  );
});

worker.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((keys) =>
        Promise.all(keys.filter((key) => key !== CACHE).map((key) => caches.delete(key)))
      )
      .then(() => worker.clients.claim())
  );
});

async function kept(request: Request): Promise<Response> {
  return (await caches.match(request)) ?? fetch(request);
}

/** From the network, kept for the time it does not answer. */
async function fresh(request: Request, at: string | Request = request): Promise<Response> {
  const cache = await caches.open(CACHE);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(at, answer.clone());
    return answer;
  } catch (error) {
    const held = await cache.match(at);
    if (held) return held;
    throw error;
  }
}

worker.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== location.origin) return;
  // Which page the server has now is asked of the server.
  if (url.pathname === '/_app/version.json') return;
  if (url.pathname.startsWith('/api/')) {
    if (SLOW.some((one) => one.test(url.pathname)) || PHOTO.test(url.pathname))
      event.respondWith(fresh(request));
    return;
  }
  if (request.mode === 'navigate') event.respondWith(fresh(request, SHELL));
  else event.respondWith(kept(request));
});
