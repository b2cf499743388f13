import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';

/** The request that is being answered: its id, and what it asked of the database. */
export interface Asked {
  id: string;
  statements: number;
  /** Milliseconds of statements, each counted whole though some ran side by side. */
  sql: number;
  /** What it says of when it was typed, where that was before it was sent; empty: just now. */
  late: string;
}

const current = new AsyncLocalStorage<Asked>();

/** The request that whatever runs now belongs to; undefined for work of the process's own. */
export const asked = (): Asked | undefined => current.getStore();

/** An id that a proxy gave is kept, so that its log and ours speak of the same; anything else is no id. */
export const idOf = (header: string | null): string =>
  header !== null && /^[\w-]{8,64}$/.test(header) ? header : randomUUID().slice(0, 8);

/** From then on it is said with the entry that something was typed before it arrived, seconds; further back than a week no clock is believed. */
const [LATE, BELIEVED] = [60, 7 * 86_400];

/** What is said of an act that a device kept until it could be sent, by the seconds that it says it did. */
export function lateWords(ago: string | null): string {
  if (ago === null) return '';
  const seconds = Number(ago);
  if (ago.trim() === '' || !Number.isFinite(seconds) || seconds < 0 || seconds > BELIEVED)
    return ' (typed earlier, without a network)';
  if (seconds < LATE) return '';
  const minutes = Math.round(seconds / 60);
  const long =
    minutes < 120
      ? `${minutes} ${minutes === 1 ? 'minute' : 'minutes'}`
      : `${Math.round(minutes / 60)} hours`;
  return ` (typed ${long} before it arrived, without a network)`;
}

export const answering = <T>(id: string, late: string, work: (asked: Asked) => T): T => {
  const request: Asked = { id, statements: 0, sql: 0, late };
  return current.run(request, () => work(request));
};
