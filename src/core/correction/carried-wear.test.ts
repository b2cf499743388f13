import { describe, expect, it } from 'vitest';
import { seeded } from '../../../tests/support/seeded.ts';
import { nanometres } from '../units/length.ts';
import { bySetUp, carriedWear, edgesBegan, ofSetUp, wearShares, type EdgeBegan } from './carried-wear.ts';

const um = (value: number) => value * 1000;
const step = nanometres(1000);
const normalOf = (random: () => number) => () =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/** Edges of one row: the machine's share and each edge's own are known here alone. */
function edgesOf(
  count: number,
  machine: number,
  edge: number,
  noise: number,
  normal: () => number,
): { began: EdgeBegan[]; own: number[] } {
  const own = Array.from({ length: count }, () => um(edge) * normal());
  return {
    own,
    began: own.map((value) => ({
      wanted: um(machine) + value + um(noise) * normal(),
      error: um(noise),
      setUp: 0,
    })),
  };
}

describe('whether wear follows the tool or the machine', () => {
  it('is told rightly in simulated cells: none of nothing, nearly all of what is there', () => {
    const normal = normalOf(seeded(41));
    let [wrongly, found, covered, told] = [0, 0, 0, 0];
    for (let i = 0; i < 600; i += 1) {
      const count = 3 + (i % 8);
      const none = wearShares(edgesOf(count, 0, 4, 1.5, normal).began);
      if (none.verdict === 'machine') wrongly += 1;
      const there = wearShares(edgesOf(count, 15, 3, 1.5, normal).began);
      if (there.verdict === 'machine') {
        found += 1;
        if (Math.abs(there.machine - um(15)) <= 2.3 * there.error) covered += 1;
      }
      told += 1;
    }
    // one in twenty by its construction, and what six hundred tries leave to luck
    expect(wrongly / told).toBeLessThan(0.075);
    expect(found / told).toBeGreaterThan(0.93);
    expect(covered / found).toBeGreaterThan(0.9);
  });

  it('carried as it says, the first part stands nearer to its target than with all or nothing carried', () => {
    const normal = normalOf(seeded(42));
    const off = { said: 0, all: 0, nothing: 0 };
    for (let i = 0; i < 500; i += 1) {
      const [home, away] = [20 * normal(), 20 * normal()];
      const here = edgesOf(6, home, 4, 1, normal);
      const there = edgesOf(6, away, 4, 1, normal);
      // the last edge at home goes; by now it is corrected to its target there
      const own = here.own.at(-1)!;
      const held = nanometres(Math.round((um(home) + own) / 1000) * 1000);
      const wanted = um(away) + own;
      const { there: keyed } = carriedWear(held, wearShares(here.began), wearShares(there.began), true, step);
      off.said += Math.abs(keyed - wanted);
      off.all += Math.abs(held - wanted);
      off.nothing += Math.abs(wanted);
    }
    expect(off.said).toBeLessThan(off.all / 4);
    expect(off.said).toBeLessThan(off.nothing / 3);
  });

  it('of two edges nothing is told', () => {
    const { began } = edgesOf(2, 15, 1, 1, normalOf(seeded(1)));
    expect(wearShares(began)).toMatchObject({ verdict: 'cannotTell', machine: 0 });
  });

  it('edges that agree to a hair are the machine’s, edges that differ about nought are their own', () => {
    const exact = [10, 10.1, 9.9].map((wanted) => ({ wanted: um(wanted), error: um(0.2) }));
    expect(wearShares(exact)).toMatchObject({ verdict: 'machine', edges: 3 });
    const own = [10, -9, 8, -11].map((wanted) => ({ wanted: um(wanted), error: um(0.2) }));
    expect(wearShares(own)).toMatchObject({ verdict: 'tool', machine: 0 });
  });
});

describe('how edges began', () => {
  it('is what their first three parts wanted of the register, edge by edge', () => {
    const part = (at: number, deviation: number, held: number) => ({
      at,
      deviation: um(deviation),
      held: um(held),
    });
    const parts = [part(0, 8, 0), part(1, 10, 0), part(2, 0, -4.5), part(3, 20, -4.5), part(10, -6, -4.5)];
    // a diameter moves twice as far as its radius register
    const began = edgesBegan(parts, [9.5, 20], [], 2, um(2));
    expect(began).toHaveLength(2);
    expect(began[0]!.wanted).toBeCloseTo(um((-4 - 5 - 4.5) / 3), 6);
    expect(began[0]!.error).toBeCloseTo(um(1) / Math.sqrt(3), 6);
    expect(began[1]).toEqual({ wanted: um(-1.5), error: um(1), setUp: 0 });
  });
});

