import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../../../tests/support/seeded.ts';
import type { Length } from '../units/length.ts';
import { crossedMoves, levelAt, type CrossedSize, type RegisterStep } from './crossed-moves.ts';

const MICRON = 1000;
const um = (value: number) => Math.round(value * MICRON) as Length;
const HOUR = 3_600_000;

const stepOf = (at: number, person: string | null, hour: number, from: number, to: number): RegisterStep => ({
  entry: Math.round(at * 10),
  at,
  person,
  time: hour * HOUR,
  from: um(from),
  to: um(to),
  anew: false,
});

/** A row whose size it moves one for one, with parts at these positions: what each measured, what the row held. */
const sizeOf = (noise: number, readings: [at: number, deviation: number, held: number][]): CrossedSize => ({
  name: 'Diameter',
  by: 1,
  noise: um(noise),
  drift: 0,
  driftError: um(noise) / 50,
  readings: readings.map(([at, deviation, held]) => ({ at, deviation: um(deviation), held: um(held) })),
  setUps: [],
});

/** A shift that answers a deviation, and a next one that does something: the hidden truth is where the edge really stood. */
interface Scene {
  steps: RegisterStep[];
  size: CrossedSize;
  /** By the truth the move in question made it worse. */
  needless: boolean;
}

type Plot = 'twice' | 'called for' | 'undone' | 'taken back rightly';

function act(plot: Plot, random: () => number, noise: number, parts: number): Scene {
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const effect = (3 + 5 * random()) * noise;
  const sign = random() < 0.5 ? 1 : -1;
  // where the edge stands with the row at nothing, part by part; the drift goes on under all of it
  const drift = plot === 'called for' ? (sign * effect) / (2 * parts) : sign * noise * 0.01 * random();
  const offset = plot === 'taken back rightly' ? 0 : sign * effect;
  const truth = (at: number) => offset + drift * at;
  const first = plot === 'taken back rightly' ? sign * effect : -truth(parts);
  const second =
    plot === 'twice'
      ? first * (0.8 + 0.4 * random())
      : plot === 'called for'
        ? -(truth(2 * parts) + first)
        : -first;
  const atFirst = parts - 0.5;
  const atSecond = (plot === 'twice' ? parts + 1 : 2 * parts) - 0.5;
  const last = Math.ceil(atSecond) + parts;
  const held = (at: number) => (at < atFirst ? 0 : at < atSecond ? first : first + second);
  const readings: [number, number, number][] = [];
  for (let at = 0; at < last; at += 1) readings.push([at, truth(at) + held(at) + noise * normal(), held(at)]);
  const questioned = plot === 'twice' || plot === 'called for' ? 'second' : 'first';
  const [place, was, moved] = questioned === 'second' ? [atSecond, first, second] : [atFirst, 0, first];
  return {
    steps: [stepOf(atFirst, 'late', 20, 0, first), stepOf(atSecond, 'night', 27, first, first + second)],
    size: {
      ...sizeOf(noise, readings),
      drift: um(drift),
      driftError: um(noise) / 100,
    },
    needless: Math.abs(truth(place) + was + moved) > Math.abs(truth(place) + was),
  };
}

