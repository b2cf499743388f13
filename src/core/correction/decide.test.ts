import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { aimsOf, bandOf, decide, type DecisionQuestion } from './decide.ts';

/** What a choice of changes is worth, by the words of the rule and nothing else. */
function worth({ rows, sizes, every }: DecisionQuestion, changes: readonly number[]): [number, number] {
  let [outside, loss] = [0, 0];
  for (const size of sizes) {
    const width = size.upper - size.lower;
    const aim = aimsOf(size, every);
    const moved = size.moves.reduce((sum, { register, by }) => sum + by * changes[register]!, 0);
    const still = size.moves.every(({ register }) => changes[register] === 0);
    const at = still ? aim.waiting : aim.ahead + moved - aim.best;
    loss += (at / width) ** 2;
    const next = size.mean + moved;
    const far = Math.max(0, size.lower - next, next - size.upper);
    // fewest out first, then by as little as can be
    outside += far === 0 ? 0 : 1000 + far / width;
  }
  rows.forEach((_, i) => {
    const touched = sizes.filter(({ moves }) => moves.some(({ register }) => register === i));
    if (changes[i] !== 0)
      loss += Math.max(0, ...touched.map((size) => (bandOf(size) / (size.upper - size.lower)) ** 2));
  });
  return [outside, loss];
}

function exhaustive(question: DecisionQuestion): [number, number] {
  let best: [number, number] = [Infinity, Infinity];
  const go = (changes: number[]) => {
    if (changes.length === question.rows.length) {
      const found = worth(question, changes);
      if (found[0] < best[0] - 1e-9 || (found[0] < best[0] + 1e-9 && found[1] < best[1])) best = found;
      return;
    }
    const row = question.rows[changes.length]!;
    for (let step = -13; step <= 13; step += 1) {
      const change = step * row.increment;
      const allowed =
        Math.abs(change) <= row.largest &&
        Math.abs(row.held + change) <= Math.max(row.limit, Math.abs(row.held));
      if (change === 0 || allowed) go([...changes, change]);
    }
  };
  go([]);
  return best;
}

function problem(random: ReturnType<typeof chance>): DecisionQuestion {
  const rows = Array.from({ length: random.next() < 0.6 ? 2 : 1 }, () => ({
    held: Math.round((random.next() - 0.5) * 20) * 1000,
    increment: 1000,
    largest: random.next() < 0.3 ? 3000 : 12_000,
    limit: 12_000,
  }));
  const sizes = Array.from({ length: 1 + Math.floor(random.next() * 3) }, () => {
    const width = (4 + Math.floor(random.next() * 12)) * 1000;
    const first = Math.floor(random.next() * rows.length);
    const registers = rows.length === 2 && random.next() < 0.4 ? [first, 1 - first] : [first];
    return {
      mean: (random.next() - 0.5) * 14_000,
      error: random.next() * 1500,
      noise: 500 + random.next() * 2500,
      drift: random.next() < 0.5 ? 0 : (random.next() - 0.5) * 300,
      driftError: random.next() * 100,
      lower: -width / 2,
      upper: width / 2,
      moves: registers.map((register) => ({
        register,
        by: [1, -1, 2, -2, 0.5][Math.floor(random.next() * 5)]!,
      })),
    };
  });
  return { rows, sizes, every: 1 + Math.floor(random.next() * 5) };
}

const size = (mean: number, moves: { register: number; by: number }[], width = 20_000) => ({
  mean,
  error: 100,
  noise: 1000,
  drift: 0,
  driftError: 0,
  lower: -width / 2,
  upper: width / 2,
  moves,
});
const row = (held = 0) => ({ held, increment: 1000, largest: Infinity, limit: Infinity });

describe('all rows of a set-up together', () => {
  it('ten thousand small joint problems come out as exhaustive search has them', () => {
    const random = chance(20_261_126);
    for (let i = 0; i < 10_000; i += 1) {
      const question = problem(random);
      const decision = decide(question);
      const [outside, loss] = worth(question, decision.changes);
      const best = exhaustive(question);
      expect(decision.proven).toBe(true);
      expect(outside).toBeLessThan(best[0] + 1e-9);
      if (Math.abs(outside - best[0]) < 1e-9) expect(loss).toBeLessThan(best[1] + 1e-12);
    }
  });
  it('one size on one row is brought to its target, in whole steps', () => {
    expect(
      decide({ rows: [row()], sizes: [size(6400, [{ register: 0, by: 1 }])], every: 1 }).changes,
    ).toEqual([-6000]);
    expect(
      decide({ rows: [row()], sizes: [size(6400, [{ register: 0, by: -2 }])], every: 1 }).changes,
    ).toEqual([3000]);
  });
  it('inside the dead band of the estimate nothing moves', () => {
    for (const mean of [0, 400, -420])
      expect(
        decide({ rows: [row()], sizes: [size(mean, [{ register: 0, by: 1 }])], every: 1 }).changes,
      ).toEqual([0]);
    expect(decide({ rows: [row()], sizes: [size(700, [{ register: 0, by: 1 }])], every: 1 }).changes).toEqual(
      [-1000],
    );
  });
  it('what is not known well enough is left alone, however far off it seems', () => {
    const unknown = { ...size(1500, [{ register: 0, by: 1 }]), error: 2000 };
    expect(decide({ rows: [row()], sizes: [unknown], every: 1 }).changes).toEqual([0]);
    expect(decide({ rows: [row()], sizes: [{ ...unknown, mean: 2600 }], every: 1 }).changes).toEqual([-3000]);
  });
  it('a drifting size is set beyond the middle, and sooner the longer nobody will look', () => {
    const drifting = { ...size(300, [{ register: 0, by: 1 }]), drift: 60, driftError: 5 };
    expect(decide({ rows: [row()], sizes: [drifting], every: 1 }).changes).toEqual([0]);
    expect(decide({ rows: [row()], sizes: [drifting], every: 20 }).changes[0]).toBeLessThan(0);
  });
  it('two sizes that disagree about one row: none is put out for the other, and the tighter one counts more', () => {
    const decision = decide({
      rows: [row()],
      sizes: [size(6000, [{ register: 0, by: 1 }], 8000), size(-6000, [{ register: 0, by: 1 }], 40_000)],
      every: 1,
    });
    expect(decision.outside).toBe(0);
    expect(decision.after[0]).toBeLessThan(4001);
    const even = decide({
      rows: [row()],
      sizes: [size(6000, [{ register: 0, by: 1 }], 8000), size(-6000, [{ register: 0, by: 1 }], 8000)],
      every: 1,
    });
    // one of them can be brought in, and the other not: never both left out
    expect(even.outside).toBeGreaterThan(0);
    expect(even.after.filter((at) => Math.abs(at) <= 4000)).toHaveLength(1);
  });
  it('rows with nothing in common are decided each by itself, many of them at once', () => {
    const rows = Array.from({ length: 40 }, () => row());
    const sizes = Array.from({ length: 100 }, (_, i) =>
      size(((i * 7919) % 13) * 700 - 4000, [{ register: i % 40, by: 1 }]),
    );
    const together = decide({ rows, sizes, every: 1 });
    rows.forEach((_, i) => {
      const alone = decide({
        rows: [row()],
        sizes: sizes
          .filter((__, s) => s % 40 === i)
          .map((each) => ({ ...each, moves: [{ register: 0, by: 1 }] })),
        every: 1,
      });
      expect(together.changes[i]).toBe(alone.changes[0]);
    });
  });
});
