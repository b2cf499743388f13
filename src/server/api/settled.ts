import { row, type Db } from '../db.ts';

/** Entries up to here were all in; and what is to become so once everything that ran then has ended. */
let known = 0;
let pending: { high: number; ended: bigint } | null = null;

/**
 * The entry up to which nothing more will appear. Entries are numbered when they are written and seen when their transaction
 * ends: one with a lower number may come to light after one with a higher, and whoever had followed past it would never see it.
 * So what is followed ends at an entry from before every transaction that still runs.
 */
export async function settled(db: Db): Promise<number> {
  const now = (await row<{ high: number; oldest: string; newest: string }>(
    db,
    `SELECT coalesce(max(id), 0) AS high, pg_snapshot_xmin(pg_current_snapshot())::text AS oldest, pg_snapshot_xmax(pg_current_snapshot())::text AS newest
     FROM ledger`,
  ))!;
  const [oldest, newest] = [BigInt(now.oldest), BigInt(now.newest)];
  if (oldest >= newest) {
    known = Math.max(known, now.high);
    pending = null;
    return known;
  }
  if (pending !== null && oldest >= pending.ended) {
    known = Math.max(known, pending.high);
    pending = null;
  }
  pending ??= { high: now.high, ended: newest };
  return known;
}
