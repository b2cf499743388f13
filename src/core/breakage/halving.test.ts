import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutBefore, nextToInspect } from './halving.ts';

type Outcome = 'good' | 'rework' | 'scrap' | null;
const parts = (count: number): { job: number; part: number; outcome: Outcome }[] =>
  Array.from({ length: count }, (_, i) => ({ job: 1, part: i + 1, outcome: null }));

describe('looking for the first spoilt part', () => {
  it('a hidden break is found with as many looks as halving takes, no spoilt part is passed, and each of them is looked at', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 900 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (count, where) => {
          const all = parts(count);
          const broke = 1 + Math.floor(where * count);
          let looks = 0;
          for (let next = nextToInspect(all); next; next = nextToInspect(all)) {
            looks += 1;
            const { part } = next.part;
            if (part >= broke) {
              next.part.outcome = 'scrap';
              continue;
            }
            next.part.outcome = 'good';
            for (const each of cutBefore(all, 1, part)) each.outcome ??= 'good';
          }
          for (const { part, outcome } of all) expect(outcome).toBe(part < broke ? 'good' : 'scrap');
          const spoilt = count - broke + 1;
          expect(looks).toBeLessThanOrEqual(Math.max(1, spoilt) + Math.ceil(Math.log2(count + 1)));
        },
      ),
    );
  });
  it('it never says fewer looks than it then takes to find the break', () => {
    for (const count of [1, 2, 3, 7, 8, 100, 782])
      for (const broke of [1, 2, Math.ceil(count / 2), count]) {
        const all = parts(count);
        const said = nextToInspect(all)!.looks;
        let looks = 0;
        for (;;) {
          const next = nextToInspect(all);
          const open = all.filter(({ outcome }) => outcome === null);
          const first = all.findIndex(({ outcome }) => outcome === 'scrap');
          if (!next || (first >= 0 && open.every(({ part }) => part > all[first]!.part))) break;
          looks += 1;
          if (next.part.part >= broke) next.part.outcome = 'scrap';
          else {
            next.part.outcome = 'good';
            for (const each of cutBefore(all, 1, next.part.part)) each.outcome ??= 'good';
          }
        }
        expect(looks).toBeLessThanOrEqual(said);
      }
  });
  it('the newest is looked at first: where it is good, nothing is spoilt', () => {
    const all = parts(40);
    expect(nextToInspect(all)!.part.part).toBe(40);
    expect(cutBefore(all, 1, 40)).toHaveLength(39);
  });
  it('of other jobs only those that were over by then lie before it', () => {
    const mixed = [
      { job: 1, part: 8 },
      { job: 2, part: 1 },
      { job: 2, part: 2 },
      { job: 3, part: 1 },
    ];
    expect(cutBefore(mixed, 2, 2)).toEqual([mixed[0], mixed[1]]);
    expect(cutBefore(mixed, 3, 1)).toEqual(mixed.slice(0, 3));
    // a job that was broken off and taken up again lies on both sides: nothing of it is concluded
    const taken = [mixed[0]!, mixed[1]!, { job: 1, part: 9 }];
    expect(cutBefore(taken, 2, 1)).toEqual([]);
    expect(cutBefore(taken, 1, 9)).toEqual([mixed[0]]);
    expect(cutBefore(mixed, 9, 1)).toEqual([]);
  });
});
