import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { several } from './several.ts';

const mm = (value: number) => lengthOf(value, 'mm');

describe('several readings of one size', () => {
  it('their mean counts', () => {
    expect(several([mm(12.001), mm(12.003), mm(12.002)], mm(0.018), 'mm')).toEqual({
      mean: mm(12.002),
      doubt: null,
    });
    expect(several([mm(12.001)], mm(0.001), 'mm')).toEqual({ mean: mm(12.001), doubt: null });
    // a third of a step is no whole nanometre
    expect(several([mm(12), mm(12), mm(12.001)], mm(0.018), 'mm').mean).toBe(12_000_333);
  });
  it('a quarter of the tolerance apart they still agree, more is taken again', () => {
    expect(several([mm(12), mm(12.005)], mm(0.02), 'mm').doubt).toBeNull();
    expect(several([mm(12), mm(12.006), mm(12.003)], mm(0.02), 'mm').doubt).toMatch(/differ by 0.006 mm/);
  });
  it('none is no reading', () => {
    expect(() => several([], mm(1), 'mm')).toThrow(RangeError);
  });
});
