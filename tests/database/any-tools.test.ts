import pg from 'pg';
import { afterAll, describe, expect, it } from 'vitest';
import { setClock, shiftToPlay } from '../../sim/play/clock.ts';
import { closePool } from '../../src/server/db.ts';
import { weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';
import { rackOf } from '../support/rack.ts';

afterAll(closePool);

const STEPS = 260;

const done = new Map<string, number>();
describe('tools that come and go while parts are made', () => {
  it.each(seedsOr([17, 28, 60]))(
    'each has paid for the parts that it cut, and for no others: seed %i',
    async (seed) => {
      const cell = await weirside();
      const owner = new pg.Client({ connectionString: cell.database.ownerUrl });
      await owner.connect();
      const rack = await rackOf(cell, chance(seed * 7919));
      let at = (await shiftToPlay(new Date())).start.getTime();
      for (let step = 0; step < STEPS && rack.wrong.length === 0; step += 1) {
        await setClock(owner, new Date((at += 20_000)), 0);
        await rack.something();
        await rack.look();
      }
      await owner.end();
      expect(rack.wrong).toEqual([]);
      for (const [what, times] of rack.tally) done.set(what, (done.get(what) ?? 0) + times);
    },
    120_000,
  );
  it('each of it was done', () => {
    for (const what of [
      'counted',
      'counted late',
      'miscounted',
      'put right',
      'taken out',
      'put in',
      'broken off',
      'start',
      'wearZeroed',
      'read off',
    ])
      expect(done.get(what), what).toBeGreaterThan(0);
  });
});
