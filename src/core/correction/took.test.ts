import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { nanometres } from '../units/length.ts';
import { didItTake, DOUBTED, HARMLESS, slipsOf } from './took.ts';

const SIGMA = 1500;
/** Parts before and after a correction of which the control came to hold something else, or what was asked. */
function parts(seed: number, from: number, to: number, holds: number, before = 5, after = 6) {
  const random = chance(seed);
  const error = -to;
  const readings = Array.from({ length: before + after }, (_, at) => ({
    size: 0,
    at,
    deviation: error + (at < before ? from : holds) + SIGMA * random.normal(),
    held: [at < before ? from : to],
  }));
  return didItTake({
    model: {
      registers: 1,
      sizes: [{ tolerance: 8 * SIGMA, moves: [{ register: 0, by: 1 }] }],
      readings,
      edges: [],
      next: readings.length,
    },
    register: 0,
    since: readings.slice(before).map(({ at }) => at),
    from: nanometres(from),
    to: nanometres(to),
    by: 1,
    noise: SIGMA,
    unit: 'mm',
    decimals: 3,
  });
}

describe('did it take (H14; common practice, no source)', () => {
  it.each([
    [-3000, -23_000, -23_000, 'took'],
    [-3000, -23_000, -3000, 'notKeyed'],
    [-3000, -23_000, 17_000, 'wrongSign'],
    [-3000, -23_000, -43_000, 'keyedTwice'],
    [-8000, 12_000, -12_000, 'valueSign'],
    [-13_000, 17_000, 30_000, 'changeAsValue'],
    [-3000, -43_000, -23_000, 'radiusForDiameter'],
    [-3000, -23_000, -230_000, 'decimalPoint'],
    [-3000, -23_000, -584_200, 'units'],
    [-3000, -41_000, -14_000, 'digitsSwapped'],
  ])('from %i to %i nm, and it holds %i: %s', (from, to, holds, slip) => {
    expect(parts(7, from, to, holds).verdict).toBe(slip);
  });
  it('correct keying is accused at most once in a hundred times, looked at after each of six parts', () => {
    let accused = 0;
    for (let seed = 1; seed <= 300; seed += 1) {
      const random = chance(seed * 31);
      const from = Math.round((random.next() - 0.5) * 20) * 1000;
      const to = from + (random.next() < 0.5 ? -1 : 1) * Math.max(1000, Math.round(random.next() * 8) * 1000);
      for (let after = 1; after <= 6; after += 1)
        if (!HARMLESS.includes(parts(seed, from, to, to, 1 + (seed % 6), after).verdict)) {
          accused += 1;
          break;
        }
    }
    expect(accused).toBeLessThanOrEqual(3);
  });
  it('a change that drowns in the spread is not judged: the row is to be read', () => {
    const answer = parts(3, 0, 500, 0);
    expect(answer.verdict).toBe('tooSmallToTell');
    expect(answer.sentence).toMatch(/Read the row/);
  });
  it('few readings are not called too noisy to tell: a change that did nothing looks like spread', () => {
    // one part before, one after, nothing moved
    const answer = parts(4, 0, -9000, 0, 1, 1);
    expect(answer.verdict).toBe('waiting');
    expect(answer.against).toBeGreaterThan(DOUBTED);
    expect(parts(4, 0, -9000, -9000, 1, 1).against).toBeLessThan(1);
  });
  it('without a part since it waits, and says for how many', () => {
    expect(parts(3, 0, -9000, -9000, 5, 0)).toMatchObject({ verdict: 'waiting', more: 1 });
    expect(parts(3, 0, -2000, -2000, 20, 0).more).toBeGreaterThan(3);
  });
  it('no slip holds what was asked, none is named twice, and their weights add up', () => {
    const slips = slipsOf(nanometres(-4000), nanometres(8000), 'mm', 3);
    expect(slips.every(({ holds }) => holds !== 8000)).toBe(true);
    expect(new Set(slips.map(({ holds }) => holds)).size).toBe(slips.length);
    expect(slips.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1);
    expect(() => parts(1, 5, 5, 5)).toThrow(RangeError);
  });
});
