/*
 * Keeps the application's own files, so that work goes on without a network from the moment the bench stands: field work is a promise.
 * Bundled to public/sw.js by scripts/offline.mjs, which packs the files of a build one after the other into one: asking for each by itself
 * would take seconds.
 */

import { within } from '@/store/keeping/within';

/** Where a file lies in the pack. */
interface Packed {
  readonly at: number;
  readonly length: number;
  /** media type */
  readonly type: string;
}

/** the build, by which its files are kept apart from those of another one */
declare const BUILD: string;
/** the files of this build by their addresses */
declare const FILES: Readonly<Record<string, Packed>>;

/** seconds after which the cache counts as not answering: one that a full disk has broken may never */
const ANSWERS_WITHIN = 3;

const worker = self as unknown as ServiceWorkerGlobalScope;
const NAME = `marsh ${BUILD}`;
const PACK = `/offline.bin?build=${BUILD}`;
const PAGES = ['/', '/bench', '/icon.svg'];
/** what the server says of every file (next.config.ts): without it a page that is isolated may not load them */
const HEADERS = {
  'cross-origin-embedder-policy': 'require-corp',
  'cross-origin-resource-policy': 'same-origin',
  'x-content-type-options': 'nosniff',
};

worker.addEventListener('install', (event) => {
  event.waitUntil(caches.open(NAME).then((cache) => cache.addAll([PACK, ...PAGES])));
});

worker.addEventListener('activate', (event) => {
  // the first one takes the pages that are open; a later one waits until they are closed, since they need the files of their own build
  event.waitUntil(
    (async () => {
      const names = await caches.keys();
      const old = names.filter((name) => name.startsWith('marsh ') && name !== NAME);
      await Promise.all(old.map((name) => caches.delete(name)));
      await worker.clients.claim();
    })(),
  );
});

worker.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== worker.location.origin) return;
  // a page carries a script nonce of its own, so it comes from the server as long as there is one
  if (request.mode === 'navigate') event.respondWith(fetch(request).catch(() => page(pathname)));
  else if (Object.hasOwn(FILES, pathname)) event.respondWith(file(request, FILES[pathname]));
});

async function page(pathname: string): Promise<Response> {
  const cache = await caches.open(NAME);
  return (await cache.match(PAGES.includes(pathname) ? pathname : '/')) ?? Response.error();
}

let pack: Promise<Blob | undefined> | undefined;

async function file(request: Request, { at, length, type }: Packed): Promise<Response> {
  pack ??= caches
    .open(NAME)
    .then((cache) => cache.match(PACK))
    .then((found) => found?.blob());
  const kept = pack.then(async (blob) => {
    const bytes = await blob?.slice(at, at + length).arrayBuffer();
    // a browser that runs out of disk gives up what pages keep in its cache, under our hands
    if (bytes?.byteLength !== length) throw new Error(`${request.url} is not kept`);
    // without an address of its own the answer leaves a worker the one it was asked for by, which tells it what to load
    return new Response(bytes, { headers: { ...HEADERS, 'content-type': type } });
  });
  try {
    return await within(ANSWERS_WITHIN, kept);
  } catch {
    pack = undefined;
    return fetch(request).catch(() => kept);
  }
}