describe('set-ups that were each off by something of their own', () => {
  /** Parts of one size over set-ups; the last edge of the last is in, corrected to its target. */
  const cell = (
    normal: () => number,
    setUps: number,
    edges: number,
    truth = { setUp: 25, edge: 5, noise: 1 },
  ) => {
    const parts: { at: number; deviation: number; held: number }[] = [];
    const [anew, began]: [number[], number[]] = [[], []];
    let [error, own, at] = [0, 0, 0];
    for (let setUp = 0; setUp < setUps; setUp += 1) {
      error = truth.setUp * normal();
      if (setUp > 0) began.push(at - 0.5);
      for (let edge = 0; edge < edges; edge += 1) {
        own = truth.edge * normal();
        if (at > 0) anew.push(at - 0.5);
        for (let part = 0; part < 4; part += 1, at += 1)
          parts.push({ at, deviation: um(error + own + truth.noise * normal()), held: 0 });
      }
    }
    return { parts, anew, began, own, held: nanometres(Math.round(um(-error - own))) };
  };
  const none = wearShares([]);

  it('with one edge each nobody can tell what is the edge’s: nothing is carried', () => {
    const normal = normalOf(seeded(51));
    for (let i = 0; i < 100; i += 1) {
      const { parts, anew, began, held } = cell(normal, 6, 1);
      const shares = wearShares(ofSetUp(edgesBegan(parts, anew, began, 1, um(1)), began.length));
      expect(shares.verdict).toBe('cannotTell');
      expect(carriedWear(held, shares, none, true, step).there).toBe(0);
    }
  });

  it('with several in the one that stands, what is carried is the edge’s and not the set-up’s', () => {
    const normal = normalOf(seeded(52));
    const off = { said: 0, all: 0, known: 0 };
    for (let i = 0; i < 300; i += 1) {
      const { parts, anew, began, own, held } = cell(normal, 4, 6);
      const all = edgesBegan(parts, anew, began, 1, um(1));
      expect(all).toHaveLength(24);
      const keyed = (shares: ReturnType<typeof wearShares>) =>
        Math.abs(carriedWear(held, shares, none, true, step).there - um(-own));
      off.said += keyed(wearShares(ofSetUp(all, began.length)));
      // as if all edges had begun in one set-up
      off.all += keyed(wearShares(all));
      off.known += um(5);
    }
    expect(off.said).toBeLessThan(off.all / 2);
    expect(off.said).toBeLessThan(1.5 * off.known);
  });

  it('many edges of one set-up say once where the next begins', () => {
    const normal = normalOf(seeded(53));
    let wrongly = 0;
    for (let i = 0; i < 300; i += 1) {
      const { parts, anew, began } = cell(normal, 3, 5);
      const all = edgesBegan(parts, anew, began, 1, um(1));
      expect(bySetUp(all)).toHaveLength(3);
      if (wearShares(bySetUp(all)).verdict === 'machine') wrongly += 1;
    }
    // nothing stays with the machine: one in twenty by its construction
    expect(wrongly / 300).toBeLessThan(0.09);
  });

  it('an edge that goes on in a new set-up did not begin there', () => {
    const part = (at: number) => ({ at, deviation: um(5), held: 0 });
    const parts = [0, 1, 2, 3, 4, 5].map(part);
    expect(edgesBegan(parts, [], [2.5], 1, um(1)).map(({ setUp }) => setUp)).toEqual([0]);
    expect(edgesBegan(parts, [2.5], [2.5], 1, um(1)).map(({ setUp }) => setUp)).toEqual([0, 1]);
  });
});

