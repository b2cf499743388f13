import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatLength, plainDecimal } from './format-length.ts';
import { lengthOf, nanometres, type Length } from './length.ts';
import { parseLength, parseSize } from './parse-length.ts';
import { roundToIncrement } from './round-to-increment.ts';

const value = (text: string, unit: 'mm' | 'in' = 'mm') => {
  const parsed = parseLength(text, unit);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
};
const reason = (text: string, unit: 'mm' | 'in' = 'mm') => {
  const parsed = parseLength(text, unit);
  return parsed.ok ? null : parsed.reason;
};

describe('exact lengths', () => {
  it('a hundred-thousandth of an inch is 254 nm (1 in = 25.4 mm exactly: 1959 yard and pound agreement)', () => {
    expect(value('0.00001in')).toBe(254);
    expect(value('1in')).toBe(value('25.4mm'));
  });

  it('every 0.00001 in up to a metre survives being written and read again', () => {
    const steps = Math.floor(1_000_000_000 / 254);
    let wrong = 0;
    for (let step = 0; step <= steps; step += 1) {
      const length = (step * 254) as Length;
      const text = formatLength(length, 'in', { decimals: 5, minus: '-' });
      // the fast path of the same exact reading: digits of a fixed-point number
      if (Number(text.replace('.', '')) * 254 !== length) wrong += 1;
      if (step % 97 === 0 && value(text, 'in') !== length) wrong += 1;
    }
    expect(wrong).toBe(0);
  });

  it('any whole number of nanometres survives in millimetres', () => {
    fc.assert(
      fc.property(fc.integer({ min: -2_000_000_000, max: 2_000_000_000 }), (nm) => {
        expect(value(plainDecimal(nanometres(nm), 'mm', 0))).toBe(nm === 0 ? 0 : nm);
      }),
    );
  });

  it('any number of hundred-thousandths of an inch survives in inches', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4_000_000, max: 4_000_000 }), (steps) => {
        const length = nanometres(steps * 254);
        expect(value(plainDecimal(length, 'in', 0), 'in')).toBe(length);
      }),
    );
  });

  it('"1-1/2" is one and a half on a drawing and a half in a sum: as a size it is asked again (common practice, no source)', () => {
    const size = (text: string) => {
      const read = parseSize(text, 'in');
      return read.ok ? read.value : read.reason;
    };
    expect(size('1-1/2')).toBe('"1-1/2" may be 1 1/2, or 1 less 1/2: write 1 1/2, or the decimal number.');
    expect(size('2–3/8in')).toMatch(/write 2 3\/8/);
    expect(['1 1/2', '1 - 1/2', '1.5-1/2'].map(size)).toEqual([38_100_000, 12_700_000, 25_400_000]);
    expect(value('1-1/2', 'in')).toBe(12_700_000);
  });

  it('a sum of readings is the sum of their lengths, whatever the units', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999 }), fc.integer({ min: 0, max: 99_999 }), (a, b) => {
        const text = `${(a / 10_000).toFixed(4)}in - ${(b / 1_000).toFixed(3)}mm`;
        expect(value(text)).toBe(a * 2540 - b * 1000);
      }),
    );
  });
});

describe('what a person types', () => {
  it('takes the unit of the machine unless a suffix says otherwise', () => {
    expect(value('37.985', 'mm')).toBe(37_985_000);
    expect(value('1.4955', 'in')).toBe(lengthOf(1.4955, 'in'));
    expect(value('1.4955in', 'mm')).toBe(lengthOf(1.4955, 'in'));
    expect(value('12 µm', 'in')).toBe(12_000);
    expect(value('3 thou', 'mm')).toBe(76_200);
  });
  it('adds and subtracts: 1.5074 − 1.4965 is 0.0109 in', () => {
    expect(value('1.5074-1.4965', 'in')).toBe(lengthOf(0.0109, 'in'));
    expect(value('1.5074 − 1.4965in', 'mm')).toBe(lengthOf(0.0109, 'in'));
  });
  it('reads fractions as drills are written', () => {
    expect(value('1 1/2in')).toBe(lengthOf(1.5, 'in'));
    expect(value('27/64"')).toBe(lengthOf(0.421875, 'in'));
  });
  it('says what is wrong with the rest', () => {
    expect(reason('')).toMatch(/Type a number/);
    expect(reason('1,5')).toMatch(/comma/);
    expect(reason('1.2.3')).toMatch(/not understood/);
    expect(reason('12 furlongs')).toMatch(/not understood/);
    expect(reason('1/0in')).toMatch(/divides by zero/);
    expect(reason('1in + 2mm + 3')).toMatch(/mixes units/);
    expect(reason('999999999')).toMatch(/over 100 m/);
  });
  it('never throws, whatever is typed', () => {
    fc.assert(fc.property(fc.string(), (text) => void parseLength(text, 'mm')));
  });
});

describe('written for people', () => {
  it('shows a real minus, and a plus where a correction is meant', () => {
    expect(formatLength(lengthOf(-0.0109, 'in'), 'in')).toBe('−0.0109');
    expect(formatLength(lengthOf(0.0052, 'in'), 'in', { sign: 'always' })).toBe('+0.0052');
    expect(formatLength(nanometres(0), 'mm', { sign: 'always' })).toBe('0.000');
  });
  it('rounds half away from zero and never shows a negative nothing', () => {
    expect(formatLength(nanometres(500), 'mm')).toBe('0.001');
    expect(formatLength(nanometres(-499), 'mm')).toBe('0.000');
  });
});

describe('rounding to the least increment of a register (H14; common practice, no source)', () => {
  it('goes to the nearer step, and towards zero on a tie', () => {
    const micrometre = nanometres(1000);
    expect(roundToIncrement(nanometres(1600), micrometre)).toBe(2000);
    expect(roundToIncrement(nanometres(1500), micrometre)).toBe(1000);
    expect(roundToIncrement(nanometres(-1500), micrometre)).toBe(-1000);
  });
  it('is never more than half a step away', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.constantFrom(1000, 2540, 100), (nm, step) => {
        const rounded = roundToIncrement(nanometres(nm), nanometres(step));
        expect(Math.abs(rounded - nm)).toBeLessThanOrEqual(step / 2);
        expect(Math.abs(rounded % step)).toBe(0);
      }),
    );
  });
});
