// A worker thread: works out one task after the other and answers each.
import { parentPort } from 'node:worker_threads';
import { TASKS, type Task } from './tasks.ts';

parentPort!.on('message', ({ task, input }: { task: Task; input: unknown[] }) => {
  try {
    const work = TASKS[task] as (...args: unknown[]) => unknown;
    parentPort!.postMessage({ ok: true, value: work(...input) });
  } catch (error) {
    parentPort!.postMessage({ ok: false, error: error instanceof Error ? error.message : String(error) });
  }
});
