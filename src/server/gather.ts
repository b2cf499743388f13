import DataLoader from 'dataloader';
import pg from 'pg';
import type { Db } from './db.ts';
import { OneReading } from './one-reading.ts';

/**
 * A question about one thing that is asked of many at once: whoever asks within the same turn of the event loop shares one statement, so that
 * a page about forty machines asks as often as one about four.
 *
 * @param ask the statement for several keys; each of its rows says in `of` which key it belongs to
 * @returns the rows of one key, in the statement's order
 */
export function gathered<K extends number | string, R extends { of: K }>(
  ask: (db: Db, keys: readonly K[]) => Promise<R[]>,
): (db: Db, key: K) => Promise<Omit<R, 'of'>[]> {
  const loaders = new WeakMap<Db, DataLoader<K, Omit<R, 'of'>[]>>();
  return (db, key) => {
    let loader = loaders.get(db);
    if (!loader) {
      loader = new DataLoader(
        async (keys) => {
          const found = new Map<K, Omit<R, 'of'>[]>(keys.map((each) => [each, []]));
          for (const { of, ...rest } of await ask(db, [...found.keys()])) found.get(of)!.push(rest);
          return keys.map((each) => found.get(each)!);
        },
        // nothing is remembered, but for the length of a page: the next one who asks sees what is so then
        { cache: db instanceof OneReading, batchScheduleFn: (flush) => setImmediate(flush) },
      );
      loaders.set(db, loader);
    }
    return loader.load(key).then((own) => [...own]);
  };
}

/** The keys of a gathered question, each a list written as JSON, as records that a statement reads with `jsonb_to_recordset`. */
export const keyed = (
  keys: readonly string[],
  named: (list: readonly unknown[]) => Readonly<Record<string, unknown>>,
): string => JSON.stringify(keys.map((key) => ({ key, ...named(JSON.parse(key) as unknown[]) })));

/** Several questions: at once on the pool, one after the other within a transaction, which has one line to the database. */
export async function together<T extends Record<string, () => Promise<unknown>>>(
  db: Db,
  works: T,
): Promise<{ [K in keyof T]: Awaited<ReturnType<T[K]>> }> {
  const found = await forEach(db, Object.entries(works), async ([name, work]) => [name, await work()]);
  return Object.fromEntries(found) as { [K in keyof T]: Awaited<ReturnType<T[K]>> };
}

/** Does the same for each of a list, in the same way. */
export async function forEach<T, R>(db: Db, list: readonly T[], work: (each: T) => Promise<R>): Promise<R[]> {
  if (db instanceof pg.Pool || db instanceof OneReading) return Promise.all(list.map(work));
  const found: R[] = [];
  for (const each of list) found.push(await work(each));
  return found;
}
