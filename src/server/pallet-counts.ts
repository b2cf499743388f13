import { rows, type Db } from './db.ts';
import type { Job } from './jobs.ts';

/**
 * Parts that are counted while their pallets still stand in the queue were cut on the first of them, as long as those are of the job's
 * program: taken off, a pallet does not count them again. A count that is taken back goes back from the last.
 *
 * @param parts counted; below nought: taken back
 */
export async function countOnPallets(
  db: Db,
  { machineId, programId }: Pick<Job, 'machineId' | 'programId'>,
  parts: number,
): Promise<void> {
  const queue = await rows<{ id: number; parts: number; cut: number; programId: number }>(
    db,
    `SELECT id, parts, cut, program_id AS "programId" FROM pallet WHERE machine_id = $1 AND isolated IS NULL ORDER BY ord, id`,
    [machineId],
  );
  const other = queue.findIndex((each) => each.programId !== programId);
  const first = other === -1 ? queue : queue.slice(0, other);
  let left = Math.abs(parts);
  for (const pallet of parts > 0 ? first : first.toReversed()) {
    const by = Math.min(left, parts > 0 ? pallet.parts - pallet.cut : pallet.cut);
    if (by === 0) continue;
    await db.query('UPDATE pallet SET cut = cut + $2 WHERE id = $1', [pallet.id, parts > 0 ? by : -by]);
    left -= by;
  }
}