describe('two people on one register', () => {
  it.each(['twice', 'called for', 'undone', 'taken back rightly'] as const)(
    'is told as the metal has it: %s, over two hundred set-ups',
    (plot) => {
      const random = seeded(plot.length * 7919);
      let [told, wrong, silent] = [0, 0, 0];
      for (let i = 0; i < 200; i += 1) {
        const scene = act(plot, random, 1 + 4 * random(), 4 + Math.floor(6 * random()));
        const found = crossedMoves(scene.steps, [scene.size], um(0.5));
        const pair = found.find((each) => each.kind !== 'nudged');
        if (plot === 'called for') {
          // wear that asks for the same move again is nobody's slip
          if (pair?.kind === 'twice' && pair.needless === 'second') wrong += 1;
          if (!pair) told += 1;
          continue;
        }
        if (!pair || pair.needless === null) silent += 1;
        else {
          const said = plot === 'twice' ? pair.needless === 'second' : pair.needless === 'first';
          if (said === scene.needless) told += 1;
          else wrong += 1;
        }
      }
      expect(wrong, 'told against the truth').toBeLessThanOrEqual(4);
      expect(told).toBeGreaterThanOrEqual(plot === 'called for' ? 190 : 180);
      expect(silent).toBeLessThanOrEqual(20);
    },
  );

  it.each(['the same way', 'back'])(
    'each answered the first part of a set-up of his own, the second %s as far: nobody is told that he answered for nothing',
    (way) => {
      const random = seeded(way.length * 104_729);
      const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
      for (let i = 0; i < 200; i += 1) {
        const noise = 1 + 4 * random();
        const parts = 4 + Math.floor(6 * random());
        const error = (5 + 5 * random()) * noise * (random() < 0.5 ? 1 : -1);
        // the first part of each set-up is off by its error; its correction takes that out
        const second = way === 'back' ? -error : error;
        const offset = (at: number) => (at < parts ? error : error + second);
        const held = (at: number) => (at < 1 ? 0 : at <= parts ? -error : -error - second);
        const readings = Array.from({ length: 2 * parts }, (_, at): [number, number, number] => [
          at,
          offset(at) + held(at) + noise * normal(),
          held(at),
        ]);
        const steps = [
          stepOf(0.5, 'late', 20, 0, -error),
          stepOf(parts + 0.5, 'night', 27, -error, -error - second),
        ];
        const size = { ...sizeOf(noise, readings), setUps: [parts - 0.5] };
        expect(crossedMoves(steps, [size], um(0.5))).toEqual([]);
        // the same row moves a size of another program, which did not run meanwhile
        const other = { ...sizeOf(noise, []), name: 'Width' };
        expect(crossedMoves(steps, [size, other], um(0.5))).toEqual([]);
        // four set-ups in turn are no to and fro
        if (way === 'back') {
          const turns = [0, 1, 2, 3].map((n) =>
            stepOf(
              10 * n + 0.5,
              n % 2 ? 'night' : 'late',
              20 + 8 * n,
              n % 2 ? -error : 0,
              n % 2 ? 0 : -error,
            ),
          );
          const first = [0, 1, 2, 3].map((n): [number, number, number] => [
            10 * n,
            n % 2 ? -error : error,
            n % 2 ? -error : 0,
          ]);
          const often = { ...sizeOf(noise, first), setUps: [9.5, 19.5, 29.5] };
          expect(crossedMoves(turns, [often], um(0.5))).toEqual([]);
          expect(crossedMoves(turns, [{ ...often, setUps: [] }], um(0.5))).toMatchObject([
            { kind: 'nudged' },
          ]);
        }
      }
    },
  );

  it('says nothing of who was right where nothing was measured', () => {
    const steps = [stepOf(9.5, 'late', 20, 0, -10), stepOf(9.5, 'night', 23, -10, -20)];
    expect(crossedMoves(steps, [], um(1))).toMatchObject([{ kind: 'twice', needless: null }]);
    expect(crossedMoves([steps[0]!, stepOf(9.5, 'night', 23, -10, -25)], [], um(1))).toEqual([]);
  });

  it('leaves alone what one person does, what lies days apart, and what another edge was given', () => {
    const size = sizeOf(1, [
      [0, 10, 0],
      [1, 10, 0],
      [3, -10, -20],
      [4, -10, -20],
    ]);
    const twice = [stepOf(1.5, 'late', 20, 0, -10), stepOf(1.6, 'night', 23, -10, -20)];
    expect(crossedMoves(twice, [size], um(1))).toHaveLength(1);
    expect(crossedMoves([twice[0]!, { ...twice[1]!, person: 'late' }], [size], um(1))).toEqual([]);
    expect(crossedMoves([twice[0]!, { ...twice[1]!, time: 80 * HOUR }], [size], um(1))).toEqual([]);
    expect(crossedMoves([twice[0]!, { ...twice[1]!, anew: true }], [size], um(1))).toEqual([]);
    // somebody nobody knows is never the one before
    const nobody = twice.map((each) => ({ ...each, person: null }));
    expect(crossedMoves(nobody, [size], um(1))).toMatchObject([{ needless: 'second' }]);
  });

  it('a second answer that was taken back since is one story', () => {
    const steps = [
      stepOf(1.5, 'late', 20, 0, -10),
      stepOf(2.5, 'night', 23, -10, -20),
      stepOf(4.5, 'early', 30, -20, -10),
    ];
    const size = sizeOf(1, [
      [0, 10, 0],
      [1, 11, 0],
      [2, 0, -10],
      [3, -10, -20],
      [4, -9, -20],
      [5, 0, -10],
    ]);
    expect(crossedMoves(steps, [size], um(1))).toMatchObject([
      { kind: 'twice', needless: 'second', righted: { person: 'early' } },
    ]);
    expect(crossedMoves(steps.slice(1), [size], um(1))).toMatchObject([
      { kind: 'undone', needless: 'first', righted: null },
    ]);
  });

  it('tells what the size did: before, between and after', () => {
    const size = sizeOf(1, [
      [0, 10, 0],
      [1, 11, 0],
      [2, 0, -10],
      [3, -10, -20],
      [4, -9, -20],
    ]);
    const [pair] = crossedMoves(
      [stepOf(1.5, 'late', 20, 0, -10), stepOf(2.5, 'night', 23, -10, -20)],
      [size],
      um(1),
    );
    expect(pair).toMatchObject({
      kind: 'twice',
      needless: 'second',
      did: [
        {
          before: { parts: 2, mean: um(10.5) },
          between: { parts: 1, mean: um(0) },
          after: { parts: 2, mean: um(-9.5) },
        },
      ],
    });
  });
});

