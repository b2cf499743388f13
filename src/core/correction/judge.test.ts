import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { judgedSize, judgeQuestion } from '../../../tests/support/judged.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import type { JudgedReading, JudgedRegister, JudgeQuestion } from './judge-question.ts';
import { judge } from './judge.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const register = (over: Partial<JudgedRegister> = {}): JudgedRegister => ({
  row: 2,
  role: 'xWear',
  value: nanometres(0),
  locked: null,
  ...over,
});
const reading = (measured: number, at: number, over: Partial<JudgedReading> = {}): JudgedReading => ({
  size: 0,
  at,
  measured: mm(measured),
  held: [0],
  ...over,
});
const ask = (readings: JudgedReading[], over: Partial<JudgeQuestion> = {}) =>
  judge(judgeQuestion(readings, over));
const changes = (answer: ReturnType<typeof ask>) =>
  answer.verdict === 'change' ? answer.rows.map(({ row, change }) => [row, change / 1000]) : answer.reason;

describe('a new set-up begins a new story (H14)', () => {
  const noise = [1, -2, 0, 2, -1, 1, 3, -3, 0, -1, 2, -2, 1, 0, -1, 2, 1, -2, -1, 0];
  /** Twenty parts of the set-up before, on target, and the first of the new one. */
  const first = (off: number, over: Partial<JudgeQuestion> = {}) =>
    ask(
      [...noise, off].map((micrometres, at) => reading(38 + micrometres / 1000, at)),
      { setUps: [{ size: 0, at: 19.5 }], firstOff: true, confirmed: false, ...over },
    );
  it.each([5, 10, 15, 30, -24, 60])('a first-off %i µm off is taken out whole, and not questioned', (off) => {
    expect(changes(first(off))).toEqual([[2, -off]]);
    // nobody ticked it: it is a new set-up all the same, and one part of it is all that is known
    const unticked = first(off, { firstOff: false });
    expect(changes(unticked)).toEqual([[2, -off]]);
    expect(unticked.reason).toMatch(/the first reading/);
  });
  it('by whatever school', () => {
    for (const policy of ['everyPart', 'deadBand', 'average', 'ewma', 'trend', 'harmonic'] as const) {
      expect(changes(first(30, { sizes: [judgedSize({ policy })] }))).toEqual([[2, -30]]);
      // the older schools average nothing of the set-up before either
      const unticked = first(30, { sizes: [judgedSize({ policy, averageOf: 3 })], firstOff: false });
      const answer = changes(unticked);
      if (Array.isArray(answer)) expect(answer[0]![1]).toBeLessThanOrEqual(-10);
      else expect(answer).not.toMatch(/21|4 parts/);
    }
  });
  it('but a slip of the first reading that has a name is asked about', () => {
    expect(first(500).reason).toMatch(/thimble/);
  });
  it('a part of the set-up before that is measured late moves nothing', () => {
    const readings = [...noise, 1].map((micrometres, at) => reading(38 + micrometres / 1000, at));
    const late = (held: number) =>
      ask([...readings.slice(0, 19), reading(38.02, 19, { held: [held] }), readings[20]!], {
        setUps: [{ size: 0, at: 19.5 }],
        taken: 19,
      });
    expect(late(0)).toMatchObject({
      verdict: 'leave',
      reason: expect.stringMatching(/in the set-up, before/),
    });
    expect(late(-4000)).toMatchObject({
      verdict: 'leave',
      reason: expect.stringMatching(/already answered/),
    });
  });
  it('a size that was not measured in the new set-up has no say in it', () => {
    const two = [judgedSize({ name: 'OD' }), judgedSize({ name: 'Step' })];
    const before = noise.flatMap((micrometres, at) => [
      reading(38 + micrometres / 1000, at, { size: 0 }),
      reading(38 + (micrometres + 8) / 1000, at, { size: 1 }),
    ]);
    const off = (setUps: JudgeQuestion['setUps']) =>
      ask([...before, reading(38.03, 20, { size: 0 })], { sizes: two, setUps, firstOff: true });
    const answer = off([
      { size: 0, at: 19.5 },
      { size: 1, at: 19.5 },
    ]);
    expect(changes(answer)).toEqual([[2, -30]]);
    expect(answer.verdict === 'change' && answer.foretold.map(({ name }) => name)).toEqual(['OD']);
    // one of another program, whose set-up still stands, does
    const kept = off([{ size: 0, at: 19.5 }]);
    expect(kept.verdict === 'change' && kept.foretold.map(({ name }) => name)).toEqual(['OD', 'Step']);
  });
});

