import type pg from 'pg';
import type { Db } from './db.ts';

/**
 * The pool, for the length of one page: what was asked once is not asked again, so that the parts of a page that need the same share it,
 * and say the same. Made anew for each page; only for reading.
 */
export class OneReading {
  readonly #pool: pg.Pool;
  readonly #answers = new Map<string, Promise<pg.QueryResult>>();

  constructor(pool: pg.Pool) {
    this.#pool = pool;
  }

  /** A statement, and what it is given. Each who asks has a list of his own, of rows that all share. */
  async query(given: string | pg.QueryConfig, values: unknown[] = []): Promise<pg.QueryResult> {
    const asked: pg.QueryConfig = typeof given === 'string' ? { text: given, values } : given;
    const key = `${asked.name ?? ''}\n${asked.text}\n${JSON.stringify(asked.values)}`;
    let answer = this.#answers.get(key);
    if (!answer) {
      answer = this.#pool.query(asked);
      this.#answers.set(key, answer);
    }
    const found = await answer;
    return { ...found, rows: [...(found.rows as unknown[])] };
  }
}

export const oneReading = (pool: pg.Pool): Db => new OneReading(pool) as unknown as Db;
