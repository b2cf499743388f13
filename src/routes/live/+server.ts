import { pool } from '$server/db';
import { heardFrom, heardSoFar, listen, missedSince } from '$server/live';
import { SESSION_COOKIE } from '../../hooks.server';
import { eventStream, STREAM } from '$server/event-stream';
import type { RequestHandler } from './$types';

/** The last entry that a page knows of: of the stream that broke off, or of its own data. */
const knows = (request: Request, url: URL) =>
  heardFrom(request.headers.get('last-event-id') ?? url.searchParams.get('from'));

/** One line for every subject that something happened to, first for what a page missed. */
export const GET: RequestHandler = ({ cookies, request, url }) => {
  const from = knows(request, url);
  return eventStream(cookies.get(SESSION_COOKIE), {
    hear: (send) =>
      listen((message) => {
        if (!message.includes('"kind":"session"')) send(message);
      }),
    missed: () => missedSince(pool(), from),
    upTo: heardSoFar,
  });
};

/** What the stream is, without it. */
export const HEAD: RequestHandler = () => new Response(null, { headers: STREAM });