describe('what is keyed on the other machine', () => {
  const share = (verdict: 'machine' | 'tool' | 'cannotTell', machine = 0) => ({
    verdict,
    machine: um(machine),
    error: 1,
    edges: 5,
  });
  const held = nanometres(um(-12));
  it.each([
    [share('machine', -10), share('cannotTell'), true, -2, /of its own/],
    [share('machine', -10), share('machine', 4), true, 2, /own, and what edges begin with there/],
    [share('tool'), share('tool'), true, -12, /all of it/],
    [share('cannotTell'), share('tool'), true, 0, /too few edges.*at nought/],
    [share('cannotTell'), share('machine', 3), true, 3, /too few edges.*begin with there/],
    [share('machine', -10), share('machine', 3), false, 3, /another edge: what edges/],
    [share('tool'), share('tool'), false, 0, /another edge: begin at nought/],
  ] as const)('%#', (home, away, moved, there, words) => {
    const carried = carriedWear(held, home, away, moved, step);
    expect(carried.there).toBe(um(there));
    expect(carried.words).toMatch(words);
  });
  it('nothing stays nothing', () => {
    expect(carriedWear(nanometres(0), share('tool'), share('tool'), true, step)).toEqual({
      there: 0,
      words: 'it holds nothing',
    });
  });
});

describe('worked by hand', () => {
  const edge = (wanted: number, error: number) => ({ wanted: um(wanted), error: um(error) });
  it('three edges that differ by more than they are known to: the random-effects mean and its error', () => {
    // weights 1, ¼, 1: mean 13.333, Q 25, C = 2.25 − 2.0625 ÷ 2.25 = 1.3333, so τ² = (25 − 2) ÷ 1.3333 = 17.25 µm²;
    // weights 1 ÷ 18.25, 1 ÷ 21.25, 1 ÷ 18.25 give 13.0494 ± 2.5266, and 4.303 times that is less
    const found = wearShares([edge(10, 1), edge(12, 2), edge(17, 1)]);
    expect(found).toMatchObject({ verdict: 'machine', edges: 3 });
    expect(found.machine / um(1)).toBeCloseTo(13.0494, 3);
    expect(found.error / um(1)).toBeCloseTo(2.5266, 3);
    // nearer to nought by three it is no longer told from it
    expect(wearShares([edge(7, 1), edge(9, 2), edge(14, 1)])).toMatchObject({ verdict: 'tool', machine: 0 });
  });
  it('edges that differ by less than they are known to: no more than their own errors', () => {
    // Q is below its degrees of freedom: the plain mean of 9, 10 and 11, each known to 3, ± 3 ÷ √3
    const found = wearShares([edge(9, 3), edge(10, 3), edge(11, 3)]);
    expect(found.machine / um(1)).toBeCloseTo(10, 9);
    expect(found.error / um(1)).toBeCloseTo(Math.sqrt(3), 9);
  });
  it('a set-up is told by the mean of its edges, and the set-up that stands by its own', () => {
    const began: EdgeBegan[] = [
      { ...edge(4, 3), setUp: 0 },
      { ...edge(8, 4), setUp: 0 },
      { ...edge(20, 2), setUp: 2 },
    ];
    const [first, second] = bySetUp(began);
    expect(first).toMatchObject({ setUp: 0, wanted: um(6) });
    // ½ √(3² + 4²)
    expect(first!.error / um(1)).toBeCloseTo(2.5, 9);
    expect(second).toEqual(began[2]);
    expect([ofSetUp(began, 0).length, ofSetUp(began, 1).length, ofSetUp(began, 2)]).toEqual([
      2,
      0,
      [began[2]],
    ]);
  });
  it('an edge began with its first three parts, up to the next or the next set-up, in whatever order those are given', () => {
    const parts = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((at) => ({
      at,
      deviation: um(2 * at),
      held: um(at < 5 ? 0 : 1),
    }));
    const began = edgesBegan(parts, [7.5, 3.5], [1.5, 5.5], 2, um(3));
    // half of 0 and 2 off, and the edge that goes on from 1.5 did not begin there; of 4 and 5; of 8 and 9
    expect(began.map(({ wanted, setUp }) => [wanted / um(1), setUp])).toEqual([
      [-0.5, 0],
      [(-4 + 1 - 5) / 2, 1],
      [1 - 8.5, 2],
    ]);
    expect(began.map(({ error }) => error / um(1))).toEqual([2, 2, 2].map((n) => 3 / 2 / Math.sqrt(n)));
    // a part just where it began is of neither
    expect(edgesBegan(parts, [4], [], 2, um(3))[1]!.wanted / um(1)).toBeCloseTo(
      (1 - 5 + (1 - 6) + (1 - 7)) / 3,
      9,
    );
  });
});
