import { listen } from '$server/live';
import { SESSION_COOKIE } from '../../hooks.server';
import { eventStream, STREAM } from '../event-stream';
import type { RequestHandler } from './$types';

/** One line for every entry of the ledger. */
export const GET: RequestHandler = ({ cookies }) =>
  eventStream(cookies.get(SESSION_COOKIE), (send) =>
    listen((message) => {
      if (!message.includes('"kind":"session"')) send(message);
    }),
  );

/** What the stream is, without it. */
export const HEAD: RequestHandler = () => new Response(null, { headers: STREAM });
