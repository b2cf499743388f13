import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { noiseBefore } from './edge-noise.ts';
import type { ModelQuestion, ModelReading } from './edge-state.ts';

const TOLERANCE = 40_000;
const YOUNG = TOLERANCE / 8;
const question = (readings: ModelReading[], over: Partial<ModelQuestion> = {}): ModelQuestion => ({
  registers: 1,
  sizes: [{ tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] }],
  readings,
  edges: [],
  setUps: [],
  next: 100,
  ...over,
});
const reading = (at: number, deviation: number, over: Partial<ModelReading> = {}): ModelReading => ({
  size: 0,
  at,
  deviation,
  held: [0],
  ...over,
});
const noise = (readings: ModelReading[], over: Partial<ModelQuestion> = {}, size = 0) =>
  Math.sqrt(noiseBefore(question(readings, over), size));
/** What so many distances of this middle come to beside what the tolerance says, which counts for three. */
const mixed = (middle: number, distances: number) => {
  const learnt = Math.max(middle / 0.6745, YOUNG / 100);
  return Math.exp((3 * Math.log(YOUNG) + distances * Math.log(learnt)) / (3 + distances));
};
const close = (found: number, expected: number) => expect(found / expected).toBeCloseTo(1, 9);

describe('how noisy a size is, to begin with', () => {
  it('is taken from its tolerance while nothing lies between two others', () => {
    for (const readings of [[], [reading(0, 900)], [reading(0, 900), reading(5, -7000)]])
      expect(noise(readings)).toBeCloseTo(YOUNG, 6);
  });
  it('then from how far a reading lies off the line between its neighbours, wherever it lies between them', () => {
    // halfway: as many noises as √(1 + ¼ + ¼)
    close(noise([reading(0, 0), reading(1, 3000), reading(2, 0)]), mixed(3000 / Math.sqrt(1.5), 1));
    // a quarter of the way, with a drift of 500 a part that is no noise
    close(
      noise([reading(10, 1000), reading(11, 4500), reading(14, 3000)]),
      mixed(3000 / Math.sqrt(1 + 1 / 16 + 9 / 16), 1),
    );
    // three readings of one part
    close(noise([reading(7, 0), reading(7, 3000), reading(7, 0)]), mixed(3000 / Math.sqrt(1.5), 1));
  });
  it('by the middle of all distances: one that lies far says little', () => {
    const at = [0, 100, 0, 100, 0, 100, 0, 90_000].map((deviation, i) => reading(i, deviation));
    close(noise(at), mixed(100 / Math.sqrt(1.5), 6));
  });
  it('a drift alone is none: a hundredth of what the tolerance says is the least', () => {
    close(noise(Array.from({ length: 12 }, (_, i) => reading(i, 700 * i))), mixed(0, 10));
  });
  it('what the row was moved by between them is taken out', () => {
    const steady = [0, 3000, 0, 3000, 0].map((deviation, i) => reading(i, deviation));
    const row = [0, 0, -9000, -9000, 5000];
    const moved = steady.map((each, i) => ({
      ...each,
      deviation: each.deviation + row[i]!,
      held: [row[i]!],
    }));
    close(noise(moved), noise(steady));
  });
  it('there is no line across a set-up of the size; one of another size is none of it', () => {
    const readings = [0, 0, 0, 50_000, 50_000, 50_000].map((deviation, i) => reading(i, deviation));
    const sizes = [0, 1].map(() => ({ tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] }));
    const from = (...setUps: { size: number; at: number }[]) => noise(readings, { sizes, setUps });
    // two lines are left, and both are straight
    close(from({ size: 0, at: 2.5 }), mixed(0, 2));
    close(from({ size: 1, at: 2.5 }), mixed(25_000 / Math.sqrt(1.5), 4));
    // from that part on: the line that begins there is kept, the one that ends there is not
    close(from({ size: 0, at: 3 }), mixed(0, 2));
    close(from({ size: 0, at: 2 }), mixed(25_000 / Math.sqrt(1.5), 2));
  });
  it('of another size nothing is learnt', () => {
    const sizes = [0, 1].map(() => ({ tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] }));
    const readings = [0, 9000, 0, 9000].map((deviation, i) => reading(i, deviation, { size: 1 }));
    expect(noise(readings, { sizes })).toBeCloseTo(YOUNG, 6);
    close(noise(readings, { sizes }, 1), mixed(9000 / Math.sqrt(1.5), 2));
  });
  it('comes to what it is, by many', () => {
    const random = chance(4);
    const many = Array.from({ length: 2000 }, (_, i) => reading(i, 40 * i + 1500 * random.normal()));
    expect(noise(many) / 1500).toBeGreaterThan(0.95);
    expect(noise(many) / 1500).toBeLessThan(1.05);
  });
});

describe('of a size in two places', () => {
  const sizes = [0, 1].map(() => ({ tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }], alike: 0 }));
  const inTurn = (apart: number) =>
    Array.from({ length: 8 }, (_, i) =>
      // each place by itself: nought and a hundred in turn
      reading(i, (i % 4 < 2 ? 0 : 100) + (i % 2) * apart, { size: i % 2 }),
    );
  it('that they stand apart is no noise: each place by its own neighbours, both together', () => {
    for (const size of [0, 1]) close(noise(inTurn(9000), { sizes }, size), mixed(100 / Math.sqrt(1.5), 4));
  });
  it('where they stand alike what lies between two of the other tells as well', () => {
    // of each place two: neither has a line of its own
    const few = [0, 3000, 0, 3000].map((deviation, i) =>
      reading(i, deviation, { size: i % 3 === 0 ? 0 : 1 }),
    );
    close(noise(few, { sizes }), mixed(3000 / Math.sqrt(1.5), 2));
    // what stands apart makes no size noisier than its tolerance says
    const apart = few.map((each) => ({ ...each, deviation: each.size * 30_000 }));
    expect(noise(apart, { sizes })).toBeCloseTo(YOUNG, 6);
  });
});
