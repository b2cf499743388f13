import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { lengthOf } from '../units/length.ts';
import { checkReadiness } from './check.ts';
import type { RowCorrection } from './corrections-left.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const MILL = '%\nO1 (X)\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG41 D25 X5.\nG1 X1. Z-5. F400.\nG40 X0.\nM30\n%';

function ask(corrections?: readonly RowCorrection[]) {
  const read = readProgram(MILL, usualDialect('mill', 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return checkReadiness({
    machine: { name: 'M', kind: 'mill', highestSpeed: 20_000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
    quantity: 1,
    loaded: [],
    rows: [],
    ...(corrections && { corrections }),
  }).flatMap(({ code, weight, line, sentence }) =>
    code === 'correctionLeft' ? [`${weight} ${line}: ${sentence}`] : [],
  );
}
const of = (row: number, kind: string, what: RowCorrection['what']): RowCorrection => ({
  row,
  kind,
  change: mm(-0.014),
  what,
});

describe('a correction of a called row that is not in the control, or not known to be (H13, H14)', () => {
  it('is looked at before the first part, by how far it has come', () => {
    expect(ask([of(5, 'lengthWear', 'proposed'), of(25, 'cutterWear', 'approved')])).toEqual([
      'look 5: A correction of −0.014 mm to length wear of row 5, which T5 uses on line 5, waits for approval.',
      'look 6: A correction of −0.014 mm to cutter wear of row 25, which T5 uses on line 6, waits to be keyed.',
    ]);
    expect(ask([of(5, 'lengthWear', 'doubted')])[0]).toMatch(/^look 5: The last correction of length wear/);
  });
  it('is none of a program that does not call the row, or not as that', () => {
    expect(ask([of(6, 'lengthWear', 'approved'), of(25, 'lengthWear', 'approved')])).toEqual([]);
    expect(ask([of(5, 'cutterWear', 'approved')])).toEqual([]);
    expect(ask()).toEqual([]);
  });
});
