import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { individuals } from '../chart/control-chart.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { edgeState } from './edge-state.ts';
import { notAsBefore, onePart, type TypedReading } from './one-part.ts';

const TOLERANCE = 40_000;
let entries = 0;
const reading = (measured: number, over: Partial<TypedReading> = {}): TypedReading => {
  entries += 1;
  return {
    id: entries,
    entry: entries,
    featureId: 1,
    series: '7',
    part: 42,
    measured: nanometres(Math.round(measured)),
    recut: false,
    firstOff: false,
    where: 'null',
    ...over,
  };
};
const once = (...readings: TypedReading[]) => onePart(readings, () => TOLERANCE);

describe('readings of one part are one', () => {
  it('their mean counts, as of the first entry, by the name of the newest', () => {
    const [a, b, c] = [reading(1000), reading(4000), reading(1000)];
    expect(once(a, b, c)).toEqual([
      { ...c, entry: a.entry, measured: 2000, meant: [1000, 4000, 1000], typed: [1000, 4000, 1000] },
    ]);
  });
  it('another part, size, job or place is another; what comes between changes nothing', () => {
    const others = [
      reading(0, { part: 43 }),
      reading(0, { featureId: 2 }),
      reading(0, { series: 'p7' }),
      reading(0, { where: '{"place":2}' }),
    ];
    expect(once(reading(0), ...others, reading(0), ...others).map(({ meant }) => meant.length)).toEqual([
      2, 2, 2, 2, 2,
    ]);
  });
  it('cut again it is another, and what is measured afterwards is of that one', () => {
    const found = once(
      reading(20_000),
      reading(0, { recut: true }),
      reading(500),
      reading(9000, { recut: true }),
    );
    expect(found.map(({ meant, recut }) => [meant, recut])).toEqual([
      [[20_000], false],
      [[0, 500], true],
      [[9000], true],
    ]);
  });
  it('a first-off after a reading that was none is of a new set-up; another of it is the same part', () => {
    const found = once(reading(0), reading(500, { firstOff: true }), reading(900, { firstOff: true }));
    expect(found.map(({ meant }) => meant)).toEqual([[0], [500, 900]]);
    expect(once(reading(0, { firstOff: true }), reading(0)).map(({ firstOff }) => firstOff)).toEqual([true]);
  });
  it('one that lies further off than readings of one part do was of another: whoever stood by it saw the part', () => {
    const [a, b, c] = [reading(0), reading(TOLERANCE / 4 + 1000), reading(TOLERANCE / 4 + 2000)];
    expect(once(a, b, c)[0]).toMatchObject({
      meant: [b.measured, c.measured],
      typed: [0, b.measured, c.measured],
    });
    expect(once(a, reading(TOLERANCE / 4))[0]!.meant).toHaveLength(2);
  });
});

describe('a part measured again', () => {
  const mm = (value: number) => lengthOf(value, 'mm');
  it('is asked about where it was of another size, and not where the gauge explains it', () => {
    expect(notAsBefore([mm(20)], 42, TOLERANCE, 'mm')).toBeNull();
    expect(notAsBefore([mm(20), mm(20.01)], 42, TOLERANCE, 'mm')).toBeNull();
    const asked = notAsBefore([mm(19), mm(20), mm(20.011)], 42, TOLERANCE, 'mm');
    expect(asked).toContain('Part 42');
    expect(asked).toContain('20.000 mm');
    expect(asked).toContain('0.011 mm');
  });
});

describe('held against parts whose truth is known: spread σ, gauge a fifth of it, each part measured one to four times', () => {
  const [SIGMA, GAUGE, PARTS, RUNS] = [3000, 600, 8, 250];
  const runs = Array.from({ length: RUNS }, (_, seed) => {
    const luck = chance(seed + 1);
    return Array.from({ length: PARTS }, (_, part) => {
      const size = SIGMA * luck.normal();
      return Array.from({ length: 1 + Math.floor(4 * luck.next()) }, () =>
        reading(size + GAUGE * luck.normal(), { part }),
      );
    }).flat();
  });
  const at = (readings: readonly TypedReading[]) => {
    const state = edgeState({
      registers: 1,
      sizes: [{ tolerance: 8 * SIGMA, moves: [{ register: 0, by: 1 }] }],
      readings: readings.map(({ part, measured }) => ({ size: 0, at: part, deviation: measured, held: [0] })),
      edges: [],
      next: PARTS,
    }).sizes[0]!;
    return Math.abs(state.mean) <= 2 * state.error;
  };
  const covered = (read: (readings: readonly TypedReading[]) => readonly TypedReading[]) =>
    runs.filter((each) => at(read(each))).length / RUNS;
  const spread = (read: (readings: readonly TypedReading[]) => readonly TypedReading[]) =>
    runs.reduce((sum, each) => {
      const values = read(each).map(({ measured }) => measured);
      const ranges = values.slice(1).map((value, i) => Math.abs(value - values[i]!));
      return sum + individuals(values, ranges)!.sigma;
    }, 0) /
    RUNS /
    SIGMA;
  it('the edge stands where it is said to, as often as it is said to', () => {
    expect(covered((each) => once(...each))).toBeGreaterThan(0.92);
    // each reading for itself it is said too surely
    expect(covered((each) => each)).toBeLessThan(0.88);
  });
  it('control limits are as wide as the parts spread, not as the gauge', () => {
    expect(spread((each) => once(...each))).toBeGreaterThan(0.95);
    expect(spread((each) => each)).toBeLessThan(0.6);
  });
});
