import { countedAt, standsSince, type MachineState } from '../core/agent/machine-state.ts';
import { countBelieved, perPart } from '../core/shift/job.ts';
import { likelyMade, wholeParts, type Known, type LikelyMade } from '../core/shift/likely-made.ts';
import { cellOf, type Cell } from './cell.ts';
import { cellNow } from './clock.ts';
import { cutUntil, type CutJob } from './cut-until.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { hoursOf } from './machine-hours.ts';

const DAY = 86_400_000;
/** Days back from now of which it is reckoned what a machine cut since it was last told of. */
const BACK = 28;
/** Milliseconds after which nobody hears a control any more. */
const HEARD = 120_000;

/** When each job was last counted or taken up, its last part that was measured, its first part that is not to size yet, and what its control said last. */
const toldOf = gathered((db, ids: readonly number[]) =>
  rows<{
    of: number;
    told: Date | null;
    part: number | null;
    measuredAt: Date | null;
    broughtIn: Date | null;
    state: MachineState | null;
    clockOff: number | null;
    runsOn: number;
    /** Null: it is not heard any more. */
    seenAt: Date | null;
  }>(
    db,
    `SELECT j.id AS "of", t.at AS told, r.part, r.at AS "measuredAt", f.begun_at AS "broughtIn",
            m.runs_on AS "runsOn", h.state, h.clock_off AS "clockOff", CASE WHEN h.problem IS NULL THEN h.seen_at END AS "seenAt"
     FROM job j JOIN job_told t ON t.job_id = j.id JOIN machine m ON m.id = j.machine_id
     LEFT JOIN LATERAL (SELECT part, at FROM reading WHERE job_id = j.id AND doubt IS NULL ORDER BY job_id DESC, part DESC LIMIT 1) r ON true
     LEFT JOIN first_part f ON f.machine_id = j.machine_id AND f.state = 'open'
     LEFT JOIN machine_state h ON h.machine_id = j.machine_id
     WHERE j.id = ANY($1)`,
    [ids],
  ),
);

/** How many parts of a running job are made by now, if it ran on since it was last told of. */
export async function likelyOf(
  db: Db,
  cell: Cell,
  job: Omit<CutJob, 'state' | 'cut' | 'measured'>,
  now: Date,
): Promise<LikelyMade> {
  const [told] = await toldOf(db, job.id);
  const record = { parts: job.made, at: told?.told ?? now, by: 'record' as const };
  const counted = told?.state?.parts ?? null;
  const believed = counted === null ? null : countBelieved(job, counted);
  const off = told?.clockOff ?? 0;
  const heard = told?.seenAt ? now.getTime() - told.seenAt.getTime() < HEARD : false;
  // what it said last stays true of then, heard or not
  const turned = told?.state ? (countedAt(told.state, off) ?? told.seenAt) : null;
  const stands = [told?.broughtIn ?? null, told?.state && heard ? standsSince(told.state, off) : null].filter(
    (each) => each !== null,
  );
  const known: Known = {
    record,
    reading:
      told?.part && told.measuredAt && told.part > job.made
        ? { parts: told.part, at: told.measuredAt, by: 'reading' }
        : null,
    control: turned && believed !== null ? { parts: believed, at: turned, by: 'control', heard } : null,
    standsSince: stands.length === 0 ? null : stands.reduce((a, b) => (b < a ? b : a)),
  };
  const times = [record, known.reading, known.control].flatMap((each) => (each ? [each.at.getTime()] : []));
  const from = Math.max(now.getTime() - BACK * DAY, Math.min(now.getTime(), ...times));
  return likelyMade(
    known,
    { quantity: job.quantity, cycleMilliseconds: perPart(job), partsPerCycle: job.partsPerCycle },
    now,
    hoursOf(cell, told?.runsOn ?? 0, new Date(from), now),
  );
}

/** The last part of a running job that was surely cut by now: counted, here or by its control, or measured. */
export async function surelyCut(
  db: Db,
  machineId: number,
  job: Omit<CutJob, 'state' | 'cut' | 'measured'>,
): Promise<number> {
  const { from } = await likelyOf(db, await cellOf(db), job, cellNow());
  return Math.max(from.parts, (await cutUntil(db, machineId, job.id))!.cut);
}

/** The last part of a job that may have been cut by now, with what is in the machine, as far as anybody knows or can reckon. */
export async function perhapsCut(db: Db, job: CutJob, told: number | null): Promise<number> {
  const likely =
    job.state === 'running' ? wholeParts(await likelyOf(db, await cellOf(db), job, cellNow())) : 0;
  return Math.max(job.cut, told ?? 0, likely) + job.partsPerCycle;
}
