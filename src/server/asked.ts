import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';

/** The request that is being answered: its id, and what it asked of the database. */
export interface Asked {
  id: string;
  statements: number;
  /** Milliseconds of statements, each counted whole though some ran side by side. */
  sql: number;
}

const current = new AsyncLocalStorage<Asked>();

/** The request that whatever runs now belongs to; undefined for work of the process's own. */
export const asked = (): Asked | undefined => current.getStore();

/** An id that a proxy gave is kept, so that its log and ours speak of the same; anything else is no id. */
export const idOf = (header: string | null): string =>
  header !== null && /^[\w-]{8,64}$/.test(header) ? header : randomUUID().slice(0, 8);

export const answering = <T>(id: string, work: (asked: Asked) => T): T => {
  const request: Asked = { id, statements: 0, sql: 0 };
  return current.run(request, () => work(request));
};
