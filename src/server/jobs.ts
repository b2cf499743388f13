import { minutesAndSeconds } from '../core/shift/clock.ts';
import { asksWhy, movedJob, perPart, type JobMove, type JobState } from '../core/shift/job.ts';
import type { RunningJob, RunningTool } from '../core/shift/run-out.ts';
import { verdictOf } from '../core/readiness/check.ts';
import { controlCount } from './control-link.ts';
import { cutUntil, type FirstPart } from './cut-until.ts';
import { pool, row, rows, type Db } from './db.ts';
import { perhapsCut } from './likely-made.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { lockMachine, machineById } from './machines.ts';
import { heldProgram, programById } from './programs.ts';
import { readinessOf } from './readiness.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askIfDoubled } from './told-meanwhile.ts';

export interface Job {
  id: number;
  machineId: number;
  machine: string;
  programId: number;
  number: string;
  title: string;
  quantity: number;
  made: number;
  /** Of those made: cut, and scrap. */
  scrapped: number;
  cycleMilliseconds: number;
  partsPerCycle: number;
  /** How long a cycle takes as it was counted lately, milliseconds; null: too little was counted to say. */
  pace: number | null;
  state: JobState;
  /** Why it was paused, stopped short or taken off the list. */
  why: string;
  /** What the control's counter showed when it was started, less what was made by then; null: nobody asked it. */
  countFrom: number | null;
}

const JOB = `SELECT j.id, j.machine_id AS "machineId", m.name AS machine, j.program_id AS "programId", g.number, g.title, j.quantity,
    j.made, j.scrapped, j.cycle_milliseconds AS "cycleMilliseconds", g.parts_per_cycle AS "partsPerCycle", j.pace_milliseconds AS pace, j.state, j.why, j.count_from AS "countFrom"
  FROM job j JOIN machine m ON m.id = j.machine_id JOIN program g ON g.id = j.program_id`;
const OPEN = `j.state NOT IN ('done', 'removed')`;

/** Jobs that are not over: of each machine the running one first, then as its list stands. */
export const openJobs = (db: Db) =>
  rows<Job>(db, `${JOB} WHERE ${OPEN} ORDER BY m.name, j.state <> 'running', j.place`);
export const jobsOf = (db: Db, machineId: number) =>
  rows<Job>(db, `${JOB} WHERE j.machine_id = $1 AND ${OPEN} ORDER BY j.state <> 'running', j.place`, [
    machineId,
  ]);
export const runningJob = (db: Db, machineId: number) =>
  row<Job>(db, `${JOB} WHERE j.machine_id = $1 AND j.state = 'running'`, [machineId]);
const jobById = (db: Db, id: number) => row<Job>(db, `${JOB} WHERE j.id = $1`, [id]);

/** Jobs of its machine that are made before a program's own: those ahead of its job on the list; where it has none, what runs. */
export async function jobsAhead(
  db: Db,
  { machineId, number }: { machineId: number; number: string },
): Promise<Job[]> {
  const list = await jobsOf(db, machineId);
  const own = list.findIndex((job) => job.number === number);
  return own === -1 ? list.filter(({ state }) => state === 'running') : list.slice(0, own);
}

/** Whether a job is still to be begun or to be taken up again. */
export const isWaiting = (job: Pick<Job, 'state'>) => job.state === 'waiting' || job.state === 'paused';

/** A job with its machine's list held: nobody else starts, moves or ends one of that machine meanwhile. */
export async function lockJob(db: Db, id: number): Promise<Job> {
  const job = await jobById(db, id);
  if (!job) throw new Refused('There is no such job.');
  await lockMachine(db, job.machineId);
  return (await jobById(db, id))!;
}

export const ofJob = (job: Job, personId: number) => ({
  personId,
  machineId: job.machineId,
  programId: job.programId,
  jobId: job.id,
});

export interface NewJob {
  programId: number;
  quantity: number;
  cycleMilliseconds: number;
}

/** Puts a job at the end of a machine's list. The cycle time is from part to part of the whole cycle. */
export const addJob = (asking: Asking, fresh: NewJob) =>
  once(asking, 'addJob', fresh, async (db) => {
    const program = await heldProgram(db, fresh.programId);
    await askIfDoubled(db, asking, ['program', 'job', { programId: program.id }], 'Another job');
    return insertJob(db, asking.personId, fresh);
  });