describe('what a reading leads to', () => {
  it('a set-up error is taken out at once, in whole steps, and said with its sum', () => {
    const answer = ask([reading(38.0124, 0)], { firstOff: true });
    expect(changes(answer)).toEqual([[2, -12]]);
    expect(answer.reason).toBe(
      'Too big: the first reading is +0.012 mm from target, so X wear of row 2 goes minus 0.012.',
    );
    expect(answer.arithmetic.map(({ sum }) => sum)).toContain('0.000 −0.012 = −0.012 mm');
    if (answer.verdict === 'change') expect(answer.expectedSize).toBeCloseTo(mm(38.0004), -2);
  });
  it('one reading of a running job says too little: more parts, or first-off', () => {
    expect(ask([reading(38.003, 0)]).reason).toMatch(/known to no better than .* tick first-off/);
  });
  it('parts that scatter about the target are left alone, with the spread they were judged by', () => {
    const random = chance(9);
    const answer = ask(Array.from({ length: 15 }, (_, at) => reading(38 + 0.002 * random.normal(), at)));
    expect(answer.verdict).toBe('leave');
    expect(answer.reason).toMatch(/parts that differ by ±0\.00[123]/);
  });
  it('a size that drifts says where it goes, and is moved a little before it is off', () => {
    const drifting = (begin: number, spread: number) => {
      const random = chance(4);
      return ask(
        Array.from({ length: 40 }, (_, at) => reading(begin + 0.0002 * at + spread * random.normal(), at)),
      );
    };
    expect(drifting(37.9925, 0.002).reason).toMatch(
      /drifts by \+0\.00\d mm in ten parts: in about \d+ parts? it is moved, in about \d+ it would be out/,
    );
    const moved = drifting(37.9945, 0.002);
    expect(moved.verdict).toBe('change');
    expect(moved.reason).toMatch(/from target, drifting by \+0\.00\d mm in ten parts, so X wear/);
    // it lies low and comes up by itself
    expect(drifting(37.99, 0.0005).reason).toMatch(/on its way back by itself|in ten parts/);
  });
  it('a size that jumped is moved, and whoever keys it is told that no wear does that; not where an offset was keyed there', () => {
    const random = chance(19);
    const cut = Array.from({ length: 24 }, (_, at) =>
      reading(38 + 0.002 * random.normal() + (at >= 21 ? 0.014 : 0), at),
    );
    const jumped = ask(cut);
    expect(jumped.verdict).toBe('change');
    expect(jumped.reason).toMatch(/It jumped by \+0\.01\d mm about 3 parts ago/);
    // with one reading nobody can tell
    expect(ask(cut.slice(0, 22)).reason).not.toMatch(/jumped/);
    // a fall keyed between the same two parts that came out as a rise is a matter of what was keyed
    const keyed = ask(
      cut.map((each) => ({ ...each, held: [each.at >= 21 ? -5000 : 0] })),
      { registers: [register({ value: nanometres(-5000) })] },
    );
    expect(keyed.reason).not.toMatch(/jumped/);
    // after ten more it is no news
    const since = Array.from({ length: 10 }, (_, i) => reading(38.014 + 0.002 * random.normal(), 24 + i));
    expect(ask([...cut, ...since]).reason).not.toMatch(/jumped/);
  });
  it('a wear past its limit is not proposed, however often it was measured', () => {
    const answer = ask([reading(38.4, 0)], { firstOff: true });
    expect(answer.verdict).toBe('leave');
    expect(answer.reason).toMatch(/past its limit of ±0\.300.*Only the lead/);
  });
  it('a locked row, a part cut with nobody knows what, and a size no row holds are answered by that', () => {
    expect(ask([reading(38.012, 0)], { registers: [register({ locked: 'Read row 2.' })] })).toMatchObject({
      verdict: 'locked',
      reason: 'Read row 2.',
    });
    expect(ask([reading(38.012, 0, { held: null })]).reason).toMatch(/nobody knows with which offset/);
    expect(ask([reading(38.012, 0)], { sizes: [judgedSize({ kind: 'position', moves: [] })] }).verdict).toBe(
      'noRegister',
    );
  });
  it('a reading that surprises is to be measured again, unless somebody did', () => {
    const random = chance(6);
    const readings = [
      ...Array.from({ length: 12 }, (_, at) => reading(38 + 0.002 * random.normal(), at)),
      reading(38.5, 12),
    ];
    expect(ask(readings, { confirmed: false })).toMatchObject({ verdict: 'measureAgain' });
    expect(ask(readings).verdict).not.toBe('measureAgain');
  });
  it('the older schools look at parts cut as the next will be, and at nothing else', () => {
    const school = {
      sizes: [judgedSize({ policy: 'average' })],
      registers: [register({ value: nanometres(-4000) })],
    };
    const old = [reading(38.01, 0), reading(38.011, 1), reading(38.012, 2)];
    expect(ask([...old, reading(38.008, 3, { held: [-4000] })], school).reason).toMatch(/Wait: 1 of the 3/);
    const now = [3, 4, 5].map((at) => reading(38.008, at, { held: [-4000] }));
    expect(changes(ask([...old, ...now], school))).toEqual([[2, -8]]);
    expect(ask([...now, reading(38.01, 6)], { ...school, next: 7 }).reason).toMatch(/already answered/);
    expect(ask([reading(38.004, 0)], { sizes: [judgedSize({ policy: 'deadBand' })] }).reason).toMatch(
      /inside the dead band/,
    );
    expect(changes(ask([reading(38.004, 0)], { sizes: [judgedSize({ policy: 'everyPart' })] }))).toEqual([
      [2, -4],
    ]);
  });
  it('a length between two rows moves its own; where both would serve alike, only that', () => {
    const length = judgedSize({
      name: 'Length',
      kind: 'partedLength',
      tool: 8,
      row: 8,
      other: { tool: 1, row: 1 },
      moves: [
        { register: 0, by: -1 },
        { register: 1, by: 1 },
      ],
    });
    const answer = ask([reading(38.02, 0, { held: [0, 0] })], {
      sizes: [length],
      registers: [register({ row: 8, role: 'zWear' }), register({ row: 1, role: 'zWear' })],
      firstOff: true,
    });
    expect(changes(answer)).toEqual([[8, 20]]);
    expect(answer.reason).toMatch(/^Too long/);
  });
  it('two sizes of one row: what one asks for is not given at the other’s cost, and a row of its own is advised', () => {
    const both = [judgedSize(), judgedSize({ name: 'Collar', nominal: mm(50), target: mm(50) })];
    const readings = Array.from({ length: 12 }, (_, at) =>
      at % 2 === 0 ? reading(38.018, at) : reading(49.983, at, { size: 1 }),
    );
    const answer = ask([...readings, reading(38.018, 12)], { sizes: both, next: 13 });
    if (answer.verdict === 'change') expect(answer.foretold.every((each) => each.in)).toBe(true);
    expect(answer.reason).toMatch(/Collar/);
    // far apart: one of them is brought in and the other given up, and that is said
    const apart = Array.from({ length: 12 }, (_, at) =>
      at % 2 === 0 ? reading(38.03, at) : reading(49.97, at, { size: 1 }),
    );
    const given = ask([...apart, reading(38.03, 12)], { sizes: both, next: 13 });
    expect(given.reason).toMatch(/row of its own/);
  });
  it('a fine register is written with all its digits', () => {
    const answer = ask([reading(38.0066, 0)], { increment: nanometres(100), firstOff: true });
    expect(answer.reason).toMatch(/minus 0\.0066\.$/);
  });
});

