import { controlCounts, madeByNow } from '../core/shift/job.ts';
import type { CutByNow, Making } from '../core/shift/likely-made.ts';
import { cellOf } from './cell.ts';
import { cellNow } from './clock.ts';
import { controlCount } from './control-link.ts';
import { askAboutCount } from './count-looks.ts';
import { countParts } from './counts.ts';
import { cutUntil } from './cut-until.ts';
import type { Db } from './db.ts';
import { groupsOf } from './groups.ts';
import { lockJob, runningJob, type Job } from './jobs.ts';
import { likelyOf } from './likely-made.ts';
import type { Machine } from './machines.ts';
import { Refused } from './outcome.ts';
import { callsOf } from './programs.ts';

/** What a machine's control shows on its counter, asked just now; null: it has none, or does not answer. */
async function countAsked(machine: Machine): Promise<number | null> {
  const control = await controlCount(machine);
  return control?.ok ? control.count : null;
}

/** How many parts of a job are likely to be made by now, where its control, asked just now, does not say it; null: it does. */
export const reckoned = async (db: Db, job: Job, count: number | null) =>
  controlCounts(job, count) ? null : likelyOf(db, await cellOf(db), job, cellNow());

/** The job that runs on a machine, the last of its parts that is counted, by its control as well, or measured, and how many are likely to be made by now. */
export async function cutByNow(db: Db, machine: Machine): Promise<(CutByNow & { made: number }) | null> {
  const job = await runningJob(db, machine.id);
  const until = job && (await cutUntil(db, machine.id, job.id));
  if (!until) return null;
  const count = await countAsked(machine);
  const made = madeByNow(job, count);
  return {
    id: job.id,
    made,
    cut: Math.max(until.cut, made),
    likely: await reckoned(db, job, count),
  };
}

/** The job that runs on a machine, with every T that cuts on it: called by itself, or as a member of a group. */
export async function cutting(
  db: Db,
  machineId: number,
): Promise<{ job: Job; tools: ReadonlySet<number> } | null> {
  const job = await runningJob(db, machineId);
  if (!job) return null;
  const tools = new Set((await callsOf(db, job.programId)).map((call) => call.tool));
  for (const { number, members } of await groupsOf(db, machineId))
    if (tools.has(number)) for (const { tool } of members) tools.add(tool);
  return { job, tools };
}

/** What is cut on a machine, with what the record and the control have counted of it, and how many are likely to be made; null: no job runs. */
export async function makingNow(db: Db, machine: Machine): Promise<(Making & { tools: number[] }) | null> {
  const running = await cutting(db, machine.id);
  if (!running) return null;
  const { job, tools } = running;
  const count = await countAsked(machine);
  return {
    id: job.id,
    number: job.number,
    made: job.made,
    cut: madeByNow(job, count),
    likely: await reckoned(db, job, count),
    tools: [...tools],
  };
}

/** The running job that a loaded tool cuts on. */
export async function cutsOn(
  db: Db,
  { machineId, tool }: { machineId: number | null; tool: number | null },
): Promise<Job | null> {
  const running = machineId === null ? null : await cutting(db, machineId);
  return running?.tools.has(tool!) ? running.job : null;
}

export interface MadeUntilNow {
  /** Parts of the running job made by then, by whoever stands there; null or undefined: as recorded. What is counted later was cut by another. */
  made?: number | null;
  /** The number that was asked about, and is right. */
  sure?: number | null;
}

/** Counts what was made and not recorded yet, up to what somebody who stands at the machine says; whether there was anything. */
export async function countUpTo(
  db: Db,
  personId: number,
  { id }: Pick<Job, 'id'>,
  { made, sure }: MadeUntilNow,
  source: string,
): Promise<boolean> {
  if (typeof made !== 'number') return false;
  const job = await lockJob(db, id);
  const parts = made - job.made;
  if (parts < 0)
    throw new Refused(
      `${job.number} stands at ${job.made} parts on record, and ${made} was typed. Look again, or take the last count back first.`,
    );
  if (parts > 0 && made > job.quantity)
    throw new Refused(
      `${made} are more than the ${job.quantity} of ${job.number}: record them on the page of the machine first.`,
    );
  if (parts > 0 && made !== sure) await askAboutCount(db, job, parts, 'all');
  if (parts > 0) await countParts(db, personId, { jobId: job.id, before: job.made, parts, source });
  return parts > 0;
}
