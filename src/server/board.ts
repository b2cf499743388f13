import { boardOf, worstFirst, type BoardMachine, type ListedJob } from '../core/readiness/board.ts';
import { cellOf } from './cell.ts';
import { cellNow } from './clock.ts';
import type { Db } from './db.ts';
import { forEach } from './gather.ts';
import { isWaiting, openJobs, type Job } from './jobs.ts';
import { likelyOf } from './likely-made.ts';
import { machines } from './machines.ts';
import { programById } from './programs.ts';
import { readinessOf } from './readiness.ts';

/** Jobs of a machine's list that are looked at: who looks further ahead opens its list. */
const NEXT = 3;

const listed = ({ id, ...job }: Job): ListedJob => ({ jobId: id, ...job });

/** The next jobs of every machine: ready, or what is missing. */
export async function board(db: Db): Promise<BoardMachine[]> {
  const [cell, jobs] = [await cellOf(db), await openJobs(db)];
  const found = await forEach(db, await machines(db), async ({ id, name }): Promise<BoardMachine> => {
    const own = jobs.filter(({ machineId }) => machineId === id);
    const waiting = own.filter(isWaiting);
    const next = await forEach(db, waiting.slice(0, NEXT), async (job) => {
      const program = (await programById(db, job.programId))!;
      const left = Math.max(1, job.quantity - job.made);
      return {
        ...listed(job),
        findings: await readinessOf(db, program, left, own.slice(0, own.indexOf(job))),
      };
    });
    const running = own.find(({ state }) => state === 'running');
    const likely = running && (await likelyOf(db, cell, running, cellNow())).parts;
    return boardOf(
      { machineId: id, machine: name },
      running ? { ...listed(running), likely: likely! } : null,
      next,
      Math.max(0, waiting.length - NEXT),
    );
  });
  return worstFirst(found);
}
