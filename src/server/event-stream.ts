import { listen } from './live.ts';
import { personOf } from './people.ts';

/** How often a stream shows that it lives, and how often it says up to where it has told all, milliseconds. */
const [BEAT, MARK] = [20_000, 5000];
export const STREAM = {
  'content-type': 'text/event-stream',
  'cache-control': 'no-store',
  'x-accel-buffering': 'no',
};
const BACK = '{"kind":"back"}';

/** What a stream tells. */
interface Told {
  /** Is given what to send with, and answers with how to stop. */
  hear: (send: (data: string) => void) => () => void;
  /** What was told before it began and whoever listens has not heard. */
  missed?: () => Promise<string[]>;
  /** Up to where all was told, empty where that is not known: whoever comes again says it. */
  upTo?: () => string;
}

/**
 * Server-sent events for as long as whoever asked is signed in. A page that does not read is left behind, not waited for, and told so when it
 * reads again.
 */
export function eventStream(token: string | undefined, { hear, missed, upTo }: Told): Response {
  let stop = () => {};
  let caughtUp = () => {};
  const text = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        let [stopped, behind, whole, marked] = [false, false, missed === undefined, ''];
        const send = (line: string) => {
          if (stopped) return;
          if ((controller.desiredSize ?? 0) > 0) controller.enqueue(text.encode(line));
          else behind = true;
        };
        const data = (line: string) => send(`data: ${line}\n\n`);
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
        const quiet = hear(data);
        const mark = () => {
          const all = upTo?.() ?? '';
          if (!whole || behind || all === marked) return;
          marked = all;
          send(`id: ${all}\n\n`);
        };
        const timers = [setInterval(() => send(': here\n\n'), BEAT), setInterval(mark, MARK)];
        stop = () => {
          if (stopped) return;
          stopped = true;
          away();
          quiet();
          timers.forEach(clearInterval);
        };
        caughtUp = () => {
          if (!behind || missed === undefined) return;
          behind = false;
          data(BACK);
        };
        send('retry: 1500\n\n');
        // heard from now on, so that nothing falls between the two
        missed?.()
          .catch(() => [BACK])
          .then((lines) => {
            lines.forEach(data);
            whole = true;
            mark();
          });
      },
      pull: () => caughtUp(),
      cancel: () => stop(),
    },
    { highWaterMark: 256 },
  );
  return new Response(stream, { headers: STREAM });
}
