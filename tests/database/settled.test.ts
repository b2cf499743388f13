import pg from 'pg';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { forgetSettled, settled } from '../../src/server/api/settled.ts';
import { closePool, connectionSettings, pool, row, rows } from '../../src/server/db.ts';
import { weirside } from '../support/cell.ts';
import { seeded } from '../support/seeded.ts';

beforeEach(async () => {
  await weirside();
  forgetSettled();
});
afterAll(closePool);

describe('up to which entry nothing more appears', () => {
  it('never goes past an entry that is written but not yet seen', async () => {
    const slow = new pg.Client(connectionSettings());
    await slow.connect();
    await slow.query('BEGIN');
    const { rows: early } = await slow.query<{ id: number }>(
      `INSERT INTO ledger (kind, stage, person_id, said) VALUES ('leaf', 'note', 1, 'slow') RETURNING id`,
    );
    const quick = (await row<{ id: number }>(
      pool(),
      `INSERT INTO ledger (kind, stage, person_id, said) VALUES ('leaf', 'note', 1, 'quick') RETURNING id`,
    ))!;
    expect(quick.id).toBeGreaterThan(early[0]!.id);
    for (let i = 0; i < 3; i += 1) expect(await settled(pool())).toBeLessThan(early[0]!.id);
    await slow.query('COMMIT');
    await slow.end();
    expect(await settled(pool())).toBeGreaterThanOrEqual(quick.id);
  });

  it('waits for whoever writes entries here, and for nobody who writes something else or somewhere else', async () => {
    const elsewhere = new pg.Client({ connectionString: process.env.TIN_TEST_SUPER_URL! });
    const here = new pg.Client(connectionSettings());
    await Promise.all([elsewhere.connect(), here.connect()]);
    // each has a number of its own as a transaction that writes, and goes on for long
    for (const client of [elsewhere, here]) await client.query('BEGIN; SELECT pg_current_xact_id();');
    const entry = (await row<{ id: number }>(
      pool(),
      `INSERT INTO ledger (kind, stage, person_id, said) VALUES ('leaf', 'note', 1, 'beside them') RETURNING id`,
    ))!;
    expect(await settled(pool())).toBeGreaterThanOrEqual(entry.id);
    for (const client of [elsewhere, here]) {
      await client.query('ROLLBACK');
      await client.end();
    }
  });

  it('is right whichever way people write, see and end: held against what came to light after it was said', async () => {
    const writers = await Promise.all(
      Array.from({ length: 5 }, async () => {
        const client = new pg.Client(connectionSettings());
        await client.connect();
        return { client, open: false };
      }),
    );
    const random = seeded(7);
    const lowest = (await row<{ high: number }>(pool(), 'SELECT max(id) AS high FROM ledger'))!.high;
    const seen = async () =>
      new Set(
        (await rows<{ id: number }>(pool(), 'SELECT id FROM ledger WHERE id > $1', [lowest])).map(
          ({ id }) => id,
        ),
      );
    let [said, before, moved] = [await settled(pool()), new Set<number>(), 0];
    for (let step = 0; step < 300; step += 1) {
      const writer = writers[Math.floor(random() * writers.length)]!;
      const act = random();
      if (act < 0.4) {
        if (!writer.open) await writer.client.query('BEGIN');
        writer.open = true;
        await writer.client.query(
          `INSERT INTO ledger (kind, stage, person_id, said) VALUES ('leaf', 'note', 1, 'in any order')`,
        );
      } else if (act < 0.9 && writer.open) {
        await writer.client.query(random() < 0.8 ? 'COMMIT' : 'ROLLBACK');
        writer.open = false;
      }
      const now = await seen();
      // nothing came to light at or below what had been said
      for (const id of now) if (!before.has(id)) expect(id).toBeGreaterThan(said);
      before = now;
      const next = await settled(pool());
      if (next > said) moved += 1;
      said = Math.max(said, next);
    }
    for (const { client, open } of writers) {
      if (open) await client.query('COMMIT');
      await client.end();
    }
    expect(moved).toBeGreaterThan(10);
    expect(await settled(pool())).toBe(Math.max(...(await seen())));
  });
});