describe('a register nudged to and fro', () => {
  const nudges = [0, 6, -1, 5, -2].map((value) => value);
  const steps = nudges
    .slice(1)
    .map((to, i) => stepOf(3 * (i + 1) - 0.5, i % 2 ? 'late' : 'night', 8 * i, nudges[i]!, to));

  it('is told once, with what it did to parts that stood still (Deming: spread grows by answering noise)', () => {
    const random = seeded(77);
    const readings: [number, number, number][] = Array.from({ length: 15 }, (_, at) => {
      const held = nudges[Math.floor(at / 3)]!;
      return [at, random() - 0.5 + held, held];
    });
    const found = crossedMoves(steps, [sizeOf(0.3, readings)], um(1));
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ kind: 'nudged', worse: true });
    if (found[0]!.kind !== 'nudged') throw new Error('not nudged');
    expect(found[0]!.did[0]!.asCut).toBeGreaterThan(2 * found[0]!.did[0]!.leftAlone);
  });

  it('did good where the process itself steps to and fro, as with two pallets', () => {
    const random = seeded(78);
    const readings: [number, number, number][] = Array.from({ length: 15 }, (_, at) => {
      const held = nudges[Math.floor(at / 3)]!;
      return [at, 0.5 * (random() - 0.5), held];
    });
    expect(crossedMoves(steps, [sizeOf(0.3, readings)], um(1))).toMatchObject([{ worse: false }]);
    expect(crossedMoves(steps, [sizeOf(0.3, readings.slice(0, 4))], um(1))).toMatchObject([{ worse: null }]);
  });

  it('is not told of one person, nor where the moves lead somewhere', () => {
    const alone = steps.map((each) => ({ ...each, person: 'late' }));
    expect(crossedMoves(alone, [], um(1))).toEqual([]);
    const leads = [0, 6, 4, 10, 8, 14];
    const away = leads.slice(1).map((to, i) => stepOf(i, i % 2 ? 'late' : 'night', i, leads[i]!, to));
    expect(crossedMoves(away, [], um(1)).filter(({ kind }) => kind === 'nudged')).toEqual([]);
  });
});