export async function insertJob(db: Db, personId: number, fresh: NewJob): Promise<number> {
  const program = await row<{ machineId: number; number: string; title: string }>(
    db,
    'SELECT machine_id AS "machineId", number, title FROM program WHERE id = $1',
    [fresh.programId],
  );
  if (!program) throw new Refused('There is no such program.');
  await lockMachine(db, program.machineId);
  const { id } = (await row<{ id: number }>(
    db,
    `INSERT INTO job (machine_id, program_id, quantity, cycle_milliseconds, state, place)
     VALUES ($1, $2, $3, $4, 'waiting', (SELECT coalesce(max(place), 0) + 1 FROM job WHERE machine_id = $1)) RETURNING id`,
    [program.machineId, fresh.programId, fresh.quantity, fresh.cycleMilliseconds],
  ))!;
  await append(
    db,
    entry.program('job', {
      personId,
      machineId: program.machineId,
      programId: fresh.programId,
      jobId: id,
      said: `A job of ${fresh.quantity} of ${program.number} ${program.title} was put on the list.`,
    }),
  );
  return id;
}

/** The cycle time each program of a machine ran with last. */
export const lastCycles = (db: Db, machineId: number) =>
  rows<{ number: string; cycleMilliseconds: number }>(
    db,
    `SELECT DISTINCT ON (g.number) g.number, j.cycle_milliseconds AS "cycleMilliseconds"
     FROM job j JOIN program g ON g.id = j.program_id WHERE j.machine_id = $1 ORDER BY g.number, j.id DESC`,
    [machineId],
  );

export interface Moving {
  jobId: number;
  move: JobMove;
  why?: string;
}

/** Starts, pauses, finishes or takes a job off the list. One job runs on a machine at a time. What is not ready is started with a reason. */
export async function moveJob(asking: Asking, moving: Moving) {
  // asked before anything is held: a control that is slow holds nobody up
  const count = moving.move === 'start' ? await countAtStart(moving.jobId) : null;
  return once(asking, 'moveJob', moving, async (db) => {
    if (moving.move === 'start') await mayStart(db, moving);
    await setJobState(db, asking.personId, moving);
    if (moving.move === 'start')
      await db.query('UPDATE job SET count_from = $2::integer - made WHERE id = $1', [moving.jobId, count]);
  });
}

async function countAtStart(jobId: number): Promise<number | null> {
  const job = await jobById(pool(), jobId);
  const machine = job && (await machineById(pool(), job.machineId));
  const said = machine ? await controlCount(machine) : null;
  return said?.ok ? said.count : null;
}

/** Refuses what is not ready, or of which it cannot be told, unless somebody says why it is started all the same. */
async function mayStart(db: Db, { jobId, why = '' }: Moving): Promise<void> {
  const job = await lockJob(db, jobId);
  if (!isWaiting(job) || why.trim() !== '' || (await runningJob(db, job.machineId))) return;
  const program = (await programById(db, job.programId))!;
  const findings = await readinessOf(db, program, Math.max(1, job.quantity - job.made), []);
  const verdict = verdictOf(findings);
  if (verdict !== 'stop' && verdict !== 'unknown') return;
  const against = findings.filter(({ weight }) => weight === verdict);
  const more = against.length > 1 ? ` And ${against.length - 1} more.` : '';
  throw new Refused(
    `${job.number} ${verdict === 'stop' ? 'is not ready' : 'cannot be told to be ready'}: ${against[0]!.sentence}${more} Say why it is started all the same, below.`,
  );
}

export async function setJobState(db: Db, personId: number, { jobId, move, why = '' }: Moving) {
  const job = await lockJob(db, jobId);
  const moved = movedJob(job, move, await runningJob(db, job.machineId), why);
  if (!moved.ok) throw new Refused(moved.reason);
  await db.query(
    `UPDATE job SET state = $2, why = $3, set_up_at = CASE WHEN $2 = 'running' THEN coalesce(set_up_at, tin_now()) ELSE set_up_at END WHERE id = $1`,
    [jobId, moved.to, why],
  );
  const short = asksWhy(job, move);
  const said = {
    start: job.state === 'paused' ? 'was taken up again' : 'was started',
    pause: `was paused at ${job.made} of ${job.quantity}`,
    finish: `was ${short ? 'stopped' : 'finished'} at ${job.made} of ${job.quantity}`,
    remove: 'was taken off the list',
  }[move];
  const stage = {
    start: job.state === 'paused' ? 'taken up' : 'started',
    pause: 'paused',
    finish: short ? 'stopped' : 'finished',
    remove: 'removed',
  } as const;
  await append(
    db,
    entry.program(stage[move], {
      ...ofJob(job, personId),
      said: `${job.number} ${job.title} ${said} on ${job.machine}.`,
      why: why === '' ? undefined : why,
    }),
  );
}

