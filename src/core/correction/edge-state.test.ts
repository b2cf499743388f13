import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { chance } from '../../../tests/support/chance.ts';
import { edgeState, type ModelReading } from './edge-state.ts';

const TOLERANCE = 40_000;
const one = (readings: ModelReading[], over: Partial<Parameters<typeof edgeState>[0]> = {}) =>
  edgeState({
    registers: 1,
    sizes: [{ tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] }],
    readings,
    edges: [],
    next: readings.length,
    ...over,
  });
const row = (deviations: number[], held = 0): ModelReading[] =>
  deviations.map((deviation, at) => ({ size: 0, at, deviation, held: [held] }));

describe('where an edge stands', () => {
  it('the first reading of a set-up is taken whole, and k of them by their mean (F. E. Grubbs, harmonic shares; from memory)', () => {
    expect(one(row([7000])).sizes[0]!.mean).toBeCloseTo(7000, -2);
    const random = chance(3);
    for (const k of [3, 10, 30]) {
      const deviations = Array.from({ length: k }, () => 7000 + 2000 * random.normal());
      const mean = deviations.reduce((sum, each) => sum + each, 0) / k;
      expect(Math.abs(one(row(deviations)).sizes[0]!.mean - mean)).toBeLessThan(2000 / Math.sqrt(k));
    }
  });
  it('what the register held is taken out: parts cut with other offsets tell the same of the edge', () => {
    const plain = one(row([5000, 6000, 4000, 5000])).sizes[0]!;
    const moved = one([
      ...row([5000, 6000]),
      { size: 0, at: 2, deviation: 4000 - 5000, held: [-5000] },
      { size: 0, at: 3, deviation: 5000 - 5000, held: [-5000] },
    ]).sizes[0]!;
    expect(moved.mean).toBeCloseTo(plain.mean, 3);
    expect(moved.noise).toBeCloseTo(plain.noise, 3);
  });
  it('noise is learnt: what begins from an eighth of the tolerance comes to the truth, above it and below', () => {
    for (const sigma of [500, 2000, 9000]) {
      const random = chance(11);
      const state = one(row(Array.from({ length: 100 }, () => sigma * random.normal())));
      expect(state.sizes[0]!.noise / sigma).toBeGreaterThan(0.8);
      expect(state.sizes[0]!.noise / sigma).toBeLessThan(1.25);
    }
  });
  it('a steady drift is found with its sign and size, within twice its own error', () => {
    const random = chance(5);
    for (const drift of [-600, 90, 300]) {
      const { drift: found, driftError } = one(
        row(Array.from({ length: 60 }, (_, i) => drift * i + 2000 * random.normal())),
      ).sizes[0]!;
      expect(Math.abs(found - drift)).toBeLessThan(2.5 * driftError);
      expect(driftError).toBeLessThan(80);
    }
  });
  it('where a process only wanders, the weight of a reading comes to the steady gain (J. F. Muth 1960, closed form)', () => {
    // the error of an estimate just before a reading is √(P/σ²), with P from q as the closed form has it
    for (const [q, gain] of checks.kalmanSteadyGain.cases.filter(([each]) => each === 0.09) as [
      number,
      number,
    ][]) {
      const random = chance(17);
      let at = 0;
      const deviations = Array.from({ length: 120 }, () => {
        at += Math.sqrt(q) * 2000 * random.normal();
        return at + 2000 * random.normal();
      });
      const before = one(row(deviations)).sizes[0]!;
      const steady = gain / (1 - gain);
      expect((before.error / before.noise) ** 2 / steady).toBeGreaterThan(0.6);
      expect((before.error / before.noise) ** 2 / steady).toBeLessThan(1.7);
    }
  });
  it('one reading far off counts for less the further it lies', () => {
    const random = chance(23);
    const good = Array.from({ length: 20 }, () => 1000 * random.normal());
    const shift = (far: number) =>
      Math.abs(one(row([...good, far])).sizes[0]!.mean - one(row(good)).sizes[0]!.mean);
    expect(shift(30_000)).toBeLessThan(2 * shift(6000));
    expect(one(row([...good, 30_000])).sizes[0]!.noise).toBeLessThan(3000);
  });
  it('after a new edge the old one says only where new ones usually begin', () => {
    const old = row(Array.from({ length: 20 }, () => 9000));
    const fresh = one([...old, { size: 0, at: 20, deviation: -4000, held: [0] }], {
      edges: [{ register: 0, at: 19.5 }],
      next: 21,
    }).sizes[0]!;
    expect(fresh.mean).toBeLessThan(-2500);
    expect(fresh.error).toBeGreaterThan(one(old).sizes[0]!.error * 2);
  });
  it('new edges that always begin alike: the next is expected there before a part is measured', () => {
    const random = chance(31);
    const readings: ModelReading[] = [];
    const edges = [];
    for (let edge = 0; edge < 6; edge += 1) {
      if (edge > 0) edges.push({ register: 0, at: edge * 10 - 0.5 });
      const begins = 8000 + 500 * random.normal();
      for (let i = 0; i < 10; i += 1)
        readings.push({ size: 0, at: edge * 10 + i, deviation: begins + 1000 * random.normal(), held: [0] });
    }
    edges.push({ register: 0, at: 59.5 });
    const next = one(readings, { edges, next: 60 }).sizes[0]!;
    expect(Math.abs(next.mean - 8000)).toBeLessThan(2000);
  });
  it('two sizes of one row that always differ by the same: both are foretold, each about its own place', () => {
    const random = chance(41);
    const readings: ModelReading[] = [];
    for (let at = 0; at < 40; at += 1)
      readings.push({
        size: at % 2,
        at,
        deviation: (at % 2 === 0 ? 6000 : -5000) + 800 * random.normal(),
        held: [0],
      });
    const state = edgeState({
      registers: 1,
      sizes: [
        { tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] },
        { tolerance: TOLERANCE, moves: [{ register: 0, by: 1 }] },
      ],
      readings,
      edges: [],
      next: 40,
    });
    expect(Math.abs(state.sizes[0]!.mean - 6000)).toBeLessThan(700);
    expect(Math.abs(state.sizes[1]!.mean + 5000)).toBeLessThan(700);
  });
});

describe('corrected by it, a process keeps near its least spread', () => {
  /** Parts are cut, measured and corrected by the model; what is hidden from it is the edge. Mean square over σ². */
  function spread(seed: number, drift: number, every: (mean: number, noise: number) => number): number {
    const random = chance(seed);
    const sigma = 2000;
    const readings: ModelReading[] = [];
    let [held, square] = [0, 0];
    for (let at = 0; at < 80; at += 1) {
      const deviation = 2000 + drift * sigma * at + held + sigma * random.normal();
      if (at >= 10) square += deviation ** 2;
      readings.push({ size: 0, at, deviation, held: [held] });
      const { mean, noise } = one(readings, { next: at + 1 }).sizes[0]!;
      held -= Math.round(every(mean + held, noise));
    }
    return square / 70 / sigma ** 2;
  }
  it('a centred one and a slow drift stay within a sixth of σ², where correcting every part doubles it', () => {
    const byModel = (mean: number, noise: number) => (Math.abs(mean) > 0.43 * noise ? mean : 0);
    for (const drift of [0, 0.03]) {
      const all = Array.from({ length: 8 }, (_, i) => spread(100 + i, drift, byModel));
      expect(all.reduce((sum, each) => sum + each, 0) / all.length).toBeLessThan(1.17);
    }
  });
});
