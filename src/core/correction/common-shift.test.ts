import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import type { RegisterRole } from '../inspection/feature.ts';
import { lengthOf } from '../units/length.ts';
import { shiftWords } from './common-shift-words.ts';
import { commonShift, type RowNeed } from './common-shift.ts';

const need = (of: number, over: Partial<RowNeed> = {}): RowNeed => ({
  tool: 1,
  row: 1,
  role: 'lengthWear',
  need: of,
  error: 2_000,
  ...over,
});
const needs = (...all: number[]) => commonShift(all.map((each) => need(each)));

describe('a set-up whose rows all need the same', () => {
  it('is off as a whole', () => {
    const shift = needs(-31_000, -29_000, -33_000)!;
    expect(shift.by / -31_000).toBeCloseTo(1, 1);
    expect(shift.likely).toBeGreaterThan(0.93);
    expect(needs(31_000, 29_000, 33_000)!.by).toBeCloseTo(-shift.by, 6);
  });
  it('is not where one needs something else, where they need nothing, or where one row alone is asked', () => {
    expect(needs(-31_000, -29_000, 5_000)).toBeNull();
    expect(needs(-31_000, 30_000)).toBeNull();
    expect(needs(2_000, 1_500, 2_500, 1_000)).toBeNull();
    expect(needs(-31_000)).toBeNull();
    expect(commonShift([])).toBeNull();
  });
  it('of two directions the likelier one is told', () => {
    const of = (role: RegisterRole, ...all: number[]) => all.map((each) => need(each, { role }));
    const weak = of('lengthWear', -31_000, -29_000, -33_000);
    const strong = of('xWear', 90_000, 91_000, 89_000, 90_500);
    for (const all of [
      [...weak, ...strong],
      [...strong, ...weak],
    ])
      expect(commonShift(all)!.role).toBe('xWear');
    const [swapped, other] = [weak, strong].map((each) =>
      each.map((row) => ({ ...row, role: (row.role === 'xWear' ? 'lengthWear' : 'xWear') as RegisterRole })),
    );
    expect(commonShift([...swapped!, ...other!])!.role).toBe('lengthWear');
  });
  it('its error is that of the mean', () => {
    // three rows, each known to two thousandths and measured to four: the root of 20 by the root of three
    expect(needs(-61_000, -59_000, -63_000)!.error).toBeCloseTo(Math.sqrt(20 / 3) * 1_000, -2);
  });
  it('cannot be told by two that are about alike, nor by what is hardly known', () => {
    expect(needs(-31_000, -26_000)).toBeNull();
    expect(commonShift([-31_000, -29_000, -33_000].map((each) => need(each, { error: 20_000 })))).toBeNull();
  });
  it('holds those of one direction against each other only, and none that a work offset does not move', () => {
    const of = (role: RegisterRole) => [-31_000, -29_000, -33_000].map((each) => need(each, { role }));
    expect(commonShift(of('xWear'))!.role).toBe('xWear');
    expect(commonShift(of('cutterWear'))).toBeNull();
    const [x, z] = [of('xWear').slice(0, 1), of('zWear').slice(0, 1)];
    expect(commonShift([...x, ...z])).toBeNull();
    expect(
      commonShift([...of('zWear'), need(0, { role: 'xWear' }), need(9_000, { role: 'xWear' })])!.role,
    ).toBe('zWear');
  });
});

describe('in the words of a setter', () => {
  const said = (role: RegisterRole, ...tools: number[]) =>
    shiftWords(
      {
        role,
        by: -31_300,
        error: 1_000,
        likely: 0.95,
        rows: tools.map((tool) => need(-31_300, { tool, role })),
      },
      'mm',
      lengthOf(0.001, 'mm'),
    );
  it('names the tools, what they need to the increment, and what moves all of them', () => {
    expect(said('lengthWear', 5, 1, 3).found).toBe(
      'T1, T3 and T5 all need about −0.031 mm in length: that many tools are seldom off alike.',
    );
    expect(said('lengthWear', 1, 3).found).toContain('T1 and T3 both need');
    expect(said('lengthWear', 1, 3).look).toContain('work offset in Z');
    expect(said('xWear', 1, 3).look).toContain('warm');
    expect(said('zWear', 1, 3).look).toContain('work shift');
  });
});

/** Set-ups of which the truth is known: how far the work offset is off, and how far each tool is by itself. */
function setUps(seed: number, count: number, tools: number, { offset = 0, own = 4_000, noise = 2_000 }) {
  const { normal } = chance(seed);
  let said = 0;
  let near = 0;
  for (let i = 0; i < count; i += 1) {
    const whole = offset * normal();
    const shift = commonShift(
      Array.from({ length: tools }, () => need(whole + own * normal() + noise * normal(), { error: noise })),
    );
    if (!shift) continue;
    said += 1;
    if (Math.abs(shift.by - whole) < 3 * Math.hypot(own, noise)) near += 1;
  }
  return { said: said / count, near: near / said };
}

describe('held against set-ups of which the truth is known', () => {
  it.each([
    // how far tools that were measured one by one are off, each by itself; nothing is off as a whole
    [2, 5_000, 0.03],
    [3, 5_000, 0.03],
    [5, 5_000, 0.03],
    [2, 20_000, 0.15],
    [3, 20_000, 0.03],
    [5, 20_000, 0.01],
    [3, 60_000, 0.03],
    [5, 60_000, 0.01],
  ])('%i tools that are off each by itself, %i nm: said of no more than %f of them', (tools, own, most) => {
    expect(setUps(tools * own, 4_000, tools, { own }).said).toBeLessThanOrEqual(most);
  });
  it.each([
    // a set-up that is off by no more than its tools are cannot be told from them
    [3, 40_000, 0.35],
    [4, 40_000, 0.6],
    [6, 40_000, 0.75],
    [4, 100_000, 0.8],
  ])(
    '%i tools of a set-up that is off as a whole, %i nm: said of %f of them at least, and by how much',
    (tools, offset, least) => {
      const { said, near } = setUps(tools + offset, 4_000, tools, { offset });
      expect(said).toBeGreaterThan(least);
      expect(near).toBeGreaterThan(0.99);
    },
  );
  it('where one set-up in five is off as a whole, it is so nine times of ten that it is said', () => {
    const { normal, next } = chance(77);
    const counted = { said: 0, so: 0 };
    for (let i = 0; i < 8_000; i += 1) {
      const whole = next() < 0.2 ? 40_000 * normal() : 0;
      // tools that were measured well, or each touched off by eye
      const own = next() < 0.5 ? 4_000 : 20_000;
      const shift = commonShift([0, 1, 2].map(() => need(whole + own * normal() + 2_000 * normal())));
      if (!shift) continue;
      counted.said += 1;
      if (Math.abs(whole) > 2 * own && Math.abs(shift.by - whole) < 0.5 * Math.abs(whole)) counted.so += 1;
    }
    expect(counted.said).toBeGreaterThan(300);
    expect(counted.so / counted.said).toBeGreaterThan(0.9);
  });
});