/** Somebody changed what the job's parts stand on while it runs: a work offset, jaws, a fixture. What was measured before says nothing of the parts to come. */
export const setUpAgain = (
  asking: Asking,
  told: { jobId: number; why: string; first?: FirstPart; until?: number | null },
) =>
  once(asking, 'setUpAgain', told, async (db) => {
    const { jobId, why, first = 'next', until } = told;
    const job = await lockJob(db, jobId);
    if (job.state !== 'running')
      throw new Refused('This job is not running: it is set up anew when it is taken up.');
    await askIfDoubled(db, asking, ['program', 'set up', { jobId }], 'Set up once more');
    const cut = (await cutUntil(db, job.machineId, jobId))!;
    // surely before: the last that was measured; perhaps: the one that is in the machine now
    const between =
      first === 'next'
        ? null
        : first === 'unsure'
          ? { low: cut.measured, high: await perhapsCut(db, cut, until ?? null) }
          : { low: first - 1, high: first - 1 };
    await append(
      db,
      entry.program('set up', {
        ...ofJob(job, asking.personId),
        said: `${job.number} ${job.title} was set up anew on ${job.machine}.`,
        why,
        ...(between ? { detail: { keyed: { of: String(jobId), ...between } } } : {}),
      }),
    );
  });

/** Moves a job one up in its machine's list, ahead of the one that the page showed before it. */
export const moveAhead = (asking: Asking, wish: { jobId: number; of: number }) =>
  once(asking, 'moveAhead', wish, async (db) => {
    const job = await lockJob(db, wish.jobId);
    const list = (await jobsOf(db, job.machineId)).filter(isWaiting);
    const at = list.findIndex((each) => each.id === job.id);
    const before = list[at - 1];
    if (before?.id !== wish.of) throw new Refused('The list has changed meanwhile. Look again.');
    await db.query(
      'UPDATE job SET place = (SELECT o.place FROM job o WHERE o.id = CASE WHEN job.id = $1 THEN $2::integer ELSE $1::integer END) WHERE id IN ($1, $2)',
      [job.id, before.id],
    );
    await append(
      db,
      entry.program('reordered', {
        ...ofJob(job, asking.personId),
        said: `${job.number} ${job.title} was moved ahead of ${before.number} ${before.title}.`,
      }),
    );
  });

export interface JobChange {
  jobId: number;
  quantity: number;
  cycleMilliseconds: number;
  /** What the page showed. */
  shown: { quantity: number; cycleMilliseconds: number };
}

/** Another quantity or cycle time for a job that is not over. */
export const changeJob = (asking: Asking, change: JobChange) =>
  once(asking, 'changeJob', change, async (db) => {
    const job = await lockJob(db, change.jobId);
    if (job.state === 'done' || job.state === 'removed')
      throw new Refused(`${job.number} is over. Look again.`);
    if (job.quantity !== change.shown.quantity || job.cycleMilliseconds !== change.shown.cycleMilliseconds)
      throw new Refused(
        `Somebody else changed it meanwhile: ${job.quantity} parts at ${minutesAndSeconds(job.cycleMilliseconds)}. Look again.`,
      );
    if (change.quantity < Math.max(1, job.made))
      throw new Refused(`${job.made} of them are made already: the quantity cannot be below that.`);
    const words = [
      change.quantity === job.quantity ? [] : [`${job.quantity} → ${change.quantity} parts`],
      change.cycleMilliseconds === job.cycleMilliseconds
        ? []
        : [
            `cycle ${minutesAndSeconds(job.cycleMilliseconds)} → ${minutesAndSeconds(change.cycleMilliseconds)}`,
          ],
    ].flat();
    if (words.length === 0) return;
    await db.query('UPDATE job SET quantity = $2, cycle_milliseconds = $3 WHERE id = $1', [
      job.id,
      change.quantity,
      change.cycleMilliseconds,
    ]);
    await append(
      db,
      entry.program('job changed', {
        ...ofJob(job, asking.personId),
        said: `The job of ${job.number} ${job.title}: ${words.join(', ')}.`,
      }),
    );
  });

/** A job as the forecast wants it, with how many of its parts are made by now. */
export const asRunning = (job: Job, tools: readonly RunningTool[], likely: number): RunningJob => ({
  machine: job.machine,
  partsToGo: Math.max(0, job.quantity - job.made),
  unrecorded: likely - job.made,
  cycleMilliseconds: perPart(job),
  tools,
});
