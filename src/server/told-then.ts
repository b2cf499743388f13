import { asked } from './asked.ts';
import { cellNow } from './clock.ts';
import { row, type Db } from './db.ts';

/** When what is being told was typed, where a device kept it until it could be sent; null: just now. */
export function typedAt(): Date | null {
  const ago = asked()?.typed.ago ?? 0;
  return ago === 0 ? null : new Date(cellNow().getTime() - ago * 1000);
}

/** The place in the order of a machine's entries of what was so at a moment: what was entered after it came later. */
export const placeThen = async (db: Db, machineId: number, at: Date): Promise<number> =>
  (await row<{ id: number }>(
    db,
    'SELECT coalesce((SELECT l.id FROM ledger l WHERE l.machine_id = $1 AND l.at <= $2 ORDER BY l.id DESC LIMIT 1), 1) AS id',
    [machineId, at],
  ))!.id;
