import { keyOf, type Shipped } from './shipped';

/**
 * Serves everything of one version from the browser's own copy: the application opens without a network, and a page never meets scripts of
 * another version. Built by scripts/build-service-worker.mjs, which fills in what there is.
 */

declare const SHIPPED: Shipped;

/** What of a service worker's surroundings is used: the page's types know none of it. */
interface Extendable extends Event {
  waitUntil(work: Promise<unknown>): void;
}
interface Fetching extends Extendable {
  request: Request;
  respondWith(response: Promise<Response>): void;
}
interface Surroundings {
  addEventListener(type: 'install' | 'activate', listen: (e: Extendable) => void): void;
  addEventListener(type: 'fetch', listen: (e: Fetching) => void): void;
  addEventListener(type: 'message', listen: (e: MessageEvent) => void): void;
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
  location: Location;
}
const worker = globalThis as unknown as Surroundings;

const PREFIX = 'nod-sway-';
const OWN = `${PREFIX}${SHIPPED.version}`;
/** Names of the copies that there are, the oldest first; the one before this serves tabs that still run it. */
const ORDER = `${PREFIX}order`;
/** So many files are fetched at a time. */
const AT_ONCE = 6;

/**
 * Fetches one file as the page would and keeps it under its key.
 * @throws where it cannot be had: the old version stays, and this one is tried again
 */
async function keep(cache: Cache, { key, url, headers }: Shipped['files'][number]): Promise<void> {
  const response = await fetch(url, { headers: headers ?? {}, cache: 'no-cache' });
  if (!response.ok) throw new Error(`${url}: ${response.status}`);
  // One that came by a redirect is refused where a page is asked for.
  await cache.put(key, new Response(await response.blob(), { status: 200, headers: response.headers }));
}

async function install(): Promise<void> {
  const cache = await caches.open(OWN);
  const files = [...SHIPPED.files];
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let file = files.pop(); file; file = files.pop()) await keep(cache, file);
    }),
  );
}

/** Lets go of copies that are older than the one before this. */
async function activate(): Promise<void> {
  const list = await caches.open(ORDER);
  const before = ((await (await list.match('/order'))?.json()) ?? []) as string[];
  const order = [...before.filter((name) => name !== OWN), OWN].slice(-2);
  await list.put('/order', new Response(JSON.stringify(order)));
  for (const name of await caches.keys()) if (name.startsWith(PREFIX) && name !== ORDER && !order.includes(name)) await caches.delete(name);
  await worker.clients.claim();
}

async function answer(request: Request, key: string): Promise<Response> {
  const own = await (await caches.open(OWN)).match(key);
  // A script of the version before, for a tab that still runs it.
  const found = own ?? (key.startsWith('/_next/') ? await caches.match(key) : undefined);
  return found ?? fetch(request);
}

worker.addEventListener('install', (e) => e.waitUntil(install()));
worker.addEventListener('activate', (e) => e.waitUntil(activate()));
worker.addEventListener('message', (e) => {
  if (e.data === 'take over') void worker.skipWaiting();
  if (e.data === 'which version') e.ports[0]?.postMessage(SHIPPED.version);
});
worker.addEventListener('fetch', (e) => {
  const { request } = e;
  const key =
    request.method === 'GET' ? keyOf(new URL(request.url), request.headers, worker.location.origin, request.mode === 'navigate') : null;
  if (key !== null) e.respondWith(answer(request, key));
});
