import { hearGauges } from '$server/gauge-link';
import type { RequestHandler } from './$types';

const BEAT = 20_000;

/** What the bench gauges send, as it is sent. */
export const GET: RequestHandler = () => {
  let stop = () => {};
  let beat: ReturnType<typeof setInterval> | undefined;
  const text = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const send = (line: string) => {
          if ((controller.desiredSize ?? 0) > 0) controller.enqueue(text.encode(line));
        };
        stop = hearGauges((line) => send(`data: ${JSON.stringify(line)}\n\n`));
        beat = setInterval(() => send(': here\n\n'), BEAT);
        send('retry: 3000\n\n');
      },
      cancel() {
        stop();
        clearInterval(beat);
      },
    },
    { highWaterMark: 64 },
  );
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  });
};
