import { redirect, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { accessFor } from '$core/people/access';
import { may, ROLE_WORDS, rolesFor } from '$core/people/roles';
import { followAgents, stopFollowing } from '$server/agents/follow-all';
import { stopTelling, tellOthers } from '$server/api/webhooks';
import { followClock } from '$server/clock';
import { compressed } from '$server/compressed';
import { closePool, databaseIsAway } from '$server/db';
import { databaseFault } from '$server/outcome';
import { stopListening } from '$server/live';
import { log } from '$server/log';
import { forgetOldSessions, personOf } from '$server/people';

export const SESSION_COOKIE = 'tin-session';
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/** A write must come from a page of ours: same host, whatever name or port the shop reaches the server by. */
function sameHost(request: Request): boolean {
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none') return false;
  const origin = request.headers.get('origin');
  if (origin === null) return site !== null;
  const host = request.headers.get('x-forwarded-host') ?? request.headers.get('host');
  return URL.canParse(origin) && new URL(origin).host === host;
}

/** What may be sent to a route, bytes: a form is small; files and whole plans have routes of their own. */
const FORM_BYTES = 64 * 1024;
const TOO_LARGE =
  'What was sent is too large: tables go up to 32 MB, programs up to 128 MB. None of it was saved.';
const LARGER: Readonly<Record<string, number>> = {
  '/programs?/bringIn': 130 * 1024 * 1024,
  '/tools/import?/look': 40 * 1024 * 1024,
  '/machines/[id]/load?/make': 512 * 1024,
  '/machines/[id]/control?/bring': 1024 * 1024,
  '/machines/[id]/control/put-back?/look': 1024 * 1024,
  '/machines/[id]/control/put-back?/keep': 2 * 1024 * 1024,
  '/api/v1/[...path]': 1024 * 1024,
  '/machines/[id]/control/layout?/keep': 1024 * 1024,
};

/** Why a request is not even looked at: too large for its route, or without a length. */
function oversized(request: Request, route: string): string | null {
  if (SAFE.has(request.method)) return null;
  const length = request.headers.get('content-length');
  if (length === null && request.body !== null) return 'This request did not state its length.';
  const most = LARGER[route] ?? FORM_BYTES;
  if (Number(length ?? 0) <= most) return null;
  return most > 1024 * 1024 ? TOO_LARGE : 'What was sent is too large for a form. None of it was saved.';
}

/** Numbers in an address that no record can have, and signs that no text has. */
function strangeAddress(url: URL, params: Partial<Record<string, string>>): boolean {
  if (/%00|\0/.test(url.pathname + url.search)) return true;
  return 'id' in params && !(/^[0-9]{1,10}$/.test(params.id!) && Number(params.id) <= 2_147_483_647);
}

const HEADERS: Record<string, string> = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=()',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
};