describe('what is approved for another row, and not keyed yet', () => {
  // a step that row 1 cuts, and a depth that is between rows 1 and 2
  const sizes = [
    judgedSize({ name: 'Step', row: 1, lower: mm(-0.05), upper: mm(0.05) }),
    judgedSize({
      name: 'Depth',
      lower: mm(-0.03),
      upper: mm(0.03),
      moves: [
        { register: 0, by: 1 },
        { register: 1, by: -1 },
      ],
    }),
  ];
  const registers = [register({ row: 1, role: 'lengthWear' }), register({ row: 2, role: 'lengthWear' })];
  /** Three parts of both sizes, off by so many micrometres, and what is approved for row 2. */
  const both = (step: number, depth: number, waits: number) =>
    ask(
      [0, 1, 2].flatMap((at) => [
        reading(38 + depth / 1000, at, { size: 1, held: [0, 0] }),
        reading(38 + step / 1000, at, { size: 0, held: [0, 0] }),
      ]),
      { sizes, registers, approved: [0, waits * 1000] },
    );
  it('is not made up for a second time by this one', () => {
    // alone it would be a compromise between them
    expect(changes(both(-13, 25, 0))).toEqual([[1, expect.any(Number)]]);
    expect((changes(both(-13, 25, 0)) as number[][])[0]![1]).toBeLessThan(0);
    const answer = both(-13, 25, 25);
    expect(answer.verdict === 'change' ? answer.rows[0]!.change : 0).toBeGreaterThanOrEqual(0);
  });
  it('waits where this one does good only together with it', () => {
    const answer = both(-13, 25, 25);
    expect(answer.reason).toMatch(
      /Wait: a correction of length wear of row 2 is approved and not keyed yet, and Depth answers to it/,
    );
  });
  it('is of no account where this one does good either way', () => {
    expect(changes(both(-40, 0, 5))).toEqual([[1, expect.any(Number)]]);
    const [[, change]] = changes(both(-40, 0, 5)) as [[number, number]];
    expect(change).toBeGreaterThan(5);
  });
  it('never leaves more than standing still, whether it is keyed or not: two hundred of them', () => {
    const luck = chance(4);
    const loss = (step: number, depth: number) => {
      const out = (off: number, limit: number) => (Math.abs(off) > limit ? 1000 + Math.abs(off) - limit : 0);
      return out(step, 50) + out(depth, 30) + (step / 100) ** 2 + (depth / 60) ** 2;
    };
    let moved = 0;
    for (let i = 0; i < 200; i += 1) {
      const [step, depth, waits] = [40, 25, 25].map((most) => Math.round((2 * luck.next() - 1) * most)) as [
        number,
        number,
        number,
      ];
      const answer = both(step, depth, waits);
      if (answer.verdict !== 'change') continue;
      moved += 1;
      const change = answer.rows[0]!.change / 1000;
      for (const other of [0, waits])
        expect(loss(step + change, depth + change - other)).toBeLessThanOrEqual(
          loss(step, depth - other) + 0.02,
        );
    }
    expect(moved).toBeGreaterThan(50);
  });
});

describe('a size that moves with it and was not measured since its edge began', () => {
  it('is named, with how far it goes', () => {
    const sizes = [
      judgedSize({ name: 'Step', row: 1 }),
      judgedSize({
        name: 'Depth',
        moves: [
          { register: 0, by: -1 },
          { register: 1, by: 1 },
        ],
      }),
    ];
    const registers = [register({ row: 1 }), register({ row: 2 })];
    const answer = (edges: JudgeQuestion['edges']) =>
      ask(
        [0, 1, 2, 3].flatMap((at) => [
          ...(at < 2 ? [reading(38, at, { size: 1, held: [0, 0] })] : []),
          reading(38.015, at, { size: 0, held: [0, 0] }),
        ]),
        { sizes, registers, edges },
      );
    expect(answer([{ register: 1, at: 2.5 }]).reason).toMatch(
      /Depth moves by \+0\.01\d mm with it, and was not measured since its edge or set-up began: measure it too\./,
    );
    expect(answer([]).reason).not.toMatch(/measure it too/);
    sizes[1] = { ...sizes[1]!, programNumber: 'O2' };
    expect(answer([{ register: 1, at: 2.5 }]).reason).not.toMatch(/measure it too/);
  });
});
