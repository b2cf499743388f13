import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import outside from '../../../tests/outside/check-values.json';
import { inUnit, lengthOf, nanometres, type Length } from '../units/length.ts';
import { readFit, readLimits } from './fit.ts';

const micrometres = (value: number) => nanometres(value * 1000);
const limitsOf = (text: string) => {
  const read = readFit(text);
  if (!read?.ok) throw new Error(read ? read.reason : `"${text}" is no fit`);
  return read.limits;
};

/** The lists of numbers under such names. */
const tablesOf = (of: object, names: RegExp) =>
  Object.fromEntries(Object.entries(of).filter(([name]) => names.test(name))) as Record<string, number[]>;

describe('fits (ISO 286, memory)', () => {
  it('the examples of ISO 286-2', () => {
    for (const [text, upper, lower] of outside.fitExamples.examples) {
      const limits = limitsOf(text!);
      expect([text, inUnit(limits.upper, 'mm'), inUnit(limits.lower, 'mm')]).toEqual([
        text,
        Number(upper),
        Number(lower),
      ]);
    }
  });

  it('every grade and letter of the tables', () => {
    const { ranges_mm_over_to: ranges } = outside.isoToleranceGradesMicrometre;
    const grades = tablesOf(outside.isoToleranceGradesMicrometre, /^IT/);
    const letters = tablesOf(outside.isoShaftDeviationsMicrometre, /^[a-z]6?$/);
    ranges.forEach(([, to], i) => {
      for (const [grade, widths] of Object.entries(grades)) {
        const { upper, lower } = limitsOf(`${to} H${grade.slice(2)}`);
        expect([upper, lower]).toEqual([micrometres(widths[i]!), 0]);
      }
      for (const [letter, values] of Object.entries(letters)) {
        const limits = limitsOf(`${to} ${letter === 'k6' ? letter : `${letter}6`}`);
        const near = 'fgh'.includes(letter[0]!) ? limits.upper : limits.lower;
        expect(near / 1000).toBeCloseTo(values[i]!, 9);
      }
    });
  });

  it('a hole is its shaft in the mirror, whatever the size', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('d', 'e', 'f', 'g', 'h', 'js'),
        fc.integer({ min: 5, max: 11 }),
        fc.integer({ min: 1, max: 180 }),
        (letter, grade, size) => {
          const [shaft, hole] = [`${size} ${letter}${grade}`, `${size} ${letter.toUpperCase()}${grade}`].map(
            limitsOf,
          );
          expect(hole!.upper + shaft!.lower).toBe(0);
          expect(hole!.lower + shaft!.upper).toBe(0);
          expect(hole!.upper).toBeGreaterThan(hole!.lower);
        },
      ),
    );
  });

  it('js lies evenly about the nominal, half a micrometre too; k has no deviation above grade 7', () => {
    expect(limitsOf(' 10 js7 ')).toMatchObject({ nominal: 10_000_000, upper: 7_500, lower: -7_500 });
    expect(limitsOf('10.5 h6').nominal).toBe(10_500_000);
    // as everywhere: a comma may part thousands, and is not guessed
    expect(readFit('10,5 h6')).toMatchObject({ ok: false, reason: expect.stringMatching(/comma/) as string });
    expect(limitsOf('25 k7')).toMatchObject({ upper: 23_000, lower: 2_000 });
    expect(limitsOf('25 k8')).toMatchObject({ upper: 33_000, lower: 0 });
  });

  it('says what it does not know, and takes no other text for a fit', () => {
    expect(readFit('25 H4')).toMatchObject({ ok: false, reason: expect.stringMatching(/5 to 11/) as string });
    expect(readFit('200 H7')).toMatchObject({ ok: false, reason: expect.stringMatching(/180 mm/) as string });
    expect(readFit('25 K7')).toMatchObject({ ok: false, reason: expect.stringMatching(/not K/) as string });
    expect(readFit('25 Js7')).toMatchObject({ ok: false });
    expect(readFit('0 H7')).toMatchObject({ ok: false });
    expect(readFit('25 r6')).toEqual({
      ok: false,
      reason: 'Of shafts d, e, f, g, h, js, k, m, n, p are known here, not r: type the limits instead.',
    });
    expect(readFit('25 K7')).toEqual({
      ok: false,
      reason: 'Of holes D, E, F, G, H, JS are known here, not K: type the limits instead.',
    });
    expect(['25.4', '1 in', '25mm', '', '25 ±0.02'].map(readFit)).toEqual([null, null, null, null, null]);
  });
});

describe('limits as they are written', () => {
  const read = (nominal: string, upper = '', lower = '', unit: 'mm' | 'in' = 'mm') => {
    const found = readLimits({ nominal, upper, lower }, unit);
    if (!found.ok) return `${found.column}: ${found.reason}`;
    const { limits } = found;
    return [limits.nominal, limits.upper, limits.lower].map((each: Length) => inUnit(each, 'mm'));
  };
  it('two deviations, one for both sides, or a fit', () => {
    expect(read('25', '0.02', '-0.01')).toEqual([25, 0.02, -0.01]);
    expect(read('25 ±0.02')).toEqual([25, 0.02, -0.02]);
    expect(read('25', '±0.02')).toEqual([25, 0.02, -0.02]);
    expect(read('25 H7')).toEqual([25, 0.021, 0]);
    // a fit is metric on an inch machine too
    expect(read('25 H7', '', '', 'in')).toEqual([25, 0.021, 0]);
    expect(read('1.5', '±0.001', '', 'in')).toEqual([38.1, 0.0254, -0.0254]);
  });
  it('names the cell that is wrong', () => {
    expect(read('25 H7', '0.01', '0')).toMatch(/^upper: A fit has its limits/);
    expect(read('25 H4')).toMatch(/^nominal: Grades/);
    expect(read('25', '', '')).toMatch(/^upper: /);
    expect(read('25', '0.01', 'x')).toMatch(/^lower: /);
    expect(read('25 ±x')).toMatch(/^upper: /);
    expect(lengthOf(25, 'mm')).toBe(25_000_000);
  });
});
