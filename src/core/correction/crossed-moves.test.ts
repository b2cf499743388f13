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
