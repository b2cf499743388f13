import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { closePool, pool, rows, transaction } from '../../src/server/db.ts';
import { gathered } from '../../src/server/gather.ts';
import { lastChecked } from '../../src/server/ledger.ts';
import { leafOf } from '../../src/server/leaf.ts';
import { OneReading, oneReading } from '../../src/server/one-reading.ts';
import { asSuperuser, freshDatabase, type TestDatabase } from '../support/databases.ts';

let database: TestDatabase;
beforeAll(async () => void (database = await freshDatabase('tin_demo')));
afterAll(closePool);

const owner = (sql: string) => asSuperuser((client) => client.query(sql), database.name);

describe('what the database made of a statement', () => {
  beforeEach(() =>
    owner(
      `DROP TABLE IF EXISTS slip; CREATE TABLE slip (id integer, said text); GRANT SELECT ON slip TO tin_app;
       INSERT INTO slip VALUES (1, 'seen')`,
    ),
  );

  it('is kept on its line under a name', async () => {
    const sql = 'SELECT said FROM slip WHERE id = $1';
    await transaction(async (db) => {
      expect(await rows(db, sql, [1])).toEqual([{ said: 'seen' }]);
      expect(await rows(db, sql, [2])).toEqual([]);
      const kept = await db.query(
        'SELECT count(*)::integer AS n FROM pg_prepared_statements WHERE statement = $1',
        [sql],
      );
      expect(kept.rows).toEqual([{ n: 1 }]);
    });
  });
  it.each(['SELECT * FROM slip', 'SELECT said FROM slip'])(
    'is made anew when a migration changed what it returns: %s',
    async (sql) => {
      // on every line of the pool
      await Promise.all(Array.from({ length: 12 }, () => rows(pool(), sql)));
      await owner(`ALTER TABLE slip ALTER said TYPE varchar, ADD more integer DEFAULT 7`);
      const again = await Promise.all(Array.from({ length: 12 }, () => rows(pool(), sql)));
      for (const found of again)
        expect(found).toEqual(sql.includes('*') ? [{ id: 1, said: 'seen', more: 7 }] : [{ said: 'seen' }]);
    },
  );
  it('is not kept within a transaction where the columns are left to the table', async () => {
    const sql = 'SELECT s.* FROM slip s';
    await transaction(async (db) => {
      await rows(db, sql);
      const kept = await db.query(
        'SELECT count(*)::integer AS n FROM pg_prepared_statements WHERE statement = $1',
        [sql],
      );
      expect(kept.rows).toEqual([{ n: 0 }]);
    });
  });
});

it('a check of all sums that takes long holds nobody: first that it is looked at, then what was found, and one that found something anew', async () => {
  let asked = 0;
  const checks = (milliseconds: number, wrong: number) =>
    ({
      query: async () => {
        asked += 1;
        await pause(milliseconds);
        return { rows: Array.from({ length: wrong }, () => ({})) };
      },
    }) as never;
  // two who come at once share one check
  expect(await Promise.all([lastChecked(checks(1500, 2)), lastChecked(checks(1500, 2))])).toEqual([
    null,
    null,
  ]);
  expect(asked).toBe(1);
  await pause(1500);
  // it found something: looked at anew, and while that takes long what was found is told
  expect(await lastChecked(checks(1500, 0))).toMatchObject({ wrong: 2 });
  expect(asked).toBe(2);
  await pause(1500);
  expect(await lastChecked(checks(0, 9))).toMatchObject({ wrong: 0 });
  expect(asked).toBe(2);
});

describe('one reading, for the length of a page', () => {
  /** A pool that writes down what it is asked. */
  function watched() {
    const texts: string[] = [];
    const watching = {
      query: (asked: { text: string }) => {
        texts.push(asked.text);
        return pool().query(asked);
      },
    };
    return { texts, db: new OneReading(watching as never) as never };
  }

  it('asks once, and gives each who asks a list of his own', async () => {
    const { texts, db } = watched();
    const sql = 'SELECT id FROM machine WHERE id <= $1 ORDER BY id';
    const [one, other] = await Promise.all([
      rows<{ id: number }>(db, sql, [2]),
      rows<{ id: number }>(db, sql, [2]),
    ]);
    one.reverse();
    expect(other.map(({ id }) => id)).toEqual([1, 2]);
    expect((await rows(db, sql, [1])).length).toBe(1);
    expect(texts).toEqual([sql, sql]);
  });
  it('remembers what was gathered, and the next page sees what is so then', async () => {
    const { texts, db } = watched();
    const names = gathered((asking, ids: readonly number[]) =>
      rows<{ of: number; name: string }>(asking, 'SELECT id AS "of", name FROM machine WHERE id = ANY($1)', [
        ids,
      ]),
    );
    const before = await names(db, 1);
    before.pop();
    await owner(`UPDATE machine SET name = name || ' II' WHERE id = 1`);
    expect(await names(db, 1)).toEqual([{ name: 'Avocet' }]);
    expect(texts.length).toBe(1);
    expect(await names(oneReading(pool()), 1)).toEqual([{ name: 'Avocet II' }]);
    await owner(`UPDATE machine SET name = 'Avocet' WHERE id = 1`);
  });
  it('gives a leaf the same as asking anew for each part of it', async () => {
    const [date, shift, now] = ['2026-11-23', 'early', new Date('2026-11-23T09:00:00Z')] as const;
    const together = await leafOf(date, shift, now);
    expect(together).not.toBeNull();
    expect(together).toEqual(await leafOf(date, shift, now, pool()));
  });
  it('asks again what was refused', async () => {
    const { db } = watched();
    await expect(rows(db, 'SELECT nothing FROM machine')).rejects.toMatchObject({ code: '42703' });
    expect((await rows(db, 'SELECT 1 AS one')).length).toBe(1);
  });
});
