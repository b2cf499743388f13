import pg from 'pg';
import { connectionSettings, databaseIsAway, databaseIsBusy, pool, row, type Db } from './db.ts';
import { log } from './log.ts';

/** A replica that did not answer, or lags, is left alone for so long, milliseconds; and how long it is waited for. */
const [ALONE, PATIENCE] = [Number(process.env.REPLICA_ALONE_MS ?? 10_000), 1_500];
/** Recovery took a row away that was being read. */
const TAKEN = new Set(['40001', '57014', '55P03']);

let shared: pg.Pool | null = null;
let aloneUntil = 0;

function replica(): pg.Pool | null {
  const connectionString = process.env.DATABASE_REPLICA_URL;
  if (!connectionString) return null;
  if (shared === null) {
    shared = new pg.Pool({
      ...connectionSettings(),
      connectionString,
      application_name: 'tin-almanac past',
      connectionTimeoutMillis: PATIENCE,
      max: Number(process.env.POOL_SIZE ?? 12),
    });
    // a line that dies while it is idle is replaced
    shared.on('error', () => {});
    shared.on('connect', (client) => client.on('error', () => {}));
  }
  return shared;
}

function leaveAlone(reason: string): void {
  aloneUntil = Date.now() + ALONE;
  log.warn({ reason }, 'the replica is left alone for a while');
}

/** A replica that has every entry up to one; null: there is none just now. */
async function upTo(told: number): Promise<pg.Pool | null> {
  const there = replica();
  // up to where things were told is not known yet: nobody can say how old it may be
  if (there === null || told === 0 || Date.now() < aloneUntil) return null;
  try {
    const { last } = (await row<{ last: number }>(there, 'SELECT coalesce(max(id), 0) AS last FROM ledger'))!;
    if (last >= told) return there;
    leaveAlone(`it has entry ${last}, and ${told} was told`);
  } catch (error) {
    leaveAlone((error as Error).message);
  }
  return null;
}

/**
 * Reads what lies in the past (history, the ledger, exports, charts) from the streaming replica of DATABASE_REPLICA_URL, where there is one that
 * has all that was told by then; else, and where it fails meanwhile, from the database itself. What must be current is not read by this.
 *
 * @param told the entry of the ledger up to which everything was told when this was asked
 */
export async function past<T>(told: number, work: (db: Db) => Promise<T>): Promise<T> {
  const there = await upTo(told);
  if (there === null) return work(pool());
  try {
    return await work(there);
  } catch (error) {
    const { code } = error as { code?: string };
    if (!databaseIsAway(error) && !databaseIsBusy(error) && !TAKEN.has(code ?? '')) throw error;
    leaveAlone((error as Error).message);
    return work(pool());
  }
}

export async function closeReplica(): Promise<void> {
  const closing = shared;
  shared = null;
  await closing?.end();
}
