import { listen } from '$server/live';
import type { RequestHandler } from './$types';

const BEAT = 20_000;

/** Server-sent events: one line for every entry of the ledger. A page that does not read is left behind, not waited for. */
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
        stop = listen((message) => send(`data: ${message}\n\n`));
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
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  });
};
