import { expect, it } from 'vitest';
import { plainCell } from './plain-cell.ts';

it('a text that a spreadsheet would calculate is led by an apostrophe, a number is left alone', () => {
  for (const formula of ['=1+1', '+cmd', '-x', '@SUM(A1)', '-1+2', '\t=1'])
    expect(plainCell(formula)).toBe(`'${formula}`);
  for (const plain of ['-0.635', '12', '+3.5', 'A-101', '']) expect(plainCell(plain)).toBe(plain);
});
