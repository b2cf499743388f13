import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import outside from '../../../tests/outside/check-values.json';
import { lengthOf, nanometres } from '../units/length.ts';
import { copyFamily, familyFault, LATHE_KINDS, shiftOf } from './second-part.ts';

const inch = (value: number) => lengthOf(value, 'in');
/** Rows 1 to 30, each register with its own number. */
const table = (value: (row: number, kind: string) => number) =>
  Array.from({ length: 30 }, (_, i) =>
    LATHE_KINDS.map((kind, k) => ({
      id: 100 * (i + 1) + k,
      row: i + 1,
      kind,
      value: nanometres(value(i + 1, kind)),
    })),
  ).flat();

describe('a second part on one bar', () => {
  it('common practice, no source: rows 1, 2, 9 go to 21, 22, 29, Z by part and parting width', () => {
    const { by, z } = outside.commonPractice.secondPartShift as { by: number; z: [number, number][] };
    const family = [1, 2, 9];
    const registers = table((row, kind) =>
      kind === 'zGeometry' && family.includes(row) ? inch(z[family.indexOf(row)]![0]) : 0,
    );
    expect(shiftOf({ partLength: inch(0.5), parting: inch(0.125), facing: inch(0.01) })).toBe(inch(by));
    const copied = copyFamily(registers, family, 20, inch(by)).filter(({ kind }) => kind === 'zGeometry');
    expect(copied.map(({ row, after }) => [row, after])).toEqual(
      z.map(([, after], i) => [family[i]! + 20, inch(after)]),
    );
  });

  it('moves nothing but Z, whatever the rows hold, and names a wear that was left behind', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 120, maxLength: 120 }), (values) => {
        const registers = table(() => 0).map((each, i) => ({ ...each, value: nanometres(values[i]!) }));
        const at = (row: number, kind: string) =>
          registers.find((each) => each.row === row && each.kind === kind)!;
        for (const copy of copyFamily(registers, [3, 5], 20, nanometres(-7))) {
          const source = at(copy.from, copy.kind).value;
          expect(copy.after).toBe(copy.kind === 'zGeometry' ? source - 7 : source);
          expect(copy).toMatchObject({ row: copy.from + 20, before: at(copy.row, copy.kind).value });
          expect(copy.registerId).toBe(at(copy.row, copy.kind).id);
          const wear = copy.kind === 'xWear' || copy.kind === 'zWear';
          expect(copy.stale).toBe(wear && copy.before !== 0 && copy.before !== copy.after);
        }
      }),
    );
  });

  it('refuses what would overwrite a row in use', () => {
    const rows = Array.from({ length: 30 }, (_, i) => i + 1);
    expect(familyFault([1, 2, 9], 20, rows, [1, 2, 9])).toBeNull();
    expect(familyFault([], 20, rows, [])).toMatch(/which rows/);
    expect(familyFault([15], 20, rows, [])).toBe('This machine has no row 35.');
    expect(familyFault([31], 20, rows, [])).toBe('This machine has no row 31.');
    expect(familyFault([1, 3], 2, rows, [])).toMatch(/Row 3 would be copied over/);
    expect(familyFault([1], 5, rows, [6])).toMatch(/Row 6 belongs to the tool in station 6/);
    expect(() =>
      copyFamily(
        table(() => 0),
        [29],
        20,
        nanometres(0),
      ),
    ).toThrow('no row 49');
  });
});
