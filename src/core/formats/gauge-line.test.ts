import { describe, expect, it } from 'vitest';
import { readGaugeLine } from './gauge-line.ts';

describe('a line of a bench gauge', () => {
  it('names the gauge, its value as it shows it, and the unit', () => {
    expect(readGaugeLine('GAUGE micrometer 1-2 in = 1.3781 IN\r')).toEqual({
      ok: true,
      gauge: 'micrometer 1-2 in',
      value: '1.3781',
      unit: 'in',
    });
    expect(readGaugeLine('gauge depth=-0.004 mm')).toMatchObject({
      gauge: 'depth',
      value: '-0.004',
      unit: 'mm',
    });
  });
  it('anything else is a sentence', () => {
    const reason = (line: string) => {
      const read = readGaugeLine(line);
      return read.ok ? null : read.reason;
    };
    expect(reason('ERROR no gauge of this name')).toBe('The gauge says: no gauge of this name.');
    for (const line of [
      '',
      'GAUGE a = 1.2',
      'GAUGE a = 1,2 MM',
      'GAUGE = 1 MM',
      'GAUGE a = 1.2 MM x',
      `GAUGE a = ${'1'.repeat(9)} MM`,
    ])
      expect(reason(line)).toMatch(/no reading/);
    expect(reason('x'.repeat(300))).toMatch(/more than a line/);
  });
});
