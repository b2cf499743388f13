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
  answer: (value: unknown) => void;
  fail: (error: Error) => void;
}

const idle: Worker[] = [];
let running = 0;
const queue: Waiting[] = [];

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
  seconds = PATIENCE,
): Promise<ReturnType<(typeof TASKS)[T]>> {
  return new Promise((resolve, reject) => {
    queue.push({ task, input, seconds, answer: resolve as Waiting['answer'], fail: reject });
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
  const said = (answer: { ok: true; value: unknown } | { ok: false; error: string }) => {
    over(true);
    if (answer.ok) waiting.answer(answer.value);
    else waiting.fail(new Error(answer.error));
  };
  const fell = (error: Error) => {
    over(false);
    waiting.fail(error);
  };
  worker.on('message', said);
  worker.on('error', fell);
  worker.postMessage({ task: waiting.task, input: waiting.input });
}
