import { describe, expect, it } from 'vitest';
import { rowsOfTools } from './tool-rows.ts';

const rows = (...asked: Parameters<typeof rowsOfTools>) => Object.fromEntries(rowsOfTools(...asked));

describe('length rows of the tools in a machine (H8)', () => {
  it('a mill applies that of the T, or of its place in a group', () => {
    const members = [{ tool: 11, lengthRows: [31, 32] }];
    expect(rows('mill', [5, 11], members, [{ tool: 5, row: 25 }])).toEqual({ 5: [5], 11: [31] });
  });
  it('a station has its own, and each that a program names beside it', () => {
    const named = [2, 22, 42].map((row) => ({ tool: 2, row }));
    expect(rows('lathe', [2, 5], [], named)).toEqual({ 2: [2, 22, 42], 5: [5] });
  });
  it('a row that is another loaded station’s own is that one’s', () => {
    expect(rows('lathe', [2, 5], [], [{ tool: 2, row: 5 }])).toEqual({ 2: [2], 5: [5] });
    expect(rows('lathe', [2], [], [{ tool: 2, row: 5 }])).toEqual({ 2: [2, 5] });
  });
  it('a member of a lathe’s group has its own set of rows', () => {
    expect(rows('lathe', [4], [{ tool: 4, lengthRows: [14, 24] }], [{ tool: 4, row: 44 }])).toEqual({
      4: [14, 24, 44],
    });
  });
});