const AWAY_PAGE = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="refresh" content="3"><title>The database is away</title><link rel="stylesheet" href="/away.css"></head>
<body><main><h1>The database is away</h1><p>Nothing that was confirmed is lost. This page tries again every three seconds and goes on by itself.</p></main></body></html>`;

function away(request: Request): Response {
  const wantsPage = request.headers.get('accept')?.includes('text/html');
  const headers = {
    ...HEADERS,
    'retry-after': '3',
    'cache-control': 'no-store',
    'content-security-policy': "default-src 'none'; style-src 'self'",
  };
  if (wantsPage)
    return new Response(AWAY_PAGE, {
      status: 503,
      headers: { ...headers, 'content-type': 'text/html; charset=utf-8' },
    });
  const fault = { message: 'The database is away.', code: 'away' };
  // a form's own answer has the framework's shape for a fault, or its page would take it for an answer
  const asked = request.headers.get('x-sveltekit-action') === 'true';
  return Response.json(asked ? { type: 'error', error: fault } : fault, { status: 503, headers });
}

// a stop lets go of the database at once, so that it can be stopped too
process.on('sveltekit:shutdown', () => {
  stopTelling();
  void Promise.all([stopListening(), stopFollowing()]).finally(closePool);
});

/** Once a process, before the first request. */
export const init: ServerInit = () => {
  followClock();
  followAgents();
  tellOthers();
};

let tidied = 0;
function tidyNowAndThen(): void {
  const now = Date.now();
  if (now - tidied < 3_600_000) return;
  tidied = now;
  forgetOldSessions().catch((error: Error) =>
    log.warn({ reason: error.message }, 'old sessions could not be removed'),
  );
}

export const handle: Handle = async ({ event, resolve }) => {
  const { request, route, url, cookies } = event;
  event.locals.theme =
    (['tin', 'tin-night'] as const).find((name) => name === cookies.get('tin-theme')) ?? null;
  event.locals.person = null;
  // other systems come with a token of their own, and without a session: nothing of a browser's is used for them
  const byToken = route.id?.startsWith('/api/') ?? false;
  if (!SAFE.has(request.method) && !byToken && !sameHost(request))
    return Response.json(
      { message: 'This request did not come from a page of this server.' },
      { status: 403, headers: HEADERS },
    );

  const formAct =
    request.method === 'POST'
      ? ([...url.searchParams.keys()].find((name) => name.startsWith('/'))?.slice(1) ?? null)
      : null;
  const large = oversized(request, `${route.id}${formAct === null ? '' : `?/${formAct}`}`);
  if (large !== null) {
    const fault = { message: large };
    const asked = request.headers.get('x-sveltekit-action') === 'true';
    // what was not read stays in the line: it is not used again
    return Response.json(asked ? { type: 'error', error: fault } : fault, {
      status: 413,
      headers: { ...HEADERS, connection: 'close' },
    });
  }
  if (strangeAddress(url, event.params))
    return Response.json({ message: 'There is no such page.' }, { status: 404, headers: HEADERS });

  try {
    const token = cookies.get(SESSION_COOKIE);
    if (token && !byToken && route.id !== '/healthz' && route.id !== '/readyz')
      event.locals.person = await personOf(token);
  } catch (error) {
    if (databaseIsAway(error)) return away(request);
    throw error;
  }
  if (route.id !== null) {
    const needed = accessFor(route.id, formAct);
    if (needed === undefined) return refuse(event.locals.person, 'This page is not open to anyone yet.');
    if (needed !== 'anyone') {
      const { person } = event.locals;
      if (!person) {
        if (
          SAFE.has(request.method) &&
          (event.isDataRequest || request.headers.get('accept')?.includes('text/html'))
        )
          redirect(303, `/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
        return Response.json({ message: 'Sign in first.' }, { status: 401, headers: HEADERS });
      }
      if (!may(person.role, needed))
        return refuse(
          person,
          `This is for the ${rolesFor(needed)
            .map((role) => ROLE_WORDS[role])
            .join(', ')}.`,
        );
    }
  }
  tidyNowAndThen();
  const response = await resolve(event, {
    transformPageChunk: ({ html }) =>
      html.replace('%tin.theme%', event.locals.theme ? `data-theme="${event.locals.theme}"` : ''),
  });
  // the data of a page come with status 200 and the fault inside: the page that is open waits for an answer that says so
  if (event.locals.away && (response.status === 500 || event.isDataRequest)) return away(request);
  for (const [name, value] of Object.entries(HEADERS))
    if (!response.headers.has(name)) response.headers.set(name, value);
  if (response.headers.get('content-type')?.includes('text/html'))
    response.headers.set('cache-control', 'no-store');
  return compressed(request, response);
};

function refuse(person: { role: string } | null, message: string): Response {
  return Response.json({ message, role: person?.role ?? null }, { status: 403, headers: HEADERS });
}

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  if (databaseIsAway(error)) {
    event.locals.away = true;
    log.warn({ path: event.url.pathname }, 'the database is away');
    return {
      message: 'The database is away. Nothing that was confirmed is lost; try again in a moment.',
      code: 'away',
    };
  }
  if (status === 413) return { message: TOO_LARGE };
  if (status === 404) return { message: 'There is no such page.' };
  if (status === 405) return { message: 'This page does not take that kind of request.' };
  if (status < 500) return { message };
  const known = databaseFault(error);
  if (known !== null) {
    log.error({ path: event.url.pathname, err: (error as Error).message }, known);
    return { message: known };
  }
  const code = crypto.randomUUID().slice(0, 8);
  log.error(
    {
      code,
      path: event.url.pathname,
      status,
      err: error instanceof Error ? { message: error.message, stack: error.stack } : error,
    },
    message,
  );
  return {
    message: 'Something went wrong here, and it was written to the log. Nothing was half kept.',
    code,
  };
};
