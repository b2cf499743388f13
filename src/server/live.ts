import pg from 'pg';
import { connectionSettings } from './db.ts';
import { log } from './log.ts';

/** Tells every open page what changed: one LISTEN connection a process, which comes back by itself. */

type Listener = (message: string) => void;
const listeners = new Set<Listener>();
let wanted = false;
let client: pg.Client | null = null;

export function listen(listener: Listener): () => void {
  listeners.add(listener);
  if (!wanted) {
    wanted = true;
    void connect(250);
  }
  return () => listeners.delete(listener);
}

async function connect(wait: number): Promise<void> {
  const fresh = new pg.Client({ ...connectionSettings(), statement_timeout: 0 });
  let over = false;
  const again = (error?: Error) => {
    if (over) return;
    over = true;
    client = null;
    if (error) log.warn({ reason: error.message }, 'live events: the database connection was lost');
    fresh.end().catch(() => undefined);
    if (wanted) setTimeout(() => void connect(Math.min(wait * 2, 5_000)), wait).unref();
  };
  fresh.on('error', again);
  fresh.on('end', () => again());
  fresh.on('notification', ({ payload }) => tell(payload ?? '{}'));
  try {
    await fresh.connect();
    await fresh.query('LISTEN tin');
    client = fresh;
    wait = 250;
    tell('{"kind":"back"}');
  } catch (error) {
    again(error as Error);
  }
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
  listeners.clear();
  await client?.end().catch(() => undefined);
}
