import { seriesOf, type Change } from '../core/correction/cut-with.ts';
import type { BegunAnew } from '../core/correction/set-ups.ts';
import { movesOf } from '../core/inspection/feature.ts';
import { row, rows, type Db } from './db.ts';
import { gathered, keyed } from './gather.ts';
import type { Machine } from './machines.ts';
import type { Feature } from './programs.ts';

/** Where programs were set up anew, since the first of the readings was typed or their jobs began. */
export const begunAnew = async (
  db: Db,
  machineId: number,
  numbers: readonly string[],
  jobs: readonly number[],
  /** Entry of the first reading. */
  first: number | undefined,
): Promise<BegunAnew[]> =>
  first === undefined
    ? []
    : (await begunOf(db, JSON.stringify([machineId, numbers, jobs, first]))).map(
        ({ program, ...change }) => ({
          program,
          change,
        }),
      );
const begunOf = gathered((db, keys: readonly string[]) =>
  rows<Change & { of: string; program: string }>(
    db,
    `SELECT q.key AS "of", e.* FROM jsonb_to_recordset($1) AS q (key text, machine integer, numbers text[], jobs integer[], first bigint)
     CROSS JOIN LATERAL (
       SELECT g.number AS program, l.id AS entry, cut_known(l.id, l.detail) AS cut, coalesce((l.detail ->> 'jobs')::integer, 0) AS jobs
       FROM job_begun l JOIN program g ON g.id = l.program_id
       WHERE l.machine_id = q.machine AND l.id > least(q.first, (SELECT min(b.id) FROM job_begun b WHERE b.job_id = ANY (q.jobs))) AND g.number = ANY(q.numbers)
         AND set_up_anew(l.machine_id, l.program_id, l.id) ORDER BY l.id OFFSET 0) e`,
    [keyed(keys, ([machine, numbers, jobs, first]) => ({ machine, numbers, jobs, first }))],
  ),
);

/** All jobs of a program that ever were, each with when it was begun. */
export const jobsSince = (db: Db, { machineId, number }: { machineId: number; number: string }) =>
  rows<{ id: number; since: Date }>(
    db,
    `SELECT j.id, coalesce((SELECT min(b.at) FROM job_begun b WHERE b.job_id = j.id), j.set_up_at, tin_now()) AS since
     FROM job j JOIN program g ON g.id = j.program_id WHERE g.machine_id = $1 AND g.number = $2 ORDER BY j.id`,
    [machineId, number],
  );

/**
 * How a job stands that was set up anew: the last part cut before it last was, and the first and last of those measured since (null: none
 * yet); null where it always ran as the machine stood.
 */
export const setUpOf = (db: Db, jobId: number) =>
  row<{ cut: number | null; first: number | null; last: number | null }>(
    db,
    `SELECT (cut_known(l.id, l.detail) #>> ARRAY[$1::text, '1'])::integer AS cut, min(r.part) AS first, max(r.part) AS last FROM (
       SELECT * FROM job_begun b WHERE b.job_id = $1 AND set_up_anew(b.machine_id, b.program_id, b.id) ORDER BY b.id DESC LIMIT 1) l
     LEFT JOIN reading r ON r.job_id = $1 AND r.entry > l.id AND r.doubt IS NULL GROUP BY l.id, l.detail`,
    [jobId],
  );

/** The last part of a series that may have been cut before the rows of a size were last changed; null where they were not since it began. */
export async function cutSince(
  db: Db,
  machine: Machine,
  feature: Feature,
  series: { jobId: number | null; programId: number },
): Promise<number | null> {
  const moves = movesOf(feature, machine);
  const [newest] = await rows<{ high: number | null }>(
    db,
    `SELECT (cut_known(l.id, l.detail) #>> ARRAY[$4, '1'])::integer AS high FROM ledger l JOIN register g ON g.id = l.register_id
     JOIN unnest($2::integer[], $3::text[]) AS w (row, kind) ON w.row = g.row AND w.kind = g.kind
     WHERE g.machine_id = $1 AND l.kind = 'register' ORDER BY l.id DESC LIMIT 1`,
    [machine.id, moves.map(({ row }) => row), moves.map(({ role }) => role), seriesOf(series)],
  );
  return newest?.high ?? null;
}
