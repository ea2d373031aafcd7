/*
 * Serves the page when the network is away: the files of the application as they were built, and
 * the answers it last had about jobs, each with when it was had. What changes something is never
 * answered from here.
 */
interface Extendable extends Event {
  waitUntil(until: Promise<unknown>): void;
}
interface Fetching extends Extendable {
  readonly request: Request;
  respondWith(answer: Promise<Response>): void;
}
interface Worker {
  addEventListener(type: "install" | "activate", act: (event: Extendable) => void): void;
  addEventListener(type: "fetch", act: (event: Fetching) => void): void;
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
}
const worker = self as unknown as Worker;
const FILES = "files";
/** Cleared at sign-out: what one person saw is not another's. */
const ANSWERS = "answers";
const KEPT_API = /^\/api\/(session|yard|jobs\/\d+(\/bench)?)$/;
const PATIENCE_MS = 10_000;

interface Chunk {
  file: string;
  css?: string[];
  assets?: string[];
}

async function keepFiles() {
  const found = await fetch("/assets.json", { cache: "no-cache" });
  const chunks = Object.values((await found.json()) as Record<string, Chunk>);
  const names = chunks.flatMap((c) => [c.file, ...(c.css ?? []), ...(c.assets ?? [])]);
  const wanted = new Set(["/", ...names.filter((n) => n !== "sw.js").map((n) => `/${n}`)]);
  const cache = await caches.open(FILES);
  for (const old of await cache.keys())
    if (!wanted.has(new URL(old.url).pathname)) await cache.delete(old);
  await Promise.all(
    [...wanted].map(async (path) => {
      if (path === "/" || !(await cache.match(path))) await cache.add(path);
    }),
  );
}

worker.addEventListener("install", (event) =>
  event.waitUntil(keepFiles().then(() => worker.skipWaiting())),
);
worker.addEventListener("activate", (event) => event.waitUntil(worker.clients.claim()));

/** The server's answer; where it does not come in time, what was kept of it. */
async function newest(request: Request, name: string, as: Request | string): Promise<Response> {
  const cache = await caches.open(name);
  const kept = await cache.match(as);
  try {
    const answer = await fetch(request, kept ? { signal: AbortSignal.timeout(PATIENCE_MS) } : {});
    if (kept && (answer.status === 503 || answer.status === 502)) return kept;
    if (answer.ok && name === ANSWERS) await cache.put(as, await dated(answer.clone()));
    return answer;
  } catch (error) {
    if (kept) return kept;
    throw error;
  }
}

async function dated(answer: Response): Promise<Response> {
  const headers = new Headers(answer.headers);
  headers.set("X-Kept-At", new Date().toISOString());
  return new Response(await answer.blob(), { status: answer.status, headers });
}

worker.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.startsWith("/assets/"))
    event.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)));
  else if (KEPT_API.test(url.pathname)) event.respondWith(newest(request, ANSWERS, request));
  else if (request.mode === "navigate") event.respondWith(newest(request, FILES, "/"));
});
