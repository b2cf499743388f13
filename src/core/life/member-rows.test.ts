import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { endBy, memberOf, rowBeside, type TakeOver } from './member-rows.ts';

const finisher = { tool: 2, lengthRows: [2, 22], radiusRows: [] };
const spare = { tool: 11, lengthRows: [11, 31], radiusRows: [] };
const group = { number: 2, members: [finisher, spare] };

describe('rows of one member that stand for another’s', () => {
  it('the second part on the bar has the second row of whoever cuts it', () => {
    expect(rowBeside(2, finisher, spare)).toBe(11);
    expect(rowBeside(22, finisher, spare)).toBe(31);
    expect(rowBeside(31, spare, finisher)).toBe(22);
    expect(rowBeside(5, finisher, spare)).toBeNull();
    expect(rowBeside(22, finisher, { ...spare, lengthRows: [11] })).toBeNull();
  });

  it('D rows are told from length rows, whatever their numbers', () => {
    const [a, b] = [
      { tool: 5, lengthRows: [5], radiusRows: [55] },
      { tool: 25, lengthRows: [25], radiusRows: [75] },
    ];
    expect([rowBeside(5, a, b), rowBeside(55, a, b)]).toEqual([25, 75]);
  });

  it('an end that the plan names by the group’s own number is found by its row', () => {
    const called = { number: 52, members: group.members };
    expect(endBy({ tool: 52, row: 22 }, called, 11)).toEqual({ tool: 11, row: 31 });
    expect(endBy({ tool: 52, row: 7 }, called, 11)).toBeNull();
    expect(endBy({ tool: 2, row: 2 }, called, 2)).toEqual({ tool: 2, row: 2 });
    expect(endBy({ tool: 2, row: 2 }, called, 9)).toBeNull();
  });
});

/** Who cut part after part, as it truly was; what was entered of it; and counts that were taken back in between. */
const told = fc
  .array(fc.record({ tool: fc.constantFrom(2, 11, 24), parts: fc.integer({ min: 1, max: 9 }) }), {
    minLength: 1,
    maxLength: 12,
  })
  .map((runs) => {
    const cut: number[] = [];
    const takeOvers: TakeOver[] = [];
    let tool = runs[0]!.tool;
    for (const run of runs) {
      if (run.tool !== tool)
        takeOvers.push({
          entry: 10 * cut.length + 5,
          cut: { '7': [cut.length, cut.length] },
          jobs: 7,
          from: tool,
          to: run.tool,
        });
      tool = run.tool;
      for (let i = 0; i < run.parts; i += 1) cut.push(tool);
    }
    return { cut, takeOvers, present: tool };
  });

describe('who cut a part', () => {
  it('is told part by part as it was', () => {
    fc.assert(
      fc.property(told, ({ cut, takeOvers, present }) => {
        for (const [i, tool] of cut.entries())
          expect(memberOf({ series: '7', part: i + 1, entry: 1e9, recut: false }, takeOvers, present)).toBe(
            tool,
          );
      }),
    );
  });

  it('a take-over that was taken back with its count is none', () => {
    const span = (n: number) => ({ cut: { '7': [n, n] as const }, jobs: 7 });
    const takeOvers = [
      { entry: 1, ...span(40), from: 2, to: 11 },
      { entry: 2, ...span(38), from: 11, to: 2 },
      { entry: 3, ...span(43), from: 2, to: 11 },
    ];
    const who = (part: number) => memberOf({ series: '7', part, entry: 9, recut: false }, takeOvers, 11);
    expect([38, 39, 40, 41, 43, 44].map(who)).toEqual([2, 2, 2, 2, 2, 11]);
  });

  it('between parts that nobody can name, nobody can tell; with no take-over it is the one that cuts', () => {
    const part = { series: '7', part: 5, entry: 9, recut: false };
    const between = { entry: 1, cut: { '7': [4, 6] as const }, jobs: 7, from: 2, to: 11 };
    expect(memberOf(part, [between], 11)).toBeNull();
    expect(memberOf(part, [], 11)).toBe(11);
    expect(memberOf(part, [], null)).toBeNull();
  });
});
