/// <reference types="@sveltejs/kit" />
/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
import { build, files, version } from '$service-worker';
import { cardsOn, isKept, nobodyThere, stillGood } from './lib/offline/kept-pages';

/**
 * Keeps, on a device that stands at a machine, the pages that are worked by there, and shows them while nobody answers. What is sent to the server
 * goes past it: only pages that are looked at come from what was kept, and only where there is no answer.
 */
const worker = self as unknown as ServiceWorkerGlobalScope;
const SHELL = `tin-shell-${version}`;
const PAGES = `tin-pages-${version}`;
const OURS = /^tin-(?:shell|pages)-/;
const ASSETS = new Set([...build, ...files]);
/** An address that is no page: for whom the kept pages were made. */
const MADE_FOR = '/made-for';
const KEPT_AT = 'x-kept-at';
/** Where there is a kept page, an answer is waited for no longer, milliseconds. */
const PATIENCE = 6_000;

worker.addEventListener('install', () => void worker.skipWaiting());
worker.addEventListener('activate', (event) => event.waitUntil(worker.clients.claim()));

worker.addEventListener('message', (event) => {
  const { keep } = event.data as { keep?: string[] };
  if (keep) event.waitUntil(keepAll(keep));
});

worker.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== location.origin) return;
  if (ASSETS.has(url.pathname)) event.respondWith(asset(request));
  else if (request.mode === 'navigate') event.respondWith(page(event, url));
});

async function asset(request: Request): Promise<Response> {
  return (await caches.match(request, { ignoreVary: true })) ?? fetch(request);
}

async function page(event: FetchEvent, url: URL): Promise<Response> {
  const kept = isKept(url.pathname) ? await keptPage(url.pathname) : null;
  let answer: Response | null;
  try {
    answer = await Promise.race([
      fetch(event.request),
      new Promise<null>((resolve) => (kept ? setTimeout(() => resolve(null), PATIENCE) : undefined)),
    ]);
  } catch {
    answer = null;
  }
  if (answer !== null && !nobodyThere(answer.status)) {
    if (isKept(url.pathname) && url.search === '') event.waitUntil(put(url.pathname, answer.clone()));
    // nobody is signed in here any more: what was kept is nobody's
    if (url.pathname === '/sign-in' && answer.ok && !answer.headers.has('x-made-for'))
      event.waitUntil(caches.delete(PAGES));
    return answer;
  }
  return kept ?? answer ?? withoutNetwork();
}

/** Keeps a page, unless it is none, or is somewhere else. */
async function put(path: string, answer: Response): Promise<string | null> {
  if (!answer.ok || answer.redirected || !answer.headers.get('content-type')?.includes('text/html'))
    return null;
  const person = answer.headers.get('x-made-for');
  if (person === null) return null;
  let pages = await caches.open(PAGES);
  if ((await (await pages.match(MADE_FOR))?.text()) !== person) {
    await caches.delete(PAGES);
    pages = await caches.open(PAGES);
    await pages.put(MADE_FOR, new Response(person));
  }
  const html = await answer.text();
  // a page without its scripts looks as it should, and loses what is typed there
  if (!(await keepWith(`${html} ${answer.headers.get('link')}`))) return null;
  const headers = new Headers(answer.headers);
  headers.set(KEPT_AT, String(Date.now()));
  // it is unpacked already
  for (const name of ['content-encoding', 'content-length']) headers.delete(name);
  await pages.put(path, new Response(html, { headers }));
  return html;
}

/** Keeps what a page is made with: the scripts and styles that it, or its header, names. False: not all of it was to be had. */
async function keepWith(said: string): Promise<boolean> {
  const shell = await caches.open(SHELL);
  const named = new Set(said.match(/_app\/immutable\/[\w./-]+/g)?.map((path) => `/${path}`));
  const added = await Promise.all(
    [...named]
      .filter((path) => ASSETS.has(path))
      .map(async (path) => {
        if (await shell.match(path, { ignoreVary: true })) return true;
        return shell.add(path).then(
          () => true,
          () => false,
        );
      }),
  );
  return added.every((each) => each);
}

/** A kept page, marked as such; null: there is none, or it is of another day. */
async function keptPage(path: string): Promise<Response | null> {
  const found = await (await caches.open(PAGES)).match(path);
  if (!found || !stillGood(Number(found.headers.get(KEPT_AT) ?? NaN), Date.now())) return null;
  const html = (await found.text()).replace('<html ', '<html data-kept="yes" ');
  return new Response(html, { headers: found.headers });
}

/** Keeps the pages of a machine as they are now, the cards they lead to, and what they are made with. */
async function keepAll(paths: string[]): Promise<void> {
  const wanted = paths.filter(isKept);
  const seen = new Set<string>();
  for (let path = wanted.shift(); path !== undefined; path = wanted.shift()) {
    if (seen.has(path)) continue;
    seen.add(path);
    const answer = await fetch(path, { headers: { accept: 'text/html', 'x-keeps': 'yes' } }).catch(
      () => null,
    );
    if (answer === null || nobodyThere(answer.status)) return;
    const html = await put(path, answer);
    if (html !== null) wanted.push(...cardsOn(html));
  }
  // what is not on any of them now is over: a card that was kept is of a correction that is closed
  const pages = await caches.open(PAGES);
  for (const { url } of await pages.keys()) {
    const { pathname } = new URL(url);
    if (pathname.startsWith('/corrections/') && !seen.has(pathname)) await pages.delete(pathname);
  }
  const shell = await caches.open(SHELL);
  const has = new Set((await shell.keys()).map(({ url }) => new URL(url).pathname));
  for (const path of ASSETS) if (!has.has(path)) await shell.add(path).catch(() => undefined);
  for (const name of await caches.keys())
    if (OURS.test(name) && name !== SHELL && name !== PAGES) await caches.delete(name);
}

/** What is said where nothing is kept, and the way to what is. */
async function withoutNetwork(): Promise<Response> {
  const links: string[] = [];
  for (const { url } of await (await caches.open(PAGES)).keys()) {
    const { pathname } = new URL(url);
    const kept = isKept(pathname) ? await keptPage(pathname) : null;
    const title = kept && /<title>([^<]*)<\/title>/.exec(await kept.text())?.[1];
    if (title) links.push(`<li><a href="${pathname}">${title.replace(' · Tin Almanac', '')}</a></li>`);
  }
  const kept = links.length
    ? `<p>These are on this tablet, and what is entered on them is sent later. Nobody else can sign in meanwhile.</p><ul>${links.join('')}</ul>`
    : '<p>No page is kept on this tablet: open its machine’s page while there is a network.</p>';
  return new Response(
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta http-equiv="refresh" content="10"><title>No network</title><link rel="stylesheet" href="/away.css"></head><body><main><h1>No network</h1><p>The server does not answer. This page tries again by itself.</p>${kept}</main></body></html>`,
    {
      status: 503,
      headers: {
        'content-type': 'text/html; charset=utf-8',
        'content-security-policy': "default-src 'none'; style-src 'self'",
      },
    },
  );
}
