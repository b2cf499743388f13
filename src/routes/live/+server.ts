import { listen } from '$server/live';
import { personOf } from '$server/people';
import { SESSION_COOKIE } from '../../hooks.server';
import type { RequestHandler } from './$types';

const BEAT = 20_000;
const STREAM = {
  'content-type': 'text/event-stream',
  'cache-control': 'no-store',
  'x-accel-buffering': 'no',
};

/** Server-sent events: one line for every entry of the ledger. A page that does not read is left behind, not waited for. */
export const GET: RequestHandler = ({ cookies }) => {
  const token = cookies.get(SESSION_COOKIE);
  let stop = () => {};
  let beat: ReturnType<typeof setInterval> | undefined;
  const text = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const send = (line: string) => {
          if ((controller.desiredSize ?? 0) > 0) controller.enqueue(text.encode(line));
        };
        const over = () => {
          stop();
          clearInterval(beat);
          controller.close();
        };
        /** Whoever signed out, or may not sign in any more, hears nothing more. */
        const stillIn = async () => {
          const person = token ? await personOf(token).catch(() => undefined) : null;
          if (person === null) over();
        };
        stop = listen((message) => {
          if (message.includes('"kind":"session"')) return void stillIn();
          send(`data: ${message}\n\n`);
        });
        beat = setInterval(() => send(': here\n\n'), BEAT);
        send('retry: 1500\n\n');
      },
      cancel() {
        stop();
        clearInterval(beat);
      },
    },
    { highWaterMark: 64 },
  );
  return new Response(stream, { headers: STREAM });
};

/** What the stream is, without it. */
export const HEAD: RequestHandler = () => new Response(null, { headers: STREAM });