describe('where a size stood', () => {
  it('is the mean of the parts where nothing drifts, and the line where something does', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -50, max: 50, noNaN: true }),
        fc.integer({ min: 1, max: 8 }),
        (level, n) => {
          const parts = Array.from({ length: 2 * n }, (_, i): [number, number, number] => [i, level, 0]);
          const stood = levelAt(sizeOf(2, parts), n - 0.5, 0, [-Infinity, Infinity])!;
          expect(Math.abs(stood.level - um(level))).toBeLessThan(2);
          // error of a mean of 2n, somewhat more for wandering and slope
          expect(stood.error).toBeGreaterThanOrEqual((2 * MICRON) / Math.sqrt(2 * n) - 1);
          expect(stood.error).toBeLessThan(((2 * MICRON) / Math.sqrt(2 * n)) * 1.25);
        },
      ),
    );
    const drifting = Array.from({ length: 20 }, (_, i): [number, number, number] => [i, 0.5 * i, 0]);
    const line = { ...sizeOf(1, drifting), driftError: um(1) };
    expect(levelAt(line, 9.5, um(3), [-Infinity, Infinity])!.level).toBeCloseTo(um(0.5 * 9.5 + 3), -1);
    expect(levelAt(line, 9.5, 0, [100, 200])).toBeNull();
  });
});

