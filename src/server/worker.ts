import { Worker } from 'node:worker_threads';
import { Refused } from './outcome.ts';
import type { Task, TASKS } from './work/tasks.ts';

/** Threads that work beside the requests' own; a task waits while all are busy. */
const THREADS = 2;
/** How long a task may take before its thread is ended, seconds. */
const PATIENCE = 20;

interface Waiting {
  task: Task;
  input: readonly unknown[];
  seconds: number;
  /** Under which it can be asked for, and stopped. */
  name: string | null;
  answer: (value: unknown) => void;
  fail: (error: Error) => void;
}

const idle: Worker[] = [];
let running = 0;
const queue: Waiting[] = [];
/** Tasks with a name: how much is done, from 0 to 1, and how each is stopped. */
const named = new Map<string, { done: number; stop: () => void }>();

/** How much of a named task is done, from 0 to 1; null: nothing of that name is worked on by this process. */
export const workDone = (name: string): number | null => named.get(name)?.done ?? null;

/** Stops a named task: whoever waits for it gets a refusal. False: there is none, it is over or has not begun. */
export function stopWork(name: string): boolean {
  const known = named.get(name);
  known?.stop();
  return known !== undefined;
}

/** The built worker beside the built server; its source where the server runs from source. */
function begun(): Worker {
  const here = import.meta.url;
  const at = here.lastIndexOf('/build/');
  const worker =
    at >= 0
      ? new Worker(new URL(`${here.slice(0, at)}/build/work/main.js`))
      : new Worker(
          `import('tsx/esm/api').then((tsx) => (tsx.register(), import(${JSON.stringify(new URL('./work/main.ts', here).href)})))`,
          { eval: true },
        );
  // a thread that waits for work keeps no process alive
  worker.unref();
  return worker;
}

/**
 * Works a task out in a thread of its own, so that no input holds other people's requests. Refuses with a sentence when it takes
 * longer than its patience.
 */
export function work<T extends Task>(
  task: T,
  input: Parameters<(typeof TASKS)[T]>,
  { seconds = PATIENCE, name = null }: { seconds?: number; name?: string | null } = {},
): Promise<Awaited<ReturnType<(typeof TASKS)[T]>>> {
  return new Promise((resolve, reject) => {
    queue.push({ task, input, seconds, name, answer: resolve as Waiting['answer'], fail: reject });
    next();
  });
}

function next(): void {
  if (running >= THREADS) return;
  const waiting = queue.shift();
  if (!waiting) return;
  running += 1;
  const worker = idle.pop() ?? begun();
  const over = (keep: boolean) => {
    clearTimeout(timer);
    if (waiting.name !== null) named.delete(waiting.name);
    worker.off('message', said);
    worker.off('error', fell);
    running -= 1;
    if (keep) idle.push(worker);
    else void worker.terminate();
    next();
  };
  const timer = setTimeout(() => {
    over(false);
    waiting.fail(new Refused('This took too long to work out and was stopped. Nothing was changed.'));
  }, waiting.seconds * 1000);
  const said = (answer: { ok: true; value: unknown } | { ok: false; error: string } | { done: number }) => {
    if ('done' in answer) {
      const known = waiting.name === null ? undefined : named.get(waiting.name);
      if (known) known.done = answer.done;
      return;
    }
    over(true);
    if (answer.ok) waiting.answer(answer.value);
    else waiting.fail(new Error(answer.error));
  };
  if (waiting.name !== null)
    named.set(waiting.name, {
      done: 0,
      stop: () => {
        over(false);
        waiting.fail(new Refused('It was stopped. Nothing was saved.'));
      },
    });
  const fell = (error: Error) => {
    over(false);
    waiting.fail(error);
  };
  worker.on('message', said);
  worker.on('error', fell);
  worker.postMessage({ task: waiting.task, input: waiting.input });
}
