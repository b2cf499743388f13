import {
  redirect,
  type Handle,
  type HandleServerError,
  type RequestEvent,
  type ServerInit,
} from '@sveltejs/kit';
import { accessFor } from '$core/people/access';
import { ACT_WORDS, may, ROLE_WORDS, rolesFor } from '$core/people/roles';
import { followAgents, stopFollowing } from '$server/agents/follow-all';
import { stopTelling, tellOthers } from '$server/api/webhooks';
import { followClock } from '$server/clock';
import { compressed } from '$server/compressed';
import { answered } from '$server/metrics';
import { answering, idOf, typedAgo } from '$server/asked';
import { closePool } from '$server/db';
import { Busy, pages } from '$server/gate';
import { HEADERS, LATER, later, troubleOf } from '$server/later';
import { databaseFault } from '$server/outcome';
import { followLedger, stopListening, toldOnLine, toldUpTo } from '$server/live';
import { closeReplica } from '$server/replica';
import { log } from '$server/log';
import { forgetOldSessions, personOf, refused } from '$server/people';

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

// a stop lets go of the database at once, so that it can be stopped too
process.on('sveltekit:shutdown', () => {
  stopTelling();
  void Promise.all([stopListening(), stopFollowing()]).finally(() =>
    Promise.all([closePool(), closeReplica()]),
  );
});

/** A stop is waited for so long beyond the time that open requests have, milliseconds; what was acknowledged is in the database by then. */
const STOPS_IN = 10_000;
function stopInTheEnd(): void {
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () =>
      setTimeout(
        () => {
          log.warn({ open: process.getActiveResourcesInfo() }, 'something kept the process from stopping');
          process.exit(0);
        },
        Number(process.env.SHUTDOWN_TIMEOUT ?? 30) * 1000 + STOPS_IN,
      ).unref(),
    );
}

/** Once a process, before the first request. */
export const init: ServerInit = () => {
  stopInTheEnd();
  followClock();
  followLedger();
  followAgents();
  tellOthers();
};

/** What is answered at once, and streams, which last. */
const LASTS = new Set(['/live', '/machines/[id]/sheet/gauges', '/healthz', '/readyz', '/metrics']);
const waitsInLine = (request: Request, route: string | null) =>
  SAFE.has(request.method) && route !== null && !LASTS.has(route);

let tidied = 0;
function tidyNowAndThen(): void {
  const now = Date.now();
  if (now - tidied < 3_600_000) return;
  tidied = now;
  forgetOldSessions().catch((error: Error) =>
    log.warn({ reason: error.message }, 'old sessions could not be removed'),
  );
}

const FIRST_FONTS = /-latin-(400|600|wght)-normal\.[^/]*\.woff2$/;

/** What takes longer is written to the log, milliseconds. */
const SLOW = 1000;

export const handle: Handle = ({ event, resolve }) =>
  answering(
    idOf(event.request.headers.get('x-request-id')),
    typedAgo(event.request.headers.get('x-typed-ago')),
    async (asked) => {
      const began = performance.now();
      event.locals.request = asked.id;
      const response = await answer({ event, resolve });
      response.headers.set('x-request-id', asked.id);
      const took = performance.now() - began;
      answered(event.request.method, event.route.id, response.status, took);
      if (took > SLOW && !LASTS.has(event.route.id ?? ''))
        log.warn(
          {
            path: event.url.pathname,
            route: event.route.id,
            took: Math.round(took),
            statements: asked.statements,
            sql: Math.round(asked.sql),
          },
          'slow',
        );
      return response;
    },
  );

const answer: Handle = async ({ event, resolve }) => {
  const { request, route, url, cookies } = event;
  event.locals.theme =
    (['tin', 'tin-night'] as const).find((name) => name === cookies.get('tin-theme')) ?? null;
  event.locals.person = null;
  [event.locals.told, event.locals.line] = [toldUpTo(), toldOnLine()];
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
    const trouble = troubleOf(error);
    if (trouble) return later(request, trouble);
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
      if (!may(person.role, needed)) {
        if (!SAFE.has(request.method))
          noteRefusal(event, `${ACT_WORDS[needed]}, at ${url.pathname.slice(0, 200)}`);
        return refuse(
          person,
          `This is for the ${rolesFor(needed)
            .map((role) => ROLE_WORDS[role])
            .join(', ')}.`,
        );
      }
    }
  }
  tidyNowAndThen();
  const make = async () =>
    resolve(event, {
      // words do not move when their letters come: those that every page is set in are asked for with it
      preload: ({ type, path }) => type === 'js' || type === 'css' || FIRST_FONTS.test(path),
      transformPageChunk: ({ html }) =>
        html.replace('%tin.theme%', event.locals.theme ? `data-theme="${event.locals.theme}"` : ''),
    });
  const response = await (
    waitsInLine(request, route.id) ? pages.through(make, request.signal) : make()
  ).catch((error: unknown) => {
    if (error instanceof Busy) return later(request, 'busy');
    throw error;
  });
  // the data of a page come with status 200 and the fault inside: the page that is open waits for an answer that says so
  const { trouble } = event.locals;
  if (trouble && (response.status === 500 || event.isDataRequest)) return later(request, trouble);
  for (const [name, value] of Object.entries(HEADERS))
    if (!response.headers.has(name)) response.headers.set(name, value);
  if (response.headers.get('content-type')?.includes('text/html')) {
    response.headers.set('cache-control', 'no-store');
    // a page that a tablet keeps is shown to the same person only
    if (event.locals.person) response.headers.set('x-made-for', String(event.locals.person.id));
  }
  return compressed(request, response);
};

/** What was refused lately, and when: the same again is written down once in a while. */
const refusals = new Map<string, number>();
const REFUSED_AGAIN = 600_000;

/** Writes down, for the lead, that somebody tried what their role does not allow. */
function noteRefusal({ locals, getClientAddress }: RequestEvent, what: string): void {
  const [now, key] = [Date.now(), `${locals.person!.id} ${what}`];
  for (const [old, at] of refusals) if (now - at > REFUSED_AGAIN) refusals.delete(old);
  if (refusals.has(key)) return;
  refusals.set(key, now);
  void refused({ personId: locals.person!.id, address: getClientAddress(), what }).catch((error: Error) =>
    log.warn({ reason: error.message }, 'a refusal could not be written down'),
  );
}

function refuse(person: { role: string } | null, message: string): Response {
  return Response.json({ message, role: person?.role ?? null }, { status: 403, headers: HEADERS });
}

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  const trouble = troubleOf(error);
  if (trouble) {
    event.locals.trouble = trouble;
    log.warn({ path: event.url.pathname, reason: (error as Error).message }, LATER[trouble].message);
    return {
      message: `${LATER[trouble].message} Nothing that was confirmed is lost; try again in a moment.`,
      code: trouble,
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
  const code = event.locals.request;
  log.error(
    {
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
