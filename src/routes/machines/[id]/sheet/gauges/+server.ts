import { hearGauges } from '$server/gauge-link';
import { SESSION_COOKIE } from '../../../../../hooks.server';
import { eventStream, STREAM } from '$server/event-stream';
import type { RequestHandler } from './$types';

/** What the bench gauges send, as it is sent. */
export const GET: RequestHandler = ({ cookies }) =>
  eventStream(cookies.get(SESSION_COOKIE), {
    hear: (send) => hearGauges((line) => send(JSON.stringify(line))),
  });

/** What the stream is, without it. */
export const HEAD: RequestHandler = () => new Response(null, { headers: STREAM });
