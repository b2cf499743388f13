import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { edgeState, type ModelReading } from './edge-state.ts';

const SIGMA = 2000;
const TOLERANCE = 8 * SIGMA;
const JUMPS_AT = 40;

interface Hidden {
  /** In standard deviations of a part. */
  drift: number;
  jump: number;
  every: number;
  seed: number;
}

/** Sizes of parts whose edge drifts, and jumps before one part; what the edge does is hidden from whoever judges. */
function parts({ drift, jump, seed }: Hidden, last: number) {
  const random = chance(seed);
  return Array.from({ length: last + 1 }, (_, at) => {
    const stands = drift * at + (at >= JUMPS_AT ? jump : 0);
    return { stands: stands * SIGMA, deviation: (stands + random.normal()) * SIGMA };
  });
}
const stateAfter = (hidden: Hidden, last: number, over: { full?: boolean } = {}) => {
  const cut = parts(hidden, last);
  const readings: ModelReading[] = cut.flatMap(({ deviation }, at) =>
    at % hidden.every === 0 ? [{ size: 0, at, deviation, held: [0] }] : [],
  );
  return {
    ...edgeState({
      registers: 1,
      sizes: [{ tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] }],
      readings,
      edges: [],
      next: last,
      ...over,
    }),
    stands: cut[last]!.stands,
  };
};
const seeds = Array.from({ length: 30 }, (_, i) => 500 + i);
const square = (hidden: Omit<Hidden, 'seed'>, last: number) =>
  seeds.reduce((sum, seed) => {
    const { sizes, stands } = stateAfter({ ...hidden, seed }, last);
    return sum + ((sizes[0]!.mean - stands) / SIGMA) ** 2 / seeds.length;
  }, 0);

/**
 * The oracle: told the noise, that the edge does not drift, and that of some part on it may stand anywhere else (one part in a
 * hundred, eight standard deviations wide). All places are followed, each exactly: nobody who is told no more does better.
 */
function oracle(deviations: readonly number[]): number {
  const WIDE = 64;
  const among = (from: number, to: number) => {
    const all = deviations.slice(from, to).map((each) => each / SIGMA);
    let [mean, variance, told] = [0, WIDE, 0];
    for (const each of all) {
      const spread = variance + 1;
      told -= 0.5 * Math.log(spread) + (each - mean) ** 2 / spread / 2;
      mean += (variance / spread) * (each - mean);
      variance -= variance ** 2 / spread;
    }
    return { mean, told };
  };
  const supposed = deviations.map((_, at) => {
    const [before, after] = [among(0, at), among(at, deviations.length)];
    return { mean: after.mean, told: before.told + after.told + (at === 0 ? 0 : Math.log(0.01)) };
  });
  const top = Math.max(...supposed.map(({ told }) => told));
  const weights = supposed.map(({ told }) => Math.exp(told - top));
  const whole = weights.reduce((sum, each) => sum + each, 0);
  return supposed.reduce((sum, { mean }, i) => sum + (weights[i]! / whole) * mean, 0) * SIGMA;
}

describe('a row that jumps', () => {
  it('two readings after a jump by twice half the tolerance it is known where the edge stands now', () => {
    for (const every of [1, 5]) {
      const jump = { drift: 0, jump: 8, every };
      expect(square(jump, JUMPS_AT + every)).toBeLessThan(every === 1 ? 3 : 20);
      expect(square(jump, JUMPS_AT + 2 * every)).toBeLessThan(1.2);
    }
  });
  it('five readings after a smaller one it is not much further off than an oracle that is told the noise and that nothing drifts', () => {
    for (const jump of [4, 5, 6]) {
      const last = JUMPS_AT + 4;
      const ours = square({ drift: 0, jump, every: 1 }, last);
      const told = seeds.reduce((sum, seed) => {
        const cut = parts({ drift: 0, jump, every: 1, seed }, last);
        return (
          sum +
          ((oracle(cut.map(({ deviation }) => deviation)) - cut[last]!.stands) / SIGMA) ** 2 / seeds.length
        );
      }, 0);
      expect(ours).toBeLessThan(2 * told + 0.05);
    }
  });
  it('a jump is not told as a drift, and a drift that there is stays known', () => {
    for (const drift of [0, 0.03]) {
      const found = seeds.map((seed) => stateAfter({ drift, jump: 6, every: 1, seed }, JUMPS_AT + 8));
      const mean = found.reduce((sum, { sizes }) => sum + sizes[0]!.drift / SIGMA / seeds.length, 0);
      expect(Math.abs(mean - drift)).toBeLessThan(0.01);
    }
  });
  it('it says between which parts, by how much, and how likely', () => {
    for (const seed of seeds) {
      const { jump } = stateAfter({ drift: 0.03, jump: 7, every: 1, seed }, JUMPS_AT + 4);
      expect(jump!.likely).toBeGreaterThan(0.5);
      expect(jump!.after).toBeLessThan(JUMPS_AT);
      expect(jump!.after).toBeGreaterThan(JUMPS_AT - 4);
      expect(jump!.before).toBeGreaterThanOrEqual(JUMPS_AT);
      expect(Math.abs(jump!.by / SIGMA - 7)).toBeLessThan(2.2);
    }
  });
  it('one reading far off is no jump: nobody can tell it from a slip', () => {
    for (const seed of seeds) {
      const { jump, sizes } = stateAfter({ drift: 0, jump: 8, every: 1, seed }, JUMPS_AT);
      expect(jump).toBeNull();
      expect(sizes[0]!.mean).toBeLessThan(3.5 * SIGMA);
    }
  });
  it('where nothing jumps, hardly ever one is seen', () => {
    const seen = [0, 0.03, 0.3].flatMap((drift) =>
      seeds.flatMap((seed) =>
        [20, 40, 60].filter(
          (last) => stateAfter({ drift, jump: 0, every: 1, seed: seed + 1000 }, last).jump !== null,
        ),
      ),
    );
    expect(seen.length).toBeLessThanOrEqual(3);
  });
  it('asked whether a correction took, it is not explained away by a jump', () => {
    const { jump } = stateAfter({ drift: 0, jump: 8, every: 1, seed: 7 }, JUMPS_AT + 5, { full: true });
    expect(jump).toBeNull();
  });
  it('of two rows, the one that jumped is found by the size that both cut and the one that only it cuts', () => {
    const random = chance(77);
    const readings: ModelReading[] = [];
    for (let at = 0; at < 50; at += 1)
      for (const size of [0, 1])
        readings.push({
          size,
          at,
          deviation: (at >= 40 && size === 1 ? 8 : 0) * SIGMA + SIGMA * random.normal(),
          held: [0, 0],
        });
    const { jump, sizes } = edgeState({
      registers: 2,
      sizes: [
        { tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] },
        {
          tolerance: TOLERANCE,
          moves: [
            { register: 0, by: 1 },
            { register: 1, by: -1 },
          ],
        },
      ],
      readings,
      edges: [],
      next: 50,
    });
    expect(jump).toMatchObject({ register: 1 });
    expect(Math.abs(jump!.by / SIGMA + 8)).toBeLessThan(2);
    expect(Math.abs(sizes[0]!.mean)).toBeLessThan(SIGMA);
    expect(Math.abs(sizes[1]!.mean / SIGMA - 8)).toBeLessThan(1);
  });
});
