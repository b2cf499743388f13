import pg from 'pg';
import { log } from './log.ts';
import { isOutdated, mayBeRefused, prepared } from './prepared.ts';

pg.types.setTypeParser(pg.types.builtins.INT8, (text) => {
  const value = Number(text);
  if (!Number.isSafeInteger(value)) throw new RangeError(`${text} is too large to hold exactly`);
  return value;
});

/** Something that answers SQL: the pool, or one connection inside a transaction. */
export type Db = Pick<pg.ClientBase, 'query'>;

let shared: pg.Pool | null = null;

const statementTimeout = () => Number(process.env.STATEMENT_TIMEOUT_MS ?? 20_000);
/** How much longer an answer is waited for than the database works on a statement, milliseconds. */
const SWALLOWED = 3_000;
/** Nobody answers on this line any more: it may be that what was asked was done, and it may be that it never arrived. */
const isSwallowed = (error: unknown) => error instanceof Error && error.message === 'Query read timeout';

/** How long an act waits for a standby that is to have it before it counts as written here alone, milliseconds; 0: as the database is set. */
const standbyWait = () => Number(process.env.STANDBY_WAIT_MS ?? 0);

/** Settings of a connection: the application's role, and limits so that nothing hangs for ever. */
export function connectionSettings(): pg.ClientConfig {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString)
    throw new Error(
      'DATABASE_URL is not set. Start with `npm start`, or set it to a PostgreSQL of your own.',
    );
  return {
    connectionString,
    application_name: 'tin-almanac',
    // pages are small questions: to make machine code of one costs more than it saves, and what they read is in memory or on a disk without arms
    options: `-c role=tin_app -c timezone=UTC -c jit=off -c random_page_cost=1.1${standbyWait() > 0 ? ' -c synchronous_commit=local' : ''}`,
    connectionTimeoutMillis: Number(process.env.CONNECT_TIMEOUT_MS ?? 4_000),
    statement_timeout: statementTimeout(),
    // a network that swallows what is sent says nothing, for a quarter of an hour: the database itself would have ended the statement by now
    query_timeout: statementTimeout() + SWALLOWED,
    idle_in_transaction_session_timeout: 20_000,
    keepAlive: true,
  };
}

/** Who is told how long each statement took, milliseconds. */
let timed: ((milliseconds: number) => void) | undefined;
export const onStatement = (listener: (milliseconds: number) => void): void => void (timed = listener);

/** A connection that cannot be made soon is given up; waiting for a free one of the pool may take longer. */
class Impatient extends pg.Client {
  constructor(settings?: pg.ClientConfig) {
    super({ ...settings, connectionTimeoutMillis: connectionSettings().connectionTimeoutMillis });
    // each statement is timed, whichever way it is asked
    const ask = this.query.bind(this) as (...given: unknown[]) => unknown;
    this.query = ((...given: unknown[]) => {
      const began = performance.now();
      const done = () => timed?.(performance.now() - began);
      const last = given.at(-1);
      if (typeof last === 'function')
        return ask(...given.slice(0, -1), (...answer: unknown[]) => {
          done();
          last(...answer);
        });
      const answer = ask(...given);
      if (answer instanceof Promise) answer.then(done, done);
      return answer;
    }) as typeof this.query;
  }
}

/** How many lines to the database a process has. */
export const poolSize = () => Number(process.env.POOL_SIZE ?? 12);

/** The pool. A connection that dies while idle is logged and replaced; it never ends the process. */
export function pool(): pg.Pool {
  if (shared) return shared;
  shared = new pg.Pool({
    ...connectionSettings(),
    Client: Impatient,
    max: poolSize(),
    // how long for one of its connections to come free: a pool in use is not a database that is away
    connectionTimeoutMillis: Number(process.env.POOL_WAIT_MS ?? 20_000),
    // a new line has to plan every statement anew, which takes longer than most of them
    idleTimeoutMillis: 10 * 60_000,
  });
  shared.on('error', (error) => log.warn({ reason: error.message }, 'an idle database connection was lost'));
  shared.on('connect', (client) => {
    client.on('error', (error: Error) =>
      log.warn({ reason: error.message }, 'a database connection was lost'),
    );
  });
  return shared;
}

/** The lines to the database: in use, free, and how many wait for one. */
export function linesInUse(): { used: number; idle: number; waited: number } {
  const { totalCount, idleCount, waitingCount } = pool();
  return { used: totalCount - idleCount, idle: idleCount, waited: waitingCount };
}

export async function closePool(): Promise<void> {
  const closing = shared;
  shared = null;
  await closing?.end();
}

/** Who is told that something was written here, and no standby that was to have it said so. */
let alone: (() => void) | undefined;
export const onWrittenAlone = (listener: () => void): void => void (alone = listener);

/** Ends the wait of another line for a standby. The application's role may not: whoever logged in may. */
async function stopWaiting(processId: number): Promise<void> {
  const line = new pg.Client({ ...connectionSettings(), options: '' });
  await line.connect();
  try {
    await line.query('SELECT pg_cancel_backend($1)', [processId]);
  } finally {
    await line.end();
  }
}

