import { wholeParts } from '../core/shift/likely-made.ts';
import { mostUrgent } from '../core/shift/run-out.ts';
import { looseAssembliesToMeasure } from './assemblies.ts';
import type { Cell } from './cell.ts';
import { belowMinimum } from './components.ts';
import { strayCorrections } from './corrections.ts';
import { rows, type Db } from './db.ts';
import { forEach } from './gather.ts';
import { isWaiting, jobsOf, openJobs, type Job } from './jobs.ts';
import { forecast, lackedTools } from './forecast.ts';
import { lackedByJobs, unmeasured } from './tools-of-jobs.ts';
import { likelyOf } from './likely-made.ts';
import { machines } from './machines.ts';
import { nextOnJob } from './now.ts';
import { featuresOf, programById } from './programs.ts';
import { heldBack } from './quarantine.ts';
import { readinessOf } from './readiness.ts';
import { openRenewals } from './renewals.ts';

const DAY = 86_400_000;

/** Load plans that are open, with the machine and how much of them was ticked. */
const openPlans = (db: Db) =>
  rows<{ machineId: number; machine: string; madeBy: string; ticked: number }>(
    db,
    `SELECT m.id AS "machineId", m.name AS machine, p.name AS "madeBy",
            (SELECT count(*)::integer FROM load_tick t WHERE t.plan_id = l.id AND t.outcome = 'done') AS ticked
     FROM load_plan l JOIN machine m ON m.id = l.machine_id JOIN person p ON p.id = l.made_by WHERE l.closed_at IS NULL ORDER BY m.name`,
  );

/** What a job that waits lacks in tools; null: nothing. */
async function lackedBy(db: Db, job: Job | undefined) {
  const program = job && (await programById(db, job.programId));
  if (!job || !program) return null;
  const tools = lackedTools(await readinessOf(db, program, job.quantity - job.made, []));
  if (tools.length === 0) return null;
  const { machineId, machine, id: programId, number, title } = program;
  return { machineId, machine, programId, program: `${number} ${title}`, tools };
}
/** What the next job of a machine lacks. */
export const lackedNext = async (db: Db, machineId: number) =>
  lackedBy(db, (await jobsOf(db, machineId)).find(isWaiting));
/** What the next job of each machine lacks. */
export async function lacking(db: Db) {
  const waiting = (await openJobs(db)).filter(isWaiting);
  const next = waiting.filter(
    (job, i) => waiting.findIndex(({ machineId }) => machineId === job.machineId) === i,
  );
  return (await forEach(db, next, (job) => lackedBy(db, job))).filter((each) => each !== null);
}

/** What to measure next on each machine that runs. */
async function readingsNext(db: Db, cell: Cell, now: Date) {
  const running = (await openJobs(db)).filter((job) => job.state === 'running');
  return Promise.all(
    running.map(async (job) => {
      const program = (await programById(db, job.programId))!;
      const likely = await likelyOf(db, cell, job, now);
      const [features, order] = await Promise.all([
        featuresOf(db, job.machineId, program.number),
        nextOnJob(db, program, { id: job.id, made: wholeParts(likely) }, now, cell),
      ]);
      return {
        machineId: job.machineId,
        machine: program.machine,
        program: `${program.number} ${program.title}`,
        made: job.made,
        features: order.map((each) => ({
          ...each,
          name: features.find((feature) => feature.id === each.id)!.name,
        })),
      };
    }),
  );
}

/** The work of the cell by trade: what to build, load, measure, issue and read, as things stand now. */
export async function workNow(db: Db, cell: Cell, now: Date) {
  const [ahead, plans, toMeasure, lacking, loose, short, renewals, readings, stray, all, held] =
    await Promise.all([
      forecast(db, cell, now),
      openPlans(db),
      unmeasured(db),
      lackedByJobs(db),
      looseAssembliesToMeasure(db),
      belowMinimum(db),
      openRenewals(db),
      readingsNext(db, cell, now),
      strayCorrections(db, new Date(now.getTime() - 2 * DAY)),
      machines(db),
      heldBack(db),
    ]);
  const runningOut = ahead
    .flatMap((each) =>
      each.runsOut.map((tool) => ({ machineId: each.machineId, machine: each.machine, ...tool })),
    )
    .sort(mostUrgent);
  return {
    /** Tools that run out with no sister on the rack, soonest first. */
    build: runningOut.filter((tool) => tool.sister === null),
    /** Sisters that may go in before their tool runs out. */
    swap: runningOut.filter((tool) => tool.sister !== null),
    plans,
    /** What the next job of each machine lacks: not in the machine, broken, or not what it asks for. */
    missing: ahead.flatMap(({ machineId, machine, next }) =>
      next && next.lacks.length > 0
        ? [
            {
              machineId,
              machine,
              programId: next.programId,
              program: `${next.number} ${next.title}`,
              tools: next.lacks,
            },
          ]
        : [],
    ),
    toMeasure,
    /** What a job that was begun lacks. */
    lacking,
    loose: loose.map(({ id, number, name }) => ({ id, number, name })),
    short: short.map(({ number, name, stock, minimum, shelf }) => ({ number, name, stock, minimum, shelf })),
    renewals,
    held,
    readings,
    stray: stray.map(({ id, machine, feature, tookWords }) => ({ id, machine, feature, tookWords })),
    machines: all.map(({ id, name, words }) => ({ id, name, words })),
  };
}
