import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Policy } from '../correction/policies.ts';
import { lengthOf, type Length } from '../units/length.ts';
import { fieldHistories, fieldsAt, fieldWords, planFields, planWas, type PlanSize } from './plan-fields.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const plan: PlanSize & { name: string } = {
  name: 'Seat',
  kind: 'bore',
  nominal: mm(40),
  upper: mm(0.025),
  lower: mm(0),
  target: mm(40.012),
  policy: 'model',
  deadBand: mm(0.003),
  averageOf: 3,
  tool: 4,
  row: 4,
  other: { tool: 6, row: 26 },
  rough: { tool: 2, row: 12, stock: mm(0.3) },
  operatorLimit: mm(0.015),
  gauge: 'bore gauge',
  every: 5,
  also: ['shiftEnd', 'renewal'],
};

describe('the fields of a size', () => {
  it('are kept one by one', () => {
    expect(planFields(plan)).toEqual({
      kind: 'bore',
      nominal: mm(40),
      'upper limit': mm(0.025),
      'lower limit': mm(0),
      'cut by': 'T4, row 4, and T6, row 26',
      'roughed by': 'T2, row 12',
      aim: mm(40.012),
      corrected: 'model',
      'readings of an average': '3',
      'dead band': mm(0.003),
      'limit at the machine': mm(0.015),
      gauge: 'bore gauge',
      'parts between readings': '5',
      'measured also': 'renewal shiftEnd',
    });
  });
  it('say so where there is nothing', () => {
    expect(planFields({ ...plan, other: null, rough: null, gauge: '', every: null, also: [] })).toMatchObject(
      {
        'cut by': 'T4, row 4',
        'roughed by': 'nobody else',
        gauge: 'none',
        'parts between readings': 'not said',
        'measured also': 'not',
      },
    );
  });
  it('are read back as words; what the words no longer hold, as it was kept', () => {
    expect(fieldWords('kind', 'bore')).toBe('bore');
    expect(fieldWords('kind', 'partedLength')).toBe('length to the parted face');
    expect(fieldWords('kind', 'a kind of long ago')).toBe('a kind of long ago');
    expect(fieldWords('corrected', 'everyPart')).toBe('every part');
    expect(fieldWords('corrected', 'by ear')).toBe('by ear');
    expect(fieldWords('measured also', 'renewal shiftEnd')).toBe('after a renewal, at the end of a shift');
    expect(fieldWords('measured also', 'fullMoon')).toBe('fullMoon');
    expect(fieldWords('measured also', 'not')).toBe('not');
    expect(fieldWords('gauge', 'everyPart')).toBe('everyPart');
  });
});

describe('what a size was over time', () => {
  const day = (n: number) => new Date(Date.UTC(2026, 0, 1 + n));
  const state = fc.record({
    deadBand: fc.integer({ min: 1, max: 3 }).map((n) => mm(n / 1000)),
    every: fc.constantFrom(null, 1, 5),
    policy: fc.constantFrom<Policy>('model', 'everyPart'),
    gauge: fc.constantFrom('', 'micrometer'),
  });

  it('is the same as what it was seen to be at each change', () => {
    fc.assert(
      fc.property(fc.array(state, { minLength: 1, maxLength: 8 }), (states) => {
        const sizes = states.map((each) => ({ ...plan, ...each }));
        const changes = sizes
          .map((size, i) => ({ at: day(i), was: planWas(i === 0 ? [] : [sizes[i - 1]!], [size]) }))
          .reverse();
        for (const { field, history } of fieldHistories(sizes.at(-1)!, changes)) {
          // by hand: the days on which the field became another
          const seen: { at: Date; value: Length | string }[] = [];
          sizes.forEach((size, i) => {
            const value = planFields(size)[field]!;
            if (seen.at(-1)?.value !== value) seen.push({ at: day(i), value });
          });
          expect(history, field).toEqual(seen);
        }
      }),
    );
  });
  it('at any entry is what it was then', () => {
    fc.assert(
      fc.property(
        fc.array(state, { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 0, max: 90 }),
        (states, entry) => {
          const sizes = states.map((each) => ({ ...plan, ...each }));
          const changes = sizes
            .map((size, i) => ({ entry: 10 * i, was: planWas(i === 0 ? [] : [sizes[i - 1]!], [size]) }))
            .reverse();
          const then = sizes[Math.min(sizes.length - 1, Math.floor(entry / 10))]!;
          expect(fieldsAt(sizes.at(-1)!, changes, entry)).toEqual(planFields(then));
        },
      ),
    );
    // nothing is known of what a change did not keep, and all of what another size was changed in
    const gone = [
      { entry: 20, was: { Depth: { gauge: 'caliper' } } },
      { entry: 10, was: null },
    ];
    expect(fieldsAt(plan, gone, 15)).toEqual(planFields(plan));
    expect(fieldsAt(plan, gone, 5)).toEqual({});
  });
  it('is unknown before a change that did not keep it, and of a size that no change names as it is now', () => {
    const [before, now] = [plan, { ...plan, gauge: 'plug' }];
    const gauge = (changes: Parameters<typeof fieldHistories>[1]) =>
      fieldHistories(now, changes).find(({ field }) => field === 'gauge')!.history;
    // the change of day 2 is of another size: as far back as that it is known, and no further
    expect(
      gauge([
        { at: day(4), was: planWas([before], [now]) },
        { at: day(2), was: null },
      ]),
    ).toEqual([
      { at: day(2), value: 'bore gauge' },
      { at: day(4), value: 'plug' },
    ]);
    expect(gauge([{ at: day(4), was: { Depth: { gauge: 'caliper' } } }])).toEqual([
      { at: day(4), value: 'plug' },
    ]);
    expect(gauge([])).toEqual([{ at: new Date(0), value: 'plug' }]);
  });
});
