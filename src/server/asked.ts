import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';

/** The request that is being answered: its id, and what it asked of the database. */
export interface Asked {
  id: string;
  statements: number;
  /** Milliseconds of statements, each counted whole though some ran side by side. */
  sql: number;
  /** When it was typed, where that was before it was sent. */
  typed: Typed;
}

/** What a device says of when something was typed that it kept until it could be sent. */
export interface Typed {
  /** Seconds before it arrived; 0: just now, or nobody can tell. */
  ago: number;
  /** What is said of it with its entry; empty: just now. */
  words: string;
}

const current = new AsyncLocalStorage<Asked>();

/** The request that whatever runs now belongs to; undefined for work of the process's own. */
export const asked = (): Asked | undefined => current.getStore();

/** An id that a proxy gave is kept, so that its log and ours speak of the same; anything else is no id. */
export const idOf = (header: string | null): string =>
  header !== null && /^[\w-]{8,64}$/.test(header) ? header : randomUUID().slice(0, 8);

/** From then on it is said with the entry that something was typed before it arrived, seconds; further back than a week no clock is believed. */
const [LATE, BELIEVED] = [60, 7 * 86_400];

/** When an act was typed that a device kept until it could be sent, by the seconds that it says it did. */
export function typedAgo(ago: string | null): Typed {
  if (ago === null) return { ago: 0, words: '' };
  const seconds = Number(ago);
  if (ago.trim() === '' || !Number.isFinite(seconds) || seconds < 0 || seconds > BELIEVED)
    return { ago: 0, words: ' (typed earlier, without a network)' };
  if (seconds < LATE) return { ago: Math.round(seconds), words: '' };
  const minutes = Math.round(seconds / 60);
  const long =
    minutes < 120
      ? `${minutes} ${minutes === 1 ? 'minute' : 'minutes'}`
      : `${Math.round(minutes / 60)} hours`;
  return { ago: Math.round(seconds), words: ` (typed ${long} before it arrived, without a network)` };
}

export const answering = <T>(id: string, typed: Typed, work: (asked: Asked) => T): T => {
  const request: Asked = { id, statements: 0, sql: 0, typed };
  return current.run(request, () => work(request));
};
