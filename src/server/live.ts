import pg from 'pg';
import { stateMessage, statesOf } from './agents/states.ts';
import { forgetSettled, settled } from './api/settled.ts';
import { connectionSettings, rows, row, type Db } from './db.ts';
import { log } from './log.ts';

/** Tells every open page what changed: one LISTEN connection a process, which comes back by itself and misses nothing. */

type Listener = (message: string) => void;
const listeners = new Set<Listener>();
let wanted = false;
let client: pg.Client | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

/** How often is looked up to which entry all has been told, milliseconds. */
const LOOKED = 1000;
/** More entries than that are not told one by one: whoever missed so many asks for everything. */
const MANY = 20_000;
const BACK = '{"kind":"back"}';

/**
 * Entries up to `told` were all told to whoever listened then; up to `seen` they were in when it was looked last. What is seen counts as told one
 * look later: who commits an entry rings for it a moment after it can be seen.
 */
let [told, seen] = [0, 0];

/**
 * Which line of the database's history this is: another one where a replica took its place, or it was brought back to an earlier moment. Numbers of
 * entries mean something within one line only: what was told in the old one may never have been. Nought where it is not known.
 */
let line = 0;

/** The entry up to which everything was told; nought where that is not known. Whoever reads now has all up to there, and what comes after it is told. */
export const toldUpTo = (): number => told;
export const toldOnLine = (): number => line;

/** How far somebody heard: the entry, and on which line; null: nobody said. */
export interface Heard {
  entry: number;
  line: number | null;
}
/** As it goes to a page and comes back: `9376.1`; empty where it is not known. */
export const heardSoFar = (): string => (told > 0 ? `${told}.${line}` : '');
export function heardFrom(text: string | null): Heard {
  const [, entry, on] = /^(\d{1,15})(?:\.(\d{1,10}))?$/.exec(text ?? '') ?? [];
  return { entry: Number(entry ?? 0), line: on === undefined ? null : Number(on) };
}

export function listen(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
export const listening = (): number => listeners.size;

/** Once a process. */
export function followLedger(): void {
  if (wanted) return;
  wanted = true;
  void connect(250);
}

async function connect(wait: number): Promise<void> {
  const fresh = new pg.Client({ ...connectionSettings(), statement_timeout: 0 });
  let over = false;
  const again = (error?: Error) => {
    if (over) return;
    over = true;
    client = null;
    clearTimeout(timer);
    if (error) log.warn({ reason: error.message }, 'live events: the database connection was lost');
    fresh.end().catch(() => undefined);
    if (wanted) setTimeout(() => void connect(Math.min(wait * 2, 5_000)), wait).unref();
  };
  fresh.on('error', again);
  fresh.on('end', () => again());
  fresh.on('notification', ({ payload }) => tell(payload ?? '{}'));
  try {
    await fresh.connect();
    // stopped meanwhile: nobody else knows of this line, and it would keep the process
    if (!wanted) return void (await fresh.end());
    await fresh.query('LISTEN tin');
    client = fresh;
    wait = 250;
    const before: Heard = { entry: told, line };
    const now = await lineOf(fresh);
    if (now !== line) {
      [told, seen, line] = [0, 0, now];
      forgetSettled();
    }
    // what happened while nobody listened: entries, what machines did, and who was signed out
    for (const message of await missedSince(fresh, before)) tell(message);
    tell('{"kind":"session"}');
    await look(fresh, again);
  } catch (error) {
    again(error as Error);
  }
}

/** PostgreSQL's timeline: the first eight signs of the name of what it writes to. */
const lineOf = async (db: Db): Promise<number> =>
  (await row<{ line: number }>(
    db,
    `SELECT CASE WHEN pg_is_in_recovery() THEN 0 ELSE ('x' || left(pg_walfile_name(pg_current_wal_lsn()), 8))::bit(32)::integer END AS line`,
  ))!.line;

async function look(on: pg.Client, lost: (error: Error) => void): Promise<void> {
  try {
    const now = await settled(on);
    [told, seen] = [seen, now];
    if (on === client) timer = setTimeout(() => void look(on, lost), LOOKED).unref();
  } catch (error) {
    lost(error as Error);
  }
}

/**
 * What was told since an entry, each subject once, and what the machines do.
 *
 * @param heard entry nought: it is not known what was heard last
 */
export async function missedSince(db: Db, heard: Heard): Promise<string[]> {
  const states = (await statesOf(db)).map(stateMessage);
  return [...(await toldSince(db, heard)), ...states];
}

async function toldSince(db: Db, heard: Heard): Promise<string[]> {
  const { entry } = heard;
  if (entry <= 0 || (heard.line !== null && heard.line !== line)) return [BACK];
  const last = (await row<{ last: number }>(db, 'SELECT coalesce(max(id), 0) AS last FROM ledger'))!.last;
  // an entry that there is not: another ledger
  if (last < entry || last - entry > MANY) return [BACK];
  const found = await rows<{ kind: string; machine: number | null }>(
    db,
    'SELECT DISTINCT kind, machine_id AS machine FROM ledger WHERE id > $1',
    [entry],
  );
  return found.map((each) => JSON.stringify(each));
}

function tell(message: string): void {
  for (const listener of listeners) {
    try {
      listener(message);
    } catch (error) {
      log.warn({ reason: (error as Error).message }, 'live events: a page could not be told');
    }
  }
}

export async function stopListening(): Promise<void> {
  wanted = false;
  clearTimeout(timer);
  listeners.clear();
  await client?.end().catch(() => undefined);
}