describe('what a likelihood is made of', () => {
  /** What a level and a slope lose, by the readings that count and what is known of the drift. */
  const lossAt =
    (size: CrossedSize, place: number, held: number, counted: CrossedSize['readings']) =>
    (level: number, slope: number) =>
      counted.reduce(
        (sum, each) => {
          const far = each.at - place;
          const off = each.deviation + size.by * (held - each.held) - level - slope * far;
          return sum + off ** 2 / (size.noise ** 2 * (1 + 0.05 ** 2 * Math.abs(far)));
        },
        (slope - size.drift) ** 2 / Math.max(size.driftError, size.noise / 1000) ** 2,
      );

  it('the level is the one that no other line through the readings and the known drift beats, its error how fast they lose', () => {
    const random = seeded(31);
    for (let trial = 0; trial < 300; trial += 1) {
      const noise = 1 + 3 * random();
      const readings = Array.from({ length: 30 }, (_, at): [number, number, number] => [
        at,
        12 * random() - 6,
        Math.round(8 * random() - 4),
      ]).filter(() => random() < 0.7);
      const size: CrossedSize = {
        ...sizeOf(noise, readings),
        by: random() < 0.5 ? 1 : -2,
        drift: um(random() - 0.5),
        driftError: um(random() < 0.2 ? 0 : 0.2 * random()),
        setUps: random() < 0.4 ? [4.5, 24.5] : [],
      };
      const place = 9.5 + Math.floor(10 * random());
      const span: [number, number] = random() < 0.5 ? [-Infinity, Infinity] : [6.5, 26.5];
      const held = um(3 * random());
      const inside = size.readings.filter(
        ({ at }) => at > span[0] && at < span[1] && (size.setUps.length === 0 || (at > 4.5 && at < 24.5)),
      );
      // a dozen on either side
      const counted = [
        ...inside.filter(({ at }) => at < place).slice(-12),
        ...inside.filter(({ at }) => at > place).slice(0, 12),
      ];
      const found = levelAt(size, place, held, span);
      if (counted.length === 0) {
        expect(found).toBeNull();
        continue;
      }
      const { level, error } = found!;
      const loss = lossAt(size, place, held, counted);
      /** The least over all slopes: a parabola, known by three of its points. */
      const least = (at: number) => {
        const [a, b, c] = [loss(at, -1000), loss(at, 0), loss(at, 1000)];
        const curve = (a + c) / 2 - b;
        const tilt = (c - a) / 2;
        return b - tilt ** 2 / (4 * curve);
      };
      const best = least(level);
      for (const step of [error, -error]) expect(least(level + step) - best).toBeCloseTo(1, 4);
    }
  });

  const pairOf = (steps: RegisterStep[], sizes: CrossedSize[]) =>
    crossedMoves(steps, sizes, um(0.5)).find((each) => each.kind !== 'nudged') ?? null;
  const likely = (prior: number, level: number, moved: number, error: number) =>
    1 / (1 + ((1 - prior) / prior) * Math.exp(-((level + moved) ** 2 - level ** 2) / (2 * error ** 2)));
  const early = (held: number) => [0, 1, 2, 3].map((at): [number, number, number] => [at, 8 + held, held]);
  const steps = [stepOf(3.5, 'late', 20, 0, -8), stepOf(5.5, 'night', 27, -8, -16)];
  const [ALL, PLACE] = [[-Infinity, Infinity] as const, 5.5];

  it('of a second answer: the size on its target before it against after it, and whether its person had measured', () => {
    const blind = { ...sizeOf(2, [...early(0)]), drift: 0 };
    const seen = { ...sizeOf(2, [...early(0), [4, 1, -8]]), drift: 0 };
    for (const [size, prior] of [
      [blind, 0.75],
      [seen, 0.25],
    ] as const) {
      const { level, error } = levelAt(size, PLACE, um(-8), ALL)!;
      const pair = pairOf(steps, [size]);
      expect(pair).toMatchObject({ kind: 'twice', needless: 'second' });
      expect(pair!.likelihood).toBeCloseTo(likely(prior, level, um(-8), error), 9);
    }
    // two sizes speak together
    const both = pairOf(steps, [seen, { ...blind, name: 'Step', noise: um(4) }]);
    const [a, b] = [seen, { ...blind, noise: um(4) }].map((size) => levelAt(size, PLACE, um(-8), ALL)!);
    const odds = [a!, b!].reduce(
      (sum, { level, error }) => sum + ((level + um(-8)) ** 2 - level ** 2) / (2 * error ** 2),
      0,
    );
    expect(both!.likelihood).toBeCloseTo(1 / (1 + 3 * Math.exp(-odds)), 9);
  });
  it('likely but not surely one too many: said as a pair, with nobody’s move called needless', () => {
    // it stands where half the move would have been right: a little rather not
    const unsure = sizeOf(6, [
      ...early(0).map(([at, off, held]): [number, number, number] => [at, off + 3.6, held]),
    ]);
    const pair = pairOf(steps, [unsure]);
    expect(pair).toMatchObject({ kind: 'twice', needless: null });
    expect(pair!.likelihood).toBeGreaterThan(0.5);
    expect(pair!.likelihood).toBeLessThan(0.95);
  });
  it('of a move that was taken back: the first, or the second, or nobody can tell', () => {
    const back = [stepOf(3.5, 'late', 20, 0, -8), stepOf(5.5, 'night', 27, -8, 0)];
    const stood = (off: number, noise = 2) =>
      sizeOf(
        noise,
        [0, 1, 2, 3].map((at): [number, number, number] => [at, off, 0]),
      );
    const told = (off: number, noise = 2) => {
      const size = stood(off, noise);
      const { level, error } = levelAt(size, 3.5, 0, ALL)!;
      const pair = pairOf(back, [size])!;
      expect(pair.likelihood).toBeCloseTo(likely(0.5, level, um(-8), error), 9);
      return pair.kind === 'undone' ? pair.needless : undefined;
    };
    expect([told(0), told(8), told(4), told(3, 9), told(5, 9)]).toEqual([
      'first',
      'second',
      null,
      null,
      null,
    ]);
    expect(pairOf(back, [])).toMatchObject({ kind: 'undone', needless: null, likelihood: 0.5 });
  });
  it('what was measured before, between and after stands beside it, each without what lies beyond its moves', () => {
    const size = sizeOf(2, [...early(0), [4, 1, -8], [5, 2, -8], [6, -7, -16], [7, -9, -16]]);
    const outer = [stepOf(1.5, 'early', 10, 8, 0), ...steps, stepOf(6.5, 'early', 60, -16, -8)];
    const pair = pairOf(outer, [size]);
    expect(pair?.kind === 'twice' && pair.did).toEqual([
      {
        name: 'Diameter',
        before: { parts: 2, mean: um(8) },
        between: { parts: 2, mean: um(1.5) },
        after: { parts: 1, mean: um(-7) },
      },
    ]);
    const none = pairOf(steps, [sizeOf(2, [...early(0)])]);
    expect(none?.kind === 'twice' && none.did[0]).toMatchObject({ between: null, after: null });
  });
  it('only what the same edge cut speaks: neither the edge before nor the one after', () => {
    const anew = (at: number, hour: number): RegisterStep => ({
      ...stepOf(at, 'crib', hour, 0, 0),
      anew: true,
    });
    const own = early(0);
    const other = [-3, -2, 9, 10].map((at): [number, number, number] => [at, 90, 0]);
    const begun = [anew(-0.5, 1), ...steps, anew(8.5, 80)];
    const alone = pairOf(begun, [sizeOf(2, own)]);
    const beside = pairOf(begun, [
      sizeOf(
        2,
        [...own, ...other].sort(([a], [b]) => a - b),
      ),
    ]);
    expect(alone?.kind).toBe('twice');
    expect(beside!.likelihood).toBeCloseTo(alone!.likelihood, 12);
  });
  it.each([
    [-4, true],
    [-3.9, false],
    [-16, true],
    [-16.1, false],
  ])('a second answer is about the same move: %f after −8', (second, told) => {
    // it stood at +8, and on target after the first
    const size = sizeOf(0.5, [...early(0), [4, 0, -8]]);
    const pair = pairOf([steps[0]!, stepOf(5.5, 'night', 27, -8, -8 + second)], [size]);
    expect(pair !== null).toBe(told);
  });
  it.each([
    [7.5, 27, true],
    [8.5, 27, true],
    [7.4, 27, false],
    [8, 46, true],
    [8, 46.1, false],
  ])(
    'one is taken back by as much, to a step, within a shift and the next: by %f at hour %f',
    (back, hour, told) => {
      const pair = pairOf([steps[0]!, stepOf(5.5, 'night', hour, -8, -8 + back)], []);
      expect(pair !== null).toBe(told);
    },
  );
  it('the same move twice with nothing measured is worth a word, another is not', () => {
    const told = (second: number) => pairOf([steps[0]!, stepOf(5.5, 'night', 27, -8, -8 + second)], []);
    expect(told(-8)).toMatchObject({ kind: 'twice', needless: null, likelihood: 0.75 });
    expect([told(-8.5) !== null, told(-8.6), told(-7.4)]).toEqual([true, null, null]);
  });
  it('a size that did not run then says nothing, nor one that was set up anew between the two', () => {
    const own = sizeOf(2, early(0));
    const later = { ...sizeOf(2, [[8, 30, -16]]), name: 'Later' };
    const anew = { ...own, name: 'Anew', setUps: [4.5] };
    const names = (sizes: CrossedSize[]) => {
      const pair = pairOf(steps, sizes);
      return pair?.kind === 'twice' ? pair.did.map(({ name }) => name) : null;
    };
    expect(names([own, later])).toEqual(['Diameter']);
    expect(names([own, anew])).toEqual(['Diameter']);
    expect(names([anew])).toBeNull();
    // just as the first was made it is of between; just as the second was, of after
    expect(names([{ ...anew, setUps: [3.5] }])).toBeNull();
    expect(names([{ ...anew, setUps: [5.5] }, own])).toEqual(['Anew', 'Diameter']);
    expect(names([{ ...anew, setUps: [3.4] }, own])).toEqual(['Anew', 'Diameter']);
  });
  it('what a to and fro did is told of the parts in it, six at least, to the number', () => {
    const moves = [0, 6, -1, 5, -2];
    const run = moves
      .slice(1)
      .map((to, i) => stepOf(3 * (i + 1) - 0.5, i % 2 ? 'late' : 'night', 8 * i, moves[i]!, to));
    const after: RegisterStep = { ...stepOf(14.5, 'crib', 60, -2, 0), anew: true };
    const readings = Array.from({ length: 18 }, (_, at): [number, number, number] => {
      const held = moves[Math.min(4, Math.floor(at / 3))]!;
      return [at, (at % 2) + held, held];
    });
    const did = (of: [number, number, number][]) => {
      const [found] = crossedMoves([...run, after], [sizeOf(0.3, of)], um(1));
      return found?.kind === 'nudged' ? found.did : null;
    };
    const within = readings.filter(([at]) => at > 2.5 && at < 14.5);
    const spreadOf = (values: number[]) => {
      const mean = values.reduce((sum, each) => sum + each, 0) / values.length;
      return Math.sqrt(values.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (values.length - 1));
    };
    const [told] = did(readings)!;
    expect(told).toMatchObject({ name: 'Diameter', parts: 12 });
    expect(told!.asCut / MICRON).toBeCloseTo(spreadOf(within.map(([, off]) => off)), 9);
    expect(told!.leftAlone / MICRON).toBeCloseTo(spreadOf(within.map(([at]) => at % 2)), 9);
    expect(did(within.slice(0, 6))).toHaveLength(1);
    expect(did(within.slice(0, 5))).toEqual([]);
  });
});
