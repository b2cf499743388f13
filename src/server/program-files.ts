import type { FileIssue } from '../core/formats/csv-table.ts';
import { PLAN_HEADING, planCells, readPlanFile, type PlannedFeature } from '../core/formats/plan-file.ts';
import {
  lookAtReadings,
  readReadings,
  type KnownReading,
  type LookedReading,
} from '../core/formats/readings-file.ts';
import type { LengthUnit } from '../core/units/length.ts';
import { planDoubts, planFaults, planLook, type PlannedSize } from '../core/inspection/plan-check.ts';
import { cycleOf, placeDoubts } from './cycle-places.ts';
import { partDoubts } from './wrong-readings.ts';
import { cellNow } from './clock.ts';
import { forEach } from './gather.ts';
import { rows, type Db } from './db.ts';
import { runningJob } from './jobs.ts';
import { lockMachine, machineById } from './machines.ts';
import { once, type Asking } from './once.ts';
import { attempt, Refused, type Outcome } from './outcome.ts';
import { callsOf, featuresOf, programById, type Program } from './programs.ts';
import { takeOne } from './readings.ts';
import { jobsSince } from './set-ups.ts';

/** A file that belongs to a program. */
export interface OfProgram {
  programId: number | null;
  text: string;
}

/** What is wrong with a file, by line and column; no more than somebody reads. */
export const listed = (issues: readonly FileIssue[]) =>
  issues
    .slice(0, 8)
    .map(
      ({ line, column, message }) =>
        `${line > 0 ? `Line ${line}${column ? `, ${column}` : ''}: ` : column ? `${column}: ` : ''}${message}`,
    )
    .join('\n') + (issues.length > 8 ? `\n… and ${issues.length - 8} more.` : '');

async function programOf(db: Db, programId: number | null, what: string): Promise<Program> {
  const program = programId === null ? null : await programById(db, programId);
  if (!program) throw new Refused(`Choose the program that ${what}.`);
  return program;
}

/** Reads a measuring plan for a program: a refusal names every fault by line and column. */
export async function readPlan(db: Db, brought: OfProgram) {
  const program = await programOf(db, brought.programId, 'the measuring plan belongs to');
  const file = readPlanFile(brought.text, program.unit);
  if (!file.ok) throw new Refused(listed(file.issues));
  return { program, features: file.rows };
}

export interface PlanLook {
  programId: number;
  program: string;
  sizes: PlannedSize[];
  /** Why it would not be taken as it stands. */
  faults: string[];
  /** What looks wrong by the moves of the tools, and may be right. */
  doubts: string[];
}

/** What a measuring plan would add and change, and what of it does not go with the program; nothing is taken. */
export const lookAtPlan = (db: Db, brought: OfProgram): Promise<Outcome<PlanLook>> =>
  attempt(async () => {
    const { program, features } = await readPlan(db, brought);
    const [calls, known, machine] = await Promise.all([
      callsOf(db, program.id),
      featuresOf(db, program.machineId, program.number),
      machineById(db, program.machineId),
    ]);
    const cells = (each: PlannedFeature) => planCells(each, program.unit);
    return {
      programId: program.id,
      program: `${program.number} ${program.title}`,
      sizes: planLook(features.map(cells), known.map(cells), PLAN_HEADING),
      faults: planFaults(features, calls, machine!),
      doubts: planDoubts(features, calls).map(({ name, doubt }) => `"${name}": ${doubt}`),
    };
  });

/** Nobody else acts on the machine while a file of them is judged. */
const MOST_READINGS = 500;
const READINGS_OF = 'the readings are of';

/** A file of readings: `part` is the number of those that say none. */
export interface FileOfReadings extends OfProgram {
  part: number | null;
}