/**
 * Ends a transaction. Where a standby is to have whatever is acknowledged, no time limit of the database ends the wait for it: after
 * `standbyWait` it is ended here, and what stands in this database alone is told.
 *
 * @returns why the line is not to be used again: what ends the wait may reach it later
 */
async function commit(client: pg.PoolClient): Promise<Error | undefined> {
  let warned = false;
  let ended: Error | undefined;
  // by its code: the words are in whatever language the database speaks
  const hear = ({ code }: { code?: string | undefined }) => (warned ||= code === '01000');
  const timer =
    standbyWait() > 0
      ? setTimeout(() => {
          ended = new Error('a standby was not waited for any longer');
          stopWaiting((client as unknown as { processID: number }).processID).catch((error: Error) =>
            log.warn({ reason: error.message }, 'the wait for a standby could not be ended'),
          );
        }, standbyWait())
      : undefined;
  client.on('notice', hear);
  try {
    await client.query('COMMIT');
  } finally {
    clearTimeout(timer);
    client.off('notice', hear);
  }
  if (warned) {
    log.error('a standby did not confirm what was written: it stands in this database alone');
    alone?.();
  }
  return ended;
}

/** What a transaction holds: a machine, or a line of the catalogue with what is on its shelf. */
type Held = `machine ${number}` | `component ${number}`;
const heldBy = new WeakMap<Db, Set<Held>>();
/** Notes that something is held until the transaction of this line ends. */
export const nowHeld = (db: Db, what: Held): void => void heldBy.get(db)?.add(what);
/** Whether a line is outside of a transaction of ours, or holds it. */
export const holds = (db: Db, what: Held): boolean => heldBy.get(db)?.has(what) ?? true;

/** Runs work in one transaction: all of it is kept, or nothing. */
export async function transaction<T>(work: (db: Db) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  let broken: Error | undefined;
  heldBy.set(client, new Set());
  try {
    // only acts are waited for: where somebody looked last, and what a control said, may be lost with the database
    await client.query(standbyWait() > 0 ? 'BEGIN; SET LOCAL synchronous_commit = on' : 'BEGIN');
    const value = await work(client);
    broken = await commit(client);
    return value;
  } catch (error) {
    // on a line that swallows what is sent, taking it back would be waited for as long again: the database does it when the line ends
    if (isSwallowed(error)) broken = error as Error;
    else await client.query('ROLLBACK').catch((failed: Error) => (broken = failed));
    throw error;
  } finally {
    heldBy.delete(client);
    client.release(broken);
  }
}

export async function rows<R extends object>(db: Db, sql: string, values: unknown[] = []): Promise<R[]> {
  const within = db instanceof pg.Client;
  if (within && mayBeRefused(sql)) return (await db.query<R & pg.QueryResultRow>(sql, values)).rows;
  try {
    return (await db.query<R & pg.QueryResultRow>(prepared(sql, values))).rows;
  } catch (error) {
    if (within || !isOutdated(error)) throw error;
    return (await db.query<R & pg.QueryResultRow>({ text: sql, values })).rows;
  }
}

export async function row<R extends object>(db: Db, sql: string, values: unknown[] = []): Promise<R | null> {
  return (await rows<R>(db, sql, values))[0] ?? null;
}

const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08001',
  '08003',
]);

/** Whether an error says that the database is away or restarting, as opposed to that a statement was wrong. */
export function databaseIsAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as { code?: string };
  if (isSwallowed(error) || (code !== undefined && AWAY.has(code))) return true;
  if (error instanceof AggregateError) return error.errors.some(databaseIsAway);
  return /Connection terminated|^timeout expired$|Client has encountered a connection error|server closed the connection/i.test(
    error.message,
  );
}

/** Whether an error says that every connection is in use: of this process's pool, or of the database. */
export const databaseIsBusy = (error: unknown): boolean =>
  error instanceof Error &&
  ((error as { code?: string }).code === '53300' ||
    error.message === 'timeout exceeded when trying to connect');

declare const __NEWEST_MIGRATION__: string | undefined;

/**
 * Whether the database answers, and stands on what this build needs; a newer one does for an older build until that is replaced. A pool in use
 * answers later: that is no reason to send people elsewhere.
 */
export async function databaseState(): Promise<'ready' | 'away' | 'behind'> {
  const needed = typeof __NEWEST_MIGRATION__ === 'undefined' ? null : __NEWEST_MIGRATION__;
  try {
    const found = await row<{ stands: boolean }>(
      pool(),
      'SELECT $1::text IS NULL OR EXISTS (SELECT 1 FROM migration WHERE name = $1) AS stands',
      [needed],
    );
    return found!.stands ? 'ready' : 'behind';
  } catch (error) {
    if (databaseIsBusy(error)) return 'ready';
    return databaseIsAway(error) ? 'away' : 'behind';
  }
}
