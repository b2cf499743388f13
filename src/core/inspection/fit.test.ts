import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import outside from '../../../tests/outside/check-values.json';
import { inUnit, lengthOf, nanometres, type Length } from '../units/length.ts';
import { readFit, readLimits, readWhole } from './fit.ts';

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

  it.each([
    // holes with their shaft's deviation less the step of the grades (ISO 286-2, from memory)
    ['25 K7', 6, -15],
    ['40 K7', 7, -18],
    ['62 K7', 9, -21],
    ['110 K7', 10, -25],
    ['150 K7', 12, -28],
    ['200 K7', 13, -33],
    ['25 K6', 2, -11],
    ['25 K8', 10, -23],
    ['3 K7', 0, -10],
    ['25 M7', 0, -21],
    ['62 M7', 0, -30],
    ['25 M8', 4, -29],
    ['300 M6', -9, -41],
    ['25 N7', -7, -28],
    ['110 N7', -10, -45],
    ['25 N6', -11, -24],
    ['25 N8', -3, -36],
    ['25 P7', -14, -35],
    ['62 P7', -21, -51],
    ['25 P8', -22, -55],
    ['16 R7', -16, -34],
    ['25 R7', -20, -41],
    ['16 S7', -21, -39],
    ['25 S7', -27, -48],
    // keyways
    ['8 N9', 0, -36],
    ['12 N9', 0, -43],
    ['8 P9', -15, -51],
    ['12 P9', -18, -61],
    // shafts to be pressed in
    ['25 r6', 41, 28],
    ['60 r6', 60, 41],
    ['70 r6', 62, 43],
    ['25 s6', 48, 35],
    ['90 s6', 93, 71],
    ['170 s7', 148, 108],
    // large ones
    ['300 H7', 52, 0],
    ['450 h6', 0, -40],
    ['350 f7', -62, -119],
    ['200 k6', 33, 4],
    ['280 n6', 66, 34],
    ['500 H8', 97, 0],
  ])('%s is %d to %d', (text, upper, lower) => {
    const limits = limitsOf(text);
    expect([limits.upper / 1000, limits.lower / 1000]).toEqual([upper, lower]);
  });

  it('says what it does not know, and takes no other text for a fit', () => {
    expect(readFit('25 H4')).toMatchObject({ ok: false, reason: expect.stringMatching(/5 to 11/) as string });
    expect(readFit('501 H7')).toMatchObject({ ok: false, reason: expect.stringMatching(/500 mm/) as string });
    expect(readFit('25 Js7')).toMatchObject({ ok: false });
    expect(readFit('0 H7')).toMatchObject({ ok: false });
    expect(readFit('25 t6')).toEqual({
      ok: false,
      reason: 'Of shafts d, e, f, g, h, js, k, m, n, p, r, s are known here, not t: type the limits instead.',
    });
    expect(readFit('25 T7')).toEqual({
      ok: false,
      reason: 'Of holes D, E, F, G, H, JS, K, M, N, P, R, S are known here, not T: type the limits instead.',
    });
    // grades in which these letters are not made, or whose step below is not known; and beyond what is known of a letter
    for (const text of ['25 K9', '25 M9', '25 N5', '25 K5', '200 r6', '200 S7'])
      expect(readFit(text), text).toMatchObject({ ok: false });
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
    // as it stands on the drawing
    expect(read('Ø25 H7')).toEqual([25, 0.021, 0]);
    expect(read('⌀ 25', '0.02', '0')).toEqual([25, 0.02, 0]);
    expect(read('25 +0.021 0')).toEqual([25, 0.021, 0]);
    expect(read('25 +0.02/-0.01')).toEqual([25, 0.02, -0.01]);
    expect(read('25 -0.02 / -0.041')).toEqual([25, -0.02, -0.041]);
    expect(read('25 0/-0.013')).toEqual([25, 0, -0.013]);
    expect(read('1.5 +.001 -.0005', '', '', 'in')).toEqual([38.1, 0.0254, -0.0127]);
    // what is said of the size is meant of what stands behind it
    expect(read('Ø12 mm +0.1/0', '', '', 'in')).toEqual([12, 0.1, 0]);
    expect(read('12 mm ±0.1', '', '', 'in')).toEqual([12, 0.1, -0.1]);
    expect(read('1.5 in ±0.001')).toEqual([38.1, 0.0254, -0.0254]);
    expect(read('25 H7')).toEqual([25, 0.021, 0]);
    // a fit is metric on an inch machine too
    expect(read('25 H7', '', '', 'in')).toEqual([25, 0.021, 0]);
    expect(read('1.5', '±0.001', '', 'in')).toEqual([38.1, 0.0254, -0.0254]);
  });
  it('what the nominal says by itself is known before the rest is written', () => {
    const whole = (nominal: string) => {
      const found = readWhole(nominal, 'mm');
      return found?.ok ? [found.limits.upper / 1000, found.limits.lower / 1000] : found && found.reason;
    };
    expect(whole('Ø25 H7')).toEqual([21, 0]);
    expect(whole('25 ±0.02')).toEqual([20, -20]);
    expect(whole('25 +0.02/-0.01')).toEqual([20, -10]);
    expect(whole('25 H4')).toMatch(/Grades/);
    expect([whole('25'), whole('Ø25'), whole('')]).toEqual([null, null, null]);
    // looked through once more for each of its signs it would take hours
    expect(whole(`${'1 '.repeat(20_000)}+`)).toBeNull();
  });
  it('names the cell that is wrong', () => {
    expect(read('25 H7', '0.01', '0')).toMatch(/^upper: A fit has its limits/);
    expect(read('25 H4')).toMatch(/^nominal: Grades/);
    expect(read('25', '', '')).toMatch(/^upper: /);
    expect(read('25', '0.01', 'x')).toMatch(/^lower: /);
    expect(read('25 ±x')).toMatch(/^upper: /);
    expect(read('1 1/2 0', '', '', 'in')).toMatch(/^nominal: /);
    expect(lengthOf(25, 'mm')).toBe(25_000_000);
  });
});
