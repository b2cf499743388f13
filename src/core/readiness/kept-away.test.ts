import { describe, expect, it } from 'vitest';
import type { FirstPlan, FirstSize } from '../correction/first-part-plan.ts';
import type { FirstEvent } from '../correction/first-part-state.ts';
import { lengthOf } from '../units/length.ts';
import { stillAway } from './kept-away.ts';

const inch = (value: number) => lengthOf(value, 'in');
/** A bore that row 5 finishes and row 4 roughs, each kept away by 0.008 (H13). */
function plan(school: FirstPlan['school'], away: readonly number[] = []): FirstPlan {
  const size: FirstSize = {
    name: 'Bore',
    kind: 'bore',
    nominal: inch(1.438),
    upper: inch(0.001),
    lower: inch(0),
    target: inch(1.4385),
    tool: 5,
    row: 5,
    moves: [{ register: 0, by: 1 }],
    own: 0,
    rough: { register: 1, tool: 4, row: 4, stock: inch(0.01) },
    allowance: inch(0.008),
  };
  return {
    school,
    unit: 'in',
    increment: inch(0.0001),
    limit: inch(0.02),
    off: 'parted',
    registers: [5, 4].map((row, i) => ({
      row,
      role: 'xWear' as const,
      held: inch(0),
      ...(away[i] ? { away: inch(away[i]) } : {}),
    })),
    sizes: [size],
  };
}
const keyed = (...changes: [register: number, change: number][]): FirstEvent => ({
  what: 'keyed',
  changes: changes.map(([register, change]) => ({ register, change: inch(change) })),
});
const measured: FirstEvent = { what: 'measured', size: 0, stage: 'finish', measured: inch(1.4305) };
const away = (...of: Parameters<typeof stillAway>) =>
  stillAway(...of).map(({ register, change }) => [register, change]);

describe('which rows stand away for a first part (H13)', () => {
  it('those that were keyed away, until they are moved by it once more', () => {
    const both = [
      [0, inch(-0.008)],
      [1, inch(-0.008)],
    ];
    expect(away(plan('equalPasses'), [])).toEqual([]);
    expect(away(plan('equalPasses'), [keyed([0, -0.008])])).toEqual([both[0]]);
    const set = [keyed([0, -0.008]), keyed([1, -0.008]), measured];
    expect(away(plan('equalPasses'), set)).toEqual(both);
    expect(away(plan('equalPasses'), [...set, keyed([1, 0.008])])).toEqual([both[0]]);
    expect(away(plan('equalPasses'), [...set, keyed([0, 0.0084], [1, 0.008])])).toEqual([]);
  });
  it('the finisher alone on the safe side, none where it is cut to size at once', () => {
    expect(away(plan('safeSide'), [keyed([0, -0.008])])).toEqual([[0, inch(-0.008)]]);
    expect(away(plan('runAndCorrect'), [keyed([0, 0.001])])).toEqual([]);
  });
  it('one that stood away already need not be keyed', () => {
    const anew = plan('equalPasses', [-0.008, 0]);
    expect(away(anew, [])).toEqual([[0, inch(-0.008)]]);
    expect(away(anew, [keyed([1, -0.008])])).toHaveLength(2);
    expect(away(anew, [keyed([1, -0.008]), keyed([0, 0.0084])])).toEqual([[1, inch(-0.008)]]);
  });
});
