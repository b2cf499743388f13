import { row, type Db } from '../db.ts';

/** Entries up to here were all in; and what is to become so once those have ended who wrote then. */
let known = 0;
let pending: { high: number; writers: ReadonlySet<string> } | null = null;

/** Another database, or another line of its history: what was known of the one before says nothing of it. */
export function forgetSettled(): void {
  [known, pending] = [0, null];
}

/**
 * The entry up to which nothing more will appear. Entries are numbered when they are written and seen when their transaction
 * ends: one with a lower number may come to light after one with a higher, and whoever had followed past it would never see it.
 * So what is followed ends at an entry from before every transaction that still writes one. Who does holds a lock from before
 * its first number (migration 0069), and is looked for after the newest that can be seen was: a transaction that has a lower number and is not
 * seen holds it still, or has ended since and is seen by whoever reads next.
 */
export async function settled(db: Db): Promise<number> {
  const now = (await row<{ high: number; writers: string[] }>(
    db,
    `SELECT (SELECT coalesce(max(id), 0) FROM ledger) AS high,
            (SELECT coalesce(array_agg(virtualtransaction), '{}') FROM pg_locks
             WHERE locktype = 'advisory' AND classid = 1818584167 AND objid = 0 AND objsubid = 2
               AND database = (SELECT oid FROM pg_database WHERE datname = current_database())) AS writers`,
  ))!;
  if (now.writers.length === 0) {
    known = Math.max(known, now.high);
    pending = null;
    return known;
  }
  const writers = new Set(now.writers);
  if (pending !== null && ![...pending.writers].some((each) => writers.has(each))) {
    known = Math.max(known, pending.high);
    pending = null;
  }
  pending ??= { high: now.high, writers };
  return known;
}
