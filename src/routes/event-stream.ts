import { listen } from '$server/live';
import { personOf } from '$server/people';

const BEAT = 20_000;
export const STREAM = {
  'content-type': 'text/event-stream',
  'cache-control': 'no-store',
  'x-accel-buffering': 'no',
};

/**
 * Server-sent events for as long as whoever asked is signed in: `hear` is given what to send with, and answers with how to stop. A page
 * that does not read is left behind, not waited for.
 */
export function eventStream(
  token: string | undefined,
  hear: (send: (data: string) => void) => () => void,
): Response {
  let stop = () => {};
  const text = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        let stopped = false;
        const send = (line: string) => {
          if ((controller.desiredSize ?? 0) > 0) controller.enqueue(text.encode(line));
        };
        /** Whoever signed out, or may not sign in any more, hears nothing more. */
        const stillIn = async () => {
          const person = token ? await personOf(token).catch(() => undefined) : null;
          if (person !== null || stopped) return;
          stop();
          controller.close();
        };
        const away = listen((message) => {
          if (message.includes('"kind":"session"')) void stillIn();
        });
        const quiet = hear((data) => send(`data: ${data}\n\n`));
        const beat = setInterval(() => send(': here\n\n'), BEAT);
        stop = () => {
          if (stopped) return;
          stopped = true;
          away();
          quiet();
          clearInterval(beat);
        };
        send('retry: 1500\n\n');
      },
      cancel: () => stop(),
    },
    { highWaterMark: 64 },
  );
  return new Response(stream, { headers: STREAM });
}
