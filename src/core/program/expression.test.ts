import { describe, expect, it } from 'vitest';
import { Expression, isUnknown } from './expression.ts';

const value = (text: string, variables: Readonly<Record<number, number | null>> = {}) => {
  const found = new Expression(text, 0, text.length, (number) => variables[number] ?? null).value();
  return isUnknown(found) ? found.because : found;
};

describe('expressions of a macro', () => {
  // angles in degrees; the values by arithmetic
  it.each([
    ['SIN[30]', 0.5],
    ['COS[60]', 0.5],
    ['TAN[45]', 1],
    ['ASIN[0.5]', 30],
    ['ACOS[0.5]', 60],
    ['ATAN[1]', 45],
    ['ATAN[-1]/[-1]', -135],
    ['SQRT[2.25]', 1.5],
    ['SQR[2.25]', 1.5],
    ['ABS[-2.5]', 2.5],
    ['ROUND[2.4]', 2],
    ['RND[2.6]', 3],
    ['FIX[-2.7]', -2],
    ['FUP[2.1]', 3],
    ['FUP[-2.1]', -3],
    ['EXP[LN[7]]', 7],
    ['2 + 3 * 4 - 10 / 4', 11.5],
    ['[2 + 3] * 4', 20],
    ['-[2 - 5] MOD 2', 1],
    ['12 AND 10', 8],
    ['12 OR 3', 15],
    ['12 XOR 10', 6],
    ['sin[ 30 ]', 0.5],
    ['+.5 - -.25', 0.75],
  ])('%s is %d', (text, is) => {
    expect(value(text)).toBeCloseTo(is, 9);
  });
  it.each([
    ['2 EQ 2', 1],
    ['2 NE 2', 0],
    ['2 GT 2', 0],
    ['2 GE 2', 1],
    ['1 LT 2', 1],
    ['2 LE 1', 0],
  ])('%s is %d', (text, is) => {
    expect(value(text)).toBe(is);
  });
  it('vacant is nought in a sum, and equal to nothing but vacant', () => {
    expect(value('#1 + 2')).toBe(2);
    expect([value('#1 EQ 0'), value('#1 EQ #2'), value('#1 NE 0'), value('#1 LT 1')]).toEqual([0, 1, 1, 1]);
    expect(value('#[#1 + 4]', { 1: 3, 7: 9 })).toBe(9);
    expect(value('##5', { 5: 6, 6: 8 })).toBe(8);
  });
  it.each(['ASIN[2]', 'SQRT[-1]', '1 / 0', 'LN[0]', '7 MOD 0', 'EXP[1000]'])('%s has no value', (text) => {
    expect(value(text)).toBe('a sum that has no value');
  });
  it.each(['', 'X', '[1', 'SIN 30', '1..2', 'ATAN[1]/2', '['.repeat(60) + '1' + ']'.repeat(60)])(
    'what is none is not made one up for: %s',
    (text) => {
      expect(value(text)).toMatch(/^"/);
    },
  );
  it('what nobody knows makes all that hangs on it unknown', () => {
    const of = (text: string) =>
      new Expression(text, 0, text.length, () => ({ because: 'read at the machine' })).value();
    for (const text of ['#1 + 1', '1 - #1', 'SIN[#1]', 'ATAN[1]/[#1]', '#1 GT 0', '0 LT #1', '-#1', '##1'])
      expect(of(text), text).toEqual({ because: 'read at the machine' });
  });
});
