import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { changedLines, freeRow, prepareRow, type RowRegister } from './second-row.ts';

const inch = (value: number) => lengthOf(value, 'in');
const rows = Array.from({ length: 60 }, (_, i) => i + 1);

describe('a second row for one tool (H8)', () => {
  it('is taken from a block that a shop remembers, else from the end', () => {
    expect(freeRow(rows, [1, 2, 5], 2)).toBe(22);
    expect(freeRow(rows, [2, 22], 2)).toBe(32);
    expect(freeRow(rows, [2, 22, 32, 42, 52, 12], 2)).toBe(60);
    expect(freeRow([1, 2], [1, 2], 2)).toBeNull();
  });

  const held = (row: number, values: number[]): RowRegister[] =>
    ['xGeometry', 'zGeometry', 'xWear', 'zWear'].map((kind, i) => ({
      id: row * 10 + i,
      row,
      kind,
      value: inch(values[i]!),
    }));
  it('is as the first but for what its own size asks, and wear left in it is named', () => {
    const registers = [...held(2, [-10.5, -8.25, -0.0026, 0.001]), ...held(22, [0, 0, -0.0004, 0.001])];
    const prepared = prepareRow(registers, 'lathe', { row: 2, to: 22, role: 'xWear', change: inch(-0.0005) });
    expect(prepared.map(({ registerKind, to, stale }) => [registerKind, to, stale])).toEqual([
      ['xGeometry', inch(-10.5), false],
      ['zGeometry', inch(-8.25), false],
      ['xWear', inch(-0.0031), true],
      ['zWear', inch(0.001), false],
    ]);
    expect(prepared[2]).toMatchObject({ registerId: 222, row: 22, from: inch(-0.0004) });
  });
  it('registers that a row does not have are left out', () => {
    expect(
      prepareRow(held(2, [1, 2, 3, 4]), 'lathe', { row: 2, to: 22, role: 'xWear', change: inch(0) }),
    ).toEqual([]);
    expect(
      prepareRow([...held(2, [1, 2, 3, 4]), ...held(22, [0, 0, 0, 0])], 'mill', {
        row: 2,
        to: 22,
        role: 'lengthWear',
        change: inch(0),
      }),
    ).toEqual([]);
  });

  it('a lathe’s T word gets its last digits, also where station and row look alike', () => {
    const text = ['N10 (T0202 FINISHER)', 'N20 T0202 M8 (T0202)', 'N30 T0222', 'N40 T202', 'N50 T2'];
    const lines = changedLines(text, [1, 2, 3, 4, 5, 99], { row: 2, to: 22, role: 'xWear', rowDigits: 2 });
    expect(lines).toEqual([
      { line: 2, was: 'N20 T0202 M8 (T0202)', becomes: 'N20 T0222 M8 (T0202)' },
      { line: 4, was: 'N40 T202', becomes: 'N40 T222' },
    ]);
  });
  it('a mill’s H for a length, its D for a cutter', () => {
    const text = ['G43 H3 Z50.', 'G41 D3 X10.', 'G43 H03 D3', 'G43 H30', 'G43 H3.'];
    const of = (role: 'lengthWear' | 'cutterWear') =>
      changedLines(text, [1, 2, 3, 4, 5], { row: 3, to: 23, role, rowDigits: 0 }).map(
        ({ becomes }) => becomes,
      );
    expect(of('lengthWear')).toEqual(['G43 H23 Z50.', 'G43 H23 D3']);
    expect(of('cutterWear')).toEqual(['G41 D23 X10.', 'G43 H03 D23']);
  });
});
