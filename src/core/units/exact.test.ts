import { describe, expect, it } from 'vitest';
import { formatLength, formatWithUnit, plainDecimal } from './format-length.ts';
import { add, inUnit, lengthOf, nanometres, otherUnit, subtract } from './length.ts';
import { parseLength } from './parse-length.ts';
import { roundToIncrement } from './round-to-increment.ts';

describe('lengths, to the last digit', () => {
  it('are whole nanometres that a number holds exactly, or none', () => {
    for (const value of [0.5, Number.NaN, Infinity, 2 ** 53])
      expect(() => nanometres(value)).toThrow(/whole number of nanometres/);
    expect(Object.is(nanometres(-0), 0)).toBe(true);
    expect(nanometres(2 ** 53 - 1)).toBe(2 ** 53 - 1);
  });
  it('add up, and turn into the other unit (1 in = 25.4 mm, ISO 80000-3)', () => {
    const [inch, mm] = [lengthOf(1, 'in'), lengthOf(1, 'mm')];
    expect([add(inch, mm), subtract(inch, mm)]).toEqual([26_400_000, 24_400_000]);
    expect([inUnit(inch, 'mm'), inUnit(inch, 'in')]).toEqual([25.4, 1]);
    expect([otherUnit('mm'), otherUnit('in')]).toEqual(['in', 'mm']);
  });
  it('are written with their unit, a whole number without a point, nought without a sign', () => {
    expect(formatWithUnit(lengthOf(37.985, 'mm'), 'mm')).toBe('37.985 mm');
    expect(formatLength(lengthOf(-12.4, 'mm'), 'mm', { decimals: 0 })).toBe('−12');
    expect(formatLength(nanometres(0), 'mm', { sign: 'always' })).toBe('0.000');
    expect(formatLength(nanometres(-1), 'mm', { decimals: 3 })).toBe('0.000');
  });
  it('for files lose no digit that matters and carry none that does not', () => {
    expect(plainDecimal(nanometres(-12_500_000), 'mm')).toBe('-12.500');
    expect(plainDecimal(nanometres(12_500_010), 'mm')).toBe('12.50001');
    expect(plainDecimal(nanometres(254), 'in')).toBe('0.00001');
    expect(plainDecimal(nanometres(12_000_000), 'mm', 0)).toBe('12');
    expect(plainDecimal(nanometres(12_500_000), 'mm', 0)).toBe('12.5');
  });
  it('are rounded to an increment that is one', () => {
    for (const increment of [0, -1000])
      expect(() => roundToIncrement(nanometres(5), nanometres(increment))).toThrow(/above zero/);
  });
});

describe('lengths as people type them', () => {
  const value = (text: string, unit: 'mm' | 'in' = 'mm') => {
    const read = parseLength(text, unit);
    return read.ok ? read.value : read.reason;
  };
  it('blanks, signs, fractions and bare points', () => {
    expect(value('  12.5  ')).toBe(12_500_000);
    expect(value('+3')).toBe(3_000_000);
    expect(value('-3')).toBe(-3_000_000);
    expect(value('.5')).toBe(500_000);
    expect(value('5.')).toBe(5_000_000);
    expect(value('1/2in')).toBe(12_700_000);
    expect(value('1 1/2', 'in')).toBe(38_100_000);
    expect(value('0')).toBe(0);
  });
  it('sums in one unit, in two when every number names its own, with blanks between', () => {
    expect(value('1.5 + 2')).toBe(3_500_000);
    expect(value('1.5in - 2 in')).toBe(-12_700_000);
    expect(value('1in+1mm')).toBe(26_400_000);
    expect(value('1in+1mm+1')).toMatch(/mixes units/);
    expect(value('1+1in')).toBe(50_800_000);
    expect(value('25 thou')).toBe(635_000);
    expect(value('250um+1')).toBe(251_000);
  });
  it('what is none says so, and what is over a hundred metres is asked about', () => {
    expect(value('1 2')).toMatch(/not a length/);
    expect(value('1/0')).toMatch(/divides by zero/);
    expect(value('100000')).toBe(100_000_000_000);
    expect(value('-100000')).toBe(-100_000_000_000);
    expect(value('100000.000001')).toMatch(/over 100 m/);
  });
});
