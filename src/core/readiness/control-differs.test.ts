import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { checkReadiness } from './check.ts';
import type { ReadinessQuestion } from './question.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const LATHE = '%\nO1 (X)\nT0202\nS800 M3\nG1 X20. F0.2\nT0200\nM30\n%';
const MILL = '%\nO1 (X)\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG41 D25 X5.\nG1 X1. Z-5. F400.\nG40 X0.\nM30\n%';

function ask(kind: 'mill' | 'lathe', differs: ReadinessQuestion['differs']) {
  const read = readProgram(kind === 'lathe' ? LATHE : MILL, usualDialect(kind, 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return checkReadiness({
    machine: { name: 'M', kind, highestSpeed: 20_000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
    quantity: 1,
    loaded: [],
    rows: [],
    ...(differs && { differs }),
  }).flatMap(({ code, weight, line, sentence }) =>
    code === 'controlDiffers' ? [{ weight, line, sentence }] : [],
  );
}
const off = (row: number, kind: string, by: number) => ({
  row,
  kind,
  control: mm(120 + by),
  record: mm(120),
});

describe('a called row in which the control holds something else than the record (H17, H19)', () => {
  it('stops the job where a length is far off, and says both', () => {
    expect(ask('mill', [off(5, 'lengthGeometry', 9)])).toEqual([
      {
        weight: 'stop',
        line: 5,
        sentence:
          'Row 5, which T5 uses on line 5, held +129.000 mm as length geometry when the control was last read off; the record says +120.000 mm.',
      },
    ]);
  });
  it('a tenth of a millimetre or less cannot be told, and wear is looked at', () => {
    const weight = (kind: string, by: number) => ask('lathe', [off(2, kind, by)])[0]?.weight;
    expect(weight('zGeometry', 0.1)).toBe('unknown');
    expect(weight('zGeometry', -0.101)).toBe('stop');
    expect(weight('xGeometry', 0.001)).toBe('unknown');
    expect(weight('xWear', 0.4)).toBe('look');
    expect(weight('noseRadius', 0.4)).toBe('stop');
  });
  it('a tip that points another way is a number, not a length', () => {
    const tip = { row: 2, kind: 'tipDirection', control: nanometres(3), record: nanometres(2) };
    expect(ask('lathe', [tip])[0]).toMatchObject({
      weight: 'stop',
      sentence: expect.stringMatching(/held 3 as tip direction .* says 2\./) as string,
    });
  });
  it('of a mill, the cutter in the D row that is called, the length in the H row, and no other row', () => {
    const rows = [off(5, 'cutterWear', 1), off(25, 'lengthGeometry', 1), off(6, 'lengthGeometry', 1)];
    expect(ask('mill', rows)).toEqual([]);
    expect(ask('mill', [off(25, 'cutterWear', 1), off(25, 'cutterGeometry', 1)])).toMatchObject([
      { weight: 'stop', line: 6 },
      { weight: 'look', line: 6 },
    ]);
    expect(ask('mill', undefined)).toEqual([]);
  });
});
