import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { planFaults, planLook, type CheckedSize } from './plan-check.ts';

const row = (n: number) => ({ row: n, line: 1 });
const call = (tool: number, length: number[], radius: number[] = []) => ({
  tool,
  lengthRows: length.map(row),
  radiusRows: radius.map(row),
  cutSide: null,
});
const size = (over: Partial<CheckedSize>): CheckedSize => ({
  name: 'Seat',
  kind: 'outsideDiameter',
  tool: 2,
  row: 2,
  other: null,
  rough: null,
  ...over,
});
const lathe = { kind: 'lathe', x: 'diameter', cutter: 'radius' } as const;
const mill = { ...lathe, kind: 'mill' } as const;

describe('a measuring plan held against its program (H8, H14)', () => {
  const turned = [call(1, [1, 21]), call(2, [2, 22]), call(8, [8])];
  it('takes rows that the tool is called with, in either part of a bar', () => {
    expect(planFaults([size({}), size({ row: 22 })], turned, lathe)).toEqual([]);
  });
  it('names a tool that is not called: its own, its other end’s, its rougher’s', () => {
    const rough = { tool: 7, row: 7, stock: lengthOf(0.5, 'mm') };
    for (const each of [
      size({ tool: 7 }),
      size({ kind: 'shoulder', other: { tool: 7, row: 7 } }),
      size({ rough }),
    ])
      expect(planFaults([each], turned, lathe)).toEqual([
        '"Seat" names T7, which the program does not call.',
      ]);
  });
  it('names a row that its tool is never called with', () => {
    expect(planFaults([size({ row: 12 })], turned, lathe)[0]).toMatch(
      /T2 is called with row 2 and 22, not with row 12/,
    );
    const other = { tool: 1, row: 2 };
    expect(planFaults([size({ kind: 'shoulder', other })], turned, lathe)[0]).toMatch(/T1 .* not with row 2/);
    expect(
      planFaults([size({ rough: { tool: 1, row: 3, stock: lengthOf(1, 'mm') } })], turned, lathe),
    ).toHaveLength(1);
  });
  it('a width of a mill answers to D, a height to H', () => {
    const calls = [call(3, [3], [13])];
    const of = (kind: CheckedSize['kind'], at: number) =>
      planFaults([size({ kind, tool: 3, row: at })], calls, mill);
    expect([of('outsideWidth', 13), of('height', 3)]).toEqual([[], []]);
    expect(of('outsideWidth', 3)[0]).toMatch(/called with row 13/);
    expect(of('height', 13)[0]).toMatch(/called with row 3/);
  });
  it('a size that this kind of machine has no register for', () => {
    expect(planFaults([size({})], turned, mill)[0]).toMatch(
      /outside diameter is held by X wear, which a mill/,
    );
    expect(planFaults([size({ kind: 'height' })], turned, lathe)[0]).toMatch(/length wear, which a lathe/);
  });
  it('does not judge by rows it could not read, nor sizes that no register holds', () => {
    expect(planFaults([size({ row: 9 })], [call(2, [])], lathe)).toEqual([]);
    expect(planFaults([size({ kind: 'cutHole', row: 9 })], turned, lathe)).toEqual([]);
  });
});

describe('what a plan would change', () => {
  const columns = ['feature', 'nominal', 'upper'];
  it('cell by cell, known by name whatever its case', () => {
    const known = [
      { feature: 'Bore', nominal: '20', upper: '0.021' },
      { feature: 'Seat', nominal: '30', upper: '0' },
    ];
    const planned: Record<string, string>[] = [
      { feature: 'bore', nominal: '20', upper: '0.033' },
      { feature: 'Seat', nominal: '30', upper: '0' },
      { feature: 'Rim', nominal: '8' },
    ];
    expect(planLook(planned, known, columns)).toEqual([
      { name: 'bore', verdict: 'changed', changes: [{ column: 'upper', before: '0.021', after: '0.033' }] },
      { name: 'Seat', verdict: 'same', changes: [] },
      { name: 'Rim', verdict: 'added', changes: [{ column: 'nominal', before: '', after: '8' }] },
    ]);
  });
});
