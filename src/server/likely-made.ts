import { countedAt, standsSince, type MachineState } from '../core/agent/machine-state.ts';
import { shiftsBetween } from '../core/shift/calendar.ts';
import { countBelieved, perPart } from '../core/shift/job.ts';
import { likelyMade, type Known, type LikelyMade } from '../core/shift/likely-made.ts';
import type { Cell } from './cell.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import type { Job } from './jobs.ts';

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
    /** Null: it is not heard any more. */
    seenAt: Date | null;
  }>(
    db,
    `SELECT j.id AS "of", coalesce(t.at, j.set_up_at) AS told, r.part, r.at AS "measuredAt", f.begun_at AS "broughtIn",
            h.state, h.clock_off AS "clockOff", CASE WHEN h.problem IS NULL THEN h.seen_at END AS "seenAt"
     FROM job j
     LEFT JOIN LATERAL (
       SELECT * FROM (
         (SELECT l.id, l.at FROM job_begun l WHERE l.job_id = j.id AND l.stage <> 'set up' ORDER BY l.id DESC LIMIT 1)
         UNION ALL
         -- what was taken back tells nothing
         (SELECT l.id, l.at FROM ledger l WHERE l.kind = 'parts' AND l.job_id = j.id AND l.stage IN ('made', 'broken off')
            AND NOT EXISTS (SELECT 1 FROM ledger u WHERE u.kind = 'parts' AND u.job_id = j.id AND u.stage = 'taken back' AND u.id > l.id AND (u.detail ->> 'of')::bigint = l.id)
          ORDER BY l.id DESC LIMIT 1)) e
       ORDER BY e.id DESC LIMIT 1) t ON true
     LEFT JOIN LATERAL (SELECT part, at FROM reading WHERE job_id = j.id AND doubt IS NULL ORDER BY job_id DESC, part DESC LIMIT 1) r ON true
     LEFT JOIN first_part f ON f.machine_id = j.machine_id AND f.state = 'open'
     LEFT JOIN machine_state h ON h.machine_id = j.machine_id
     WHERE j.id = ANY($1)`,
    [ids],
  ),
);

/** How many parts of a running job are made by now, if it ran on since it was last told of. */
export async function likelyOf(db: Db, cell: Cell, job: Job, now: Date): Promise<LikelyMade> {
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
    shiftsBetween(new Date(from), now, cell.patterns, cell.timeZone),
  );
}