async function readingsIn(db: Db, { programId, text, part }: FileOfReadings) {
  const program = await programOf(db, programId, READINGS_OF);
  const file = readReadings(text, program.unit);
  if (!file.ok) throw new Refused(listed(file.issues));
  if (file.rows.length > MOST_READINGS)
    throw new Refused(
      `${file.rows.length} readings: bring in up to ${MOST_READINGS} at a time, each is judged for itself.`,
    );
  const features = await featuresOf(db, program.machineId, program.number);
  if (features.length === 0)
    throw new Refused(`${program.number} has no measuring plan: nothing is measured on it.`);
  const running = await runningJob(db, program.machineId);
  const job = running?.programId === program.id ? running : null;
  const known = await rows<KnownReading>(
    db,
    `SELECT f.name AS feature, r.part, r.measured AS value, r.job_id AS job FROM reading r JOIN feature f ON f.id = r.feature_id
     WHERE r.feature_id = ANY($1) AND (r.job_id IS NOT DISTINCT FROM $2 OR r.job_id = ANY($3))`,
    [
      features.map(({ id }) => id),
      job?.id ?? null,
      [...new Set(file.rows.flatMap((each) => (each.job === null ? [] : [each.job])))],
    ],
  );
  const jobs = await jobsSince(db, program);
  const looked = lookAtReadings(
    file.rows,
    features.map(({ name }) => name),
    known,
    part,
    {
      machine: program.machine,
      program: program.number,
      revision: program.revision,
      job: jobs.find(({ id }) => id === job?.id) ?? null,
      jobs: jobs.map(({ id }) => id),
    },
  );
  return { program, job, features, looked };
}

export interface ReadingsLook {
  programId: number;
  program: string;
  /** The job that they are taken for; null: none runs. */
  job: string | null;
  unit: LengthUnit;
  now: Date;
  readings: LookedReading[];
}

/** What a file of readings would add; nothing is taken. */
export const lookAtReadingsFile = (db: Db, brought: FileOfReadings): Promise<Outcome<ReadingsLook>> =>
  attempt(async () => {
    const { program, job, features, looked } = await readingsIn(db, brought);
    const doubts = await partDoubts(db, job?.id ?? null);
    const places = placeDoubts(db, await cycleOf(db, job?.id ?? null));
    const readings = await forEach(db, looked, async (each) => {
      const size = features.find(({ name }) => name === each.feature);
      if (each.verdict !== 'added' || each.part === null || !size) return each;
      const doubt = doubts(each.part) ?? (await places(size, each.part));
      return doubt === null ? each : { ...each, words: `${each.words} ${doubt}`.trim() };
    });
    return {
      programId: program.id,
      program: `${program.number} ${program.title}`,
      job: job && `${job.made} of ${job.quantity} parts made`,
      unit: program.unit,
      now: cellNow(),
      readings,
    };
  });

export interface TakenReadings {
  taken: number;
  same: number;
  /** What counted for nothing where it comes from. */
  left: number;
  /** What is to be measured again: kept, but counts for nothing. */
  again: string[];
  corrections: number[];
}

/** Takes a file of readings, all that is new in it or nothing, in its order; each is judged as if it had been typed. */
export const takeReadingsFile = (asking: Asking, brought: FileOfReadings) =>
  once(asking, 'takeReadingsFile', brought, async (db): Promise<TakenReadings> => {
    // whoever brings the same file at once finds these readings taken
    await lockMachine(db, (await programOf(db, brought.programId, READINGS_OF)).machineId);
    const { program, job, features, looked } = await readingsIn(db, brought);
    const refused = looked.filter(({ verdict }) => verdict === 'refused');
    if (refused.length > 0)
      throw new Refused(
        listed(refused.map(({ line, feature, words }) => ({ line, column: feature, message: words }))),
      );
    const found: TakenReadings = { taken: 0, same: 0, left: 0, again: [], corrections: [] };
    for (const each of looked) {
      if (each.verdict === 'same' || each.verdict === 'left') {
        found[each.verdict] += 1;
        continue;
      }
      const { readingId, proposalIds, answer } = await takeOne(db, asking.personId, {
        featureId: features.find(({ name }) => name === each.feature)!.id,
        programId: program.id,
        jobId: job?.id ?? null,
        part: each.part!,
        measured: each.value,
        confirmed: false,
        // whoever takes them has seen which parts they are said to be of
        partSure: true,
        firstOff: each.firstOff,
        recut: each.recut,
        place: each.place ?? undefined,
        pallet: each.pallet ?? undefined,
        measuredAt: each.time,
      });
      if (readingId === null) found.again.push(`${each.feature}, part ${each.part}: ${answer.reason}`);
      else found.taken += 1;
      found.corrections.push(...proposalIds);
    }
    // what a later reading of the file replaced waits for nobody
    const open = await rows<{ id: number }>(
      db,
      `SELECT id FROM proposal WHERE id = ANY($1) AND open ORDER BY id`,
      [found.corrections],
    );
    return { ...found, corrections: open.map(({ id }) => id) };
  });
