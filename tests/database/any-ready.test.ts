import { afterAll, describe, expect, it } from 'vitest';
import { closePool } from '../../src/server/db.ts';
import { weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';
import { edgesOn } from '../support/control-acts.ts';

afterAll(closePool);

const MACHINES = ['Avocet', 'Bittern', 'Curlew', 'Egret', 'Fulmar'];
const STEPS = Number(process.env.STEPS ?? 60);
const done = new Map<string, number>();
describe('lengths and wear of edges that come and go', () => {
  it.each(seedsOr([11]))(
    'nothing is said to be ready that would cut with another edge’s, and nothing stops in vain: seed %i',
    async (seed) => {
      const luck = chance(seed * 7919);
      for (const name of MACHINES) {
        const played = await edgesOn(await weirside(), name, luck);
        for (let step = 0; step < STEPS && played.wrong.length === 0; step += 1) {
          await played.something();
          await played.look();
        }
        expect(played.wrong.slice(0, 3).map((each) => `${name}: ${each}`)).toEqual([]);
        for (const [what, times] of played.tally) done.set(what, (done.get(what) ?? 0) + times);
      }
    },
    600_000,
  );
  it('each of it was done', () => {
    for (const what of [
      'taken out',
      'placed',
      'measured',
      'wear',
      'preset',
      'renewal dropped',
      'wearZeroed',
      'table kept',
      'put back',
      'meddled',
      'read off',
      'answered record',
      'rebased',
      'copied',
      'known',
    ])
      expect(done.get(what) ?? 0, what).toBeGreaterThan(0);
  });
});
