import { mostByNow } from '../core/shift/job.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, type Db } from './db.ts';
import { append } from './ledger.ts';
import { lockMachine, machineById } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

/**
 * Says of a job's part why its number cannot be right, or null: more were not cut by now. A number that was typed wrong would put all parts
 * to come before whatever is changed meanwhile.
 */
export async function partDoubts(db: Db, jobId: number | null): Promise<(part: number) => string | null> {
  if (jobId === null) return () => null;
  const job = await row<{
    number: string;
    made: number;
    quantity: number;
    known: number;
    partsPerCycle: number;
    cycleMilliseconds: number;
    since: number;
  }>(
    db,
    `SELECT g.number, j.made, j.quantity, greatest(j.made, m.part) AS known, g.parts_per_cycle AS "partsPerCycle", least(j.cycle_milliseconds, j.pace_milliseconds) AS "cycleMilliseconds",
            coalesce(1000 * extract(epoch FROM tin_now() - t.at), 0)::bigint AS since
     FROM job j JOIN program g ON g.id = j.program_id JOIN job_told t ON t.job_id = j.id
       CROSS JOIN LATERAL (SELECT coalesce(max(r.part), 0) AS part FROM reading r WHERE r.job_id = j.id AND r.doubt IS NULL) m
     WHERE j.id = $1`,
    [jobId],
  );
  if (!job) return () => null;
  const most = mostByNow(job, job.since);
  return (part) =>
    part <= Math.max(job.known, most)
      ? null
      : `Part ${part}? ${job.number} stands at ${job.known} of ${job.quantity} parts, and by its order and its cycle hardly more than ${most} were cut by now. Look at its number again.`;
}

/** Takes a reading back that was of another part, or of another size: it stays as it was typed, and counts for nothing. */
export const takeBackReading = (
  asking: Asking,
  wrong: { machineId: number; readingId: number; why: string },
) =>
  once(asking, 'takeBackReading', wrong, async (db) => {
    await lockMachine(db, wrong.machineId);
    const reading = await row<{
      part: number;
      measured: Length;
      programId: number;
      jobId: number | null;
      feature: string;
      tool: number;
      counts: boolean;
    }>(
      db,
      `SELECT r.part, r.measured, r.program_id AS "programId", r.job_id AS "jobId", f.name AS feature, f.tool, r.doubt IS NULL AS counts
       FROM reading r JOIN feature f ON f.id = r.feature_id WHERE r.id = $1 AND f.machine_id = $2`,
      [wrong.readingId, wrong.machineId],
    );
    const machine = await machineById(db, wrong.machineId);
    if (!reading || !machine) throw new Refused('There is no such reading.');
    if (!reading.counts) throw new Refused('It was taken back already, and counts for nothing.');
    if (wrong.why.trim() === '') throw new Refused('Say what was wrong with it.');
    await append(
      db,
      entry.reading('taken back', {
        personId: asking.personId,
        machineId: machine.id,
        programId: reading.programId,
        jobId: reading.jobId,
        readingId: wrong.readingId,
        tool: reading.tool,
        said: `A reading of ${reading.feature} of part ${reading.part}, ${formatWithUnit(reading.measured, machine.unit)}, was taken back.`,
        why: wrong.why.trim(),
      }),
    );
  });
