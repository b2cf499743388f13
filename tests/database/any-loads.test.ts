import { afterAll, describe, expect, it } from 'vitest';
import { closePool } from '../../src/server/db.ts';
import { weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';
import { hungIn } from '../support/hung-metal.ts';
import { Loader } from '../support/loader.ts';

afterAll(closePool);

const MACHINES = ['Avocet', 'Bittern', 'Curlew', 'Dunlin', 'Egret', 'Fulmar'];
const done = new Map<string, number>();
describe('load plans, layouts and calls, while others act at the machine', () => {
  it.each(seedsOr([1, 12]))(
    'whatever is proposed can be done: seed %i',
    async (seed) => {
      const luck = chance(seed * 7919);
      for (const name of MACHINES) {
        const cell = await weirside();
        const loader = await hungIn(Loader, cell, name, luck);
        for (let plans = 0; plans < 5 && loader.wrong.length === 0; plans += 1) {
          await loader.carries();
          if (!(await loader.plan())) continue;
          for (let steps = 0; steps < 80 && loader.wrong.length === 0; steps += 1) {
            if (luck.next() < 0.25) await loader.surprise();
            if (!(await loader.step())) break;
          }
        }
        expect(loader.wrong.map((each) => `${name}: ${each}`)).toEqual([]);
        for (const [what, times] of loader.tally) done.set(what, (done.get(what) ?? 0) + times);
      }
    },
    240_000,
  );
  it('each of it was done', () => {
    for (const what of [
      'call',
      'unload',
      'declare',
      'load',
      'measure',
      'built',
      'built anew',
      'broke',
      'went elsewhere',
      'pocket broken',
      'outOfService',
      'others placed',
      'others took out',
      'others called',
      'waits',
      'worked off',
      'laid out',
      'room',
      'carried',
      'row call',
    ])
      expect(done.get(what) ?? 0, what).toBeGreaterThan(0);
  });
});
