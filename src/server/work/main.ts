// A worker thread: works out one task after the other and answers each.
import { parentPort } from 'node:worker_threads';
import { TASKS, type Task } from './tasks.ts';

parentPort!.on('message', ({ task, input }: { task: Task; input: unknown[] }) => {
  const work = TASKS[task] as (...args: unknown[]) => unknown;
  void (async () => work(...input))().then(
    (value) => parentPort!.postMessage({ ok: true, value }),
    (error: unknown) =>
      parentPort!.postMessage({ ok: false, error: error instanceof Error ? error.message : String(error) }),
  );
});
