import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { lengthOf } from '../units/length.ts';
import { checkReadiness } from './check.ts';
import type { LoadedTool, ReadinessQuestion } from './question.ts';
import type { LeftGeometry } from './row-geometry.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const LATHE = '%\nO1 (X)\nT0202\nS800 M3\nG1 X20. F0.2\nT0222\nG1 X20. F0.2\nT0200\nM30\n%';
const MILL = '%\nO1 (X)\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG41 D5 X5.\nG1 X1. Z-5. F400.\nG40 X0.\nM30\n%';

function ask(
  kind: 'mill' | 'lathe',
  loaded: Partial<LoadedTool>,
  over: Partial<ReadinessQuestion['machine'] & ReadinessQuestion['program']> = {},
  rows: ReadinessQuestion['rows'] = [2, 5, 22].map((row) => ({ row, zero: false, cutterZero: false })),
) {
  const read = readProgram(kind === 'lathe' ? LATHE : MILL, usualDialect(kind, 'mm'));
  if (!read.ok) throw new Error(read.reason);
  const tool = kind === 'lathe' ? 2 : 5;
  return checkReadiness({
    machine: { name: 'M', kind, highestSpeed: 20_000, boringShift: 'X+', unit: 'mm', ...over },
    program: { ...over, name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
    quantity: 1,
    loaded: [
      {
        tool,
        assembly: 'A-1',
        place: 'place 1',
        flag: null,
        measuredSinceLoading: true,
        life: null,
        ...loaded,
      },
    ],
    rows,
  })
    .filter(({ code }) => code === 'geometryLeft' || code === 'cutterRow')
    .map(({ weight, sentence, remedy }) => `${weight}: ${sentence} ${remedy}`);
}
const left = (row: number, why: LeftGeometry['why'], kind = 'zGeometry', moved: number | null = 0.143) => ({
  row,
  kind,
  why,
  by: moved === null ? null : { row: row === 22 ? 2 : 22, moved: mm(moved) },
});

describe('geometry that an earlier tool left in a called row (H1, H8; common practice, no source)', () => {
  it('stops the job, with what was set since and by how much', () => {
    expect(ask('lathe', { left: [left(22, 'before', 'xGeometry', 0), left(22, 'before')] })).toEqual([
      'stop: Row 22, which T2 uses on line 6, still holds the X geometry and Z geometry from before T2 came or its edge was changed; row 2 was set since: Z geometry by +0.143 mm. Copy row 2 to it once more for the second part, or measure T2 into row 22.',
    ]);
  });
  it('a copy of what has moved since stops it too', () => {
    expect(ask('lathe', { left: [left(22, 'copy')] })).toEqual([
      'stop: Row 22, which T2 uses on line 6, was copied from row 2, and row 2 has moved since: Z geometry by +0.143 mm. Copy row 2 to it once more for the second part, or measure T2 into row 22.',
    ]);
  });
  it('of two rows set one after the other, somebody looks which is right', () => {
    expect(ask('lathe', { left: [left(22, 'again')] })[0]).toMatch(
      /^look: Row 22, .* was set for itself, and row 2 was set once more since: Z geometry by \+0\.143 mm/,
    );
  });
  it('what a kept table has set back since it was measured stops it; back at what was measured, somebody looks', () => {
    const back = (moved: number) => ({
      row: 2,
      kind: 'zGeometry',
      why: 'putBack' as const,
      by: { row: 2, moved: mm(moved) },
    });
    expect(ask('lathe', { left: [back(-3.2)] })).toEqual([
      'stop: Row 2, which T2 uses on line 3, was put back from a table kept earlier: Z geometry by −3.200 mm from what was recorded since. Measure T2 into row 2, or key what it held before.',
    ]);
    expect(ask('lathe', { left: [back(0)] })[0]).toMatch(
      /^look: Row 2, .* was put back to what was measured.* Look which is right, or measure T2 into row 2\./,
    );
    // of two kinds one is wrong: it stops
    const both = ask('lathe', { left: [{ ...back(0), kind: 'xGeometry' }, back(-3.2)] });
    expect(both).toHaveLength(1);
    expect(both[0]).toMatch(/^stop: /);
  });
  it('where no other row was set, the row itself is to be measured', () => {
    expect(ask('lathe', { left: [left(2, 'before', 'zGeometry', null)] })).toEqual([
      'stop: Row 2, which T2 uses on line 3, still holds the Z geometry from before T2 came or its edge was changed. Measure T2 into row 2.',
    ]);
  });
  it('is not said of rows that the program does not call, that hold zero, or of a tool that was not measured at all', () => {
    expect(ask('lathe', { left: [left(42, 'before')] })).toEqual([]);
    expect(ask('lathe', { left: [left(22, 'before')], measuredSinceLoading: false })).toEqual([]);
    expect(
      ask('lathe', { left: [left(22, 'before')] }, {}, [
        { row: 2, zero: false },
        { row: 22, zero: true },
      ]),
    ).toEqual([]);
  });
});

describe('a D row that holds another cutter than the one that is there (H7; common practice, no source)', () => {
  const held = (cutter: number, over: object = {}, loaded: Partial<LoadedTool> = {}) =>
    ask('mill', { diameter: mm(12), ...loaded }, { cutterBy: 'control', cutter: 'diameter', ...over }, [
      { row: 5, zero: false, cutterZero: false, cutter: mm(cutter) },
    ]);
  it('within a tenth of a millimetre it is the same cutter, in diameters or radii', () => {
    expect(held(12)).toEqual([]);
    expect(held(11.9)).toEqual([]);
    expect(held(6, { cutter: 'radius' })).toEqual([]);
    expect(held(5.95, { cutter: 'radius' })).toEqual([]);
  });
  it('reground or not on record: somebody looks; of another size altogether: the job stops', () => {
    expect(held(11.6)[0]).toMatch(
      /^look: D5 on line 6 holds a cutter of 11\.600 mm, but A-1 in place 1 is 12\.000 mm/,
    );
    expect(held(10)[0]).toMatch(/^stop: /);
    expect(held(12, { cutter: 'radius' })[0]).toMatch(/^stop: D5 on line 6 holds a cutter of 24\.000 mm/);
  });
  it('is not said where the path knows the cutter, or nobody knows its size', () => {
    expect(held(10, {}, { diameter: undefined as never })).toEqual([]);
    expect(held(10, { cutterBy: 'cam' })).toHaveLength(1); // the row should be zero, which is another matter
  });
});
