import type { OnPallet } from '../core/inspection/cycle-place.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import type { Job } from './jobs.ts';

/**
 * Parts that are counted while their pallets still stand in the queue were cut on the first of them, as long as those are of the job's
 * program: taken off, a pallet does not count them again. On which pallet each part was cut is kept.
 *
 * @param counted the entry that counts them, and how many parts the job had before
 */
export async function countOnPallets(
  db: Db,
  job: Pick<Job, 'id' | 'machineId' | 'programId'>,
  parts: number,
  counted: { entry: number; before: number },
): Promise<void> {
  let from = counted.before;
  for (const pallet of await queueOf(db, job)) {
    const by = Math.min(counted.before + parts - from, pallet.parts - pallet.cut);
    if (by <= 0) continue;
    await db.query('UPDATE pallet SET cut = cut + $2 WHERE id = $1', [pallet.id, by]);
    await cutOn(db, job, pallet.number, by, { ...counted, before: from });
    from += by;
  }
}

/** Keeps that parts which are counted were cut on a pallet. */
export async function cutOn(
  db: Db,
  { id }: Pick<Job, 'id'>,
  pallet: number,
  parts: number,
  { entry, before }: { entry: number; before: number },
): Promise<void> {
  if (parts > 0)
    await db.query(
      'INSERT INTO part_on_pallet (job_id, first_part, last_part, pallet, counted) VALUES ($1, $2, $3, $4, $5)',
      [id, before + 1, before + parts, pallet, entry],
    );
}

/**
 * A count that is taken back goes back from the last pallet that parts were cut on; on which pallets its parts were is not known any more.
 *
 * @returns the pallet with which they came off; null: none
 */
export async function takeBackFromPallets(
  db: Db,
  job: Pick<Job, 'id' | 'machineId' | 'programId'>,
  parts: number,
  entry: number,
): Promise<number | null> {
  const gone = await rows<{ pallet: number }>(
    db,
    'DELETE FROM part_on_pallet WHERE job_id = $1 AND counted = $2 RETURNING pallet',
    [job.id, entry],
  );
  const queue = await queueOf(db, job);
  let left = parts;
  for (const pallet of queue.toReversed()) {
    const by = Math.min(left, pallet.cut);
    if (by <= 0) continue;
    await db.query('UPDATE pallet SET cut = cut - $2 WHERE id = $1', [pallet.id, by]);
    left -= by;
  }
  const [off, ...more] = gone;
  return off && more.length === 0 && !queue.some(({ number }) => number === off.pallet) ? off.pallet : null;
}

/** The pallets of a job's program that are cut next, up to one of another program. */
async function queueOf(db: Db, { machineId, programId }: Pick<Job, 'machineId' | 'programId'>) {
  const queue = await rows<{ id: number; number: number; parts: number; cut: number; programId: number }>(
    db,
    `SELECT id, number, parts, cut, program_id AS "programId" FROM pallet WHERE machine_id = $1 AND isolated IS NULL ORDER BY ord, id`,
    [machineId],
  );
  const other = queue.findIndex((each) => each.programId !== programId);
  return other === -1 ? queue : queue.slice(0, other);
}

const cutOnPallets = gathered((db, jobs: readonly number[]) =>
  rows<OnPallet & { of: number }>(
    db,
    'SELECT job_id AS "of", first_part AS first, last_part AS last, pallet FROM part_on_pallet WHERE job_id = ANY($1) ORDER BY job_id, first_part',
    [jobs],
  ),
);
const standingPallets = gathered((db, jobs: readonly number[]) =>
  rows<{ of: number; made: number; number: number; left: number; own: boolean }>(
    db,
    `SELECT j.id AS "of", j.made, p.number, p.parts - p.cut AS left, p.program_id = j.program_id AS own
     FROM job j JOIN pallet p ON p.machine_id = j.machine_id WHERE j.id = ANY($1) AND j.state = 'running' AND p.isolated IS NULL ORDER BY j.id, p.ord, p.id`,
    [jobs],
  ),
);

/** On which pallets the parts of a job were cut: as they were counted, and those that are not counted yet as the queue stands. */
export async function palletsCut(db: Db, jobId: number | null): Promise<OnPallet[]> {
  if (jobId === null) return [];
  const cut: OnPallet[] = (await cutOnPallets(db, jobId)).map(({ first, last, pallet }) => ({
    first,
    last,
    pallet,
  }));
  const queue = await standingPallets(db, jobId);
  const other = queue.findIndex(({ own }) => !own);
  let from = queue[0]?.made ?? 0;
  for (const { number, left } of other === -1 ? queue : queue.slice(0, other)) {
    if (left > 0) cut.push({ first: from + 1, last: from + left, pallet: number });
    from += left;
  }
  return cut;
}
