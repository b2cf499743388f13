import type { Job } from './jobs.ts';
import { row, type Db } from './db.ts';

/** The first part cut with what was keyed or changed: the next one after all that are counted or measured, one by its number, or nobody knows. */
export type FirstPart = 'next' | 'unsure' | number;

/** A job, and the last of its parts that is counted or measured. */
export interface CutJob extends Pick<
  Job,
  'id' | 'state' | 'made' | 'quantity' | 'cycleMilliseconds' | 'partsPerCycle' | 'pace' | 'countFrom'
> {
  cut: number;
  measured: number;
}

/**
 * A job of a machine, and the last of its parts that is counted or measured.
 *
 * @param job by its number; null: the one that runs
 */
export const cutUntil = (db: Db, machineId: number, job: number | null = null) =>
  row<CutJob>(
    db,
    `SELECT j.id, j.state, j.made, j.quantity, j.cycle_milliseconds AS "cycleMilliseconds", g.parts_per_cycle AS "partsPerCycle", j.pace_milliseconds AS pace, j.count_from AS "countFrom",
            greatest(j.made, r.part) AS cut, r.part AS measured
     FROM job j JOIN program g ON g.id = j.program_id
       CROSS JOIN LATERAL (SELECT coalesce(max(part), 0) AS part FROM reading WHERE job_id = j.id AND doubt IS NULL) r
     WHERE j.machine_id = $1 AND CASE WHEN $2::integer IS NULL THEN j.state = 'running' ELSE j.id = $2 END`,
    [machineId, job],
  );
