import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { edgeState, type ModelReading } from './edge-state.ts';
import { setUpsOf, type SetUpPart } from './set-ups.ts';

const part = (at: number, over: Partial<SetUpPart> = {}): SetUpPart => ({
  series: '1',
  part: at + 1,
  entry: at,
  recut: false,
  program: 'O1',
  programId: 1,
  at,
  firstOff: false,
  ...over,
});
const begins = (parts: SetUpPart[], begun: Parameters<typeof setUpsOf>[1] = []) =>
  setUpsOf(parts, begun).map(({ program, at }) => `${program} ${at}`);

describe('where new set-ups begin (H14)', () => {
  it('where somebody said so; of first-offs that follow each other, the first', () => {
    const ticked = { firstOff: true };
    // the very first parts have nothing before them
    expect(begins([part(0, ticked), part(1, ticked), part(5)])).toEqual([]);
    expect(begins([part(0), part(1), part(7, ticked), part(8, ticked), part(9)])).toEqual(['O1 1.5']);
    // two sizes of one part, of which one was ticked
    expect(begins([part(0), part(3), part(3, ticked), part(4, ticked)])).toEqual(['O1 0.5']);
    // the fixture was taken off and put back in the middle of a job
    expect(begins([part(0, ticked), part(1), part(9, ticked)])).toEqual(['O1 1.5']);
    // a first-off of the next job is another, though the last part before was one too
    const next = { series: '2', firstOff: true };
    expect(begins([part(0, ticked), part(1, next), part(2, next)])).toEqual(['O1 0.5']);
  });
  it('where another revision cuts, and where the machine has run something else since', () => {
    expect(begins([part(0), part(1), part(2, { series: '2', programId: 2 })])).toEqual(['O1 1.5']);
    const second = [part(0), part(1), part(2, { series: '2' }), part(3, { series: '2' })];
    expect(begins(second)).toEqual([]);
    const change = { entry: 2, cut: { '1': [2, 2], '2': [0, 0] } as const, jobs: 2 };
    expect(begins(second, [{ program: 'O1', change }])).toEqual(['O1 1.5']);
    // another program is another fixture
    expect(begins(second, [{ program: 'O2', change }])).toEqual([]);
    // taken up again in the middle of its job
    const within = { entry: 2, cut: { '1': [2, 2] } as const, jobs: 1 };
    const one = [part(0), part(1), part(2), part(3)];
    expect(begins(one, [{ program: 'O1', change: within }])).toEqual(['O1 1.5']);
    // a first-off measured after it is of it, though nobody has counted a part since
    const uncounted = { entry: 2.5, cut: { '1': [4, 4] } as const, jobs: 1 };
    expect(begins(one, [{ program: 'O1', change: uncounted }])).toEqual(['O1 3.5']);
    expect(
      begins([...one.slice(0, 3), part(3, { firstOff: true })], [{ program: 'O1', change: uncounted }]),
    ).toEqual(['O1 2.5']);
    // before any part, it separates nothing; and begun twice between the same parts is once
    expect(begins(one, [{ program: 'O1', change: { entry: 0, cut: { '1': [0, 0] }, jobs: 1 } }])).toEqual([]);
    expect(
      begins(
        second.map((each) => (each.series === '2' ? { ...each, firstOff: true } : each)),
        [{ program: 'O1', change }],
      ),
    ).toEqual(['O1 1.5']);
  });
});

/**
 * A cell with a hidden truth: an edge drifts on through several set-ups, each of which throws the size off anew. Whoever asks is
 * told where set-ups begin, nothing else.
 */
describe('the state of an edge over several set-ups, against the truth', () => {
  function run(seed: number, drift: number, spread: number, sizes: number) {
    const { normal } = chance(seed);
    const readings: ModelReading[] = [];
    const setUps: { size: number; at: number }[] = [];
    let offs = Array.from({ length: sizes }, () => 0);
    const told: { since: number; off: number; error: number; noise: number; slope: number }[] = [];
    const begun = Array.from({ length: sizes }, () => 0);
    for (let at = 0; at < 90; at += 1) {
      if (at > 0 && at % 30 === 0) {
        offs = offs.map(() => spread * normal());
        for (let size = 0; size < sizes; size += 1) setUps.push({ size, at: at - 0.5 });
        begun.fill(0);
      }
      const size = at % sizes;
      readings.push({ size, at, deviation: 2000 * (offs[size]! + drift * at + normal()), held: [0] });
      begun[size]! += 1;
      const state = edgeState({
        registers: 1,
        sizes: offs.map(() => ({ tolerance: 16_000, moves: [{ register: 0, by: 1 }] })),
        readings,
        edges: [],
        setUps: [...setUps],
        next: at + 1,
      }).sizes[size]!;
      if (at >= 30)
        told.push({
          since: begun[size]!,
          off: state.mean / 2000 - offs[size]! - drift * (at + 1),
          error: state.error / 2000,
          noise: state.noise / 2000,
          slope: state.drift / 2000 - drift,
        });
    }
    return told;
  }
  const rms = (values: readonly number[]) =>
    Math.sqrt(values.reduce((sum, each) => sum + each ** 2, 0) / values.length);
  it.each([
    [0, 20, 1],
    [0.1, 20, 1],
    [0.1, 0.2, 1],
    [0.1, 20, 2],
    [0, 200, 2],
  ])('drift %d, set-ups off by %d spreads, %i sizes: known as by so many parts', (drift, spread, sizes) => {
    const all = Array.from({ length: 12 }, (_, i) => run(i + 1, drift, spread, sizes)).flat();
    // by one part to within that part, by ten about as by their mean, and never far surer than it is
    for (const [since, most] of [
      [1, 1.3],
      [4, 0.8],
      [10, 0.6],
    ] as const)
      expect(rms(all.filter((each) => each.since === since).map(({ off }) => off))).toBeLessThan(most);
    expect(rms(all.map(({ off, error }) => off / Math.max(error, 0.05)))).toBeLessThan(1.5);
    // what a set-up threw off is neither noise nor drift
    expect(rms(all.map(({ noise }) => noise - 1))).toBeLessThan(0.3);
    expect(rms(all.map(({ slope }) => slope))).toBeLessThan(0.06);
  });
});
