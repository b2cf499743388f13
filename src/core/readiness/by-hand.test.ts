import { describe, expect, it } from 'vitest';
import type { NoArm } from '../changer/where.ts';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { sisters } from '../../../tests/support/sisters.ts';
import { checkReadiness } from './check.ts';
import type { AskedGroup, LoadedTool } from './question.ts';

const HEAVY: NoArm = { comes: false, reasons: 'its mass is over' };
const WIDE: NoArm = { comes: true, reasons: 'it is wide' };
const loaded = (tool: number, noArm: NoArm | null, inSpindle = false): LoadedTool => ({
  tool,
  assembly: `A-${tool}`,
  place: inSpindle ? 'the spindle' : 'pocket 7',
  inSpindle,
  noArm,
  flag: null,
  measuredSinceLoading: true,
  life: null,
});
/** Calls T4 on line 3 and T5 on line 6. */
function ask(
  tools: readonly LoadedTool[],
  called = 'T4 M6\nS2000 M3\nG43 H4 Z50.\nT5 M6',
  groups: AskedGroup[] = [],
) {
  const read = readProgram(`%\nO1 (X)\n${called}\nM30\n%`, usualDialect('mill', 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return checkReadiness({
    machine: { name: 'M', kind: 'mill', highestSpeed: 20_000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
    quantity: 1,
    loaded: tools,
    rows: [],
    groups,
  }).filter(({ code }) => code === 'byHandOnly');
}

describe('a tool that the changer must not carry (H5)', () => {
  it('hangs in the magazine and is called: the job must not start', () => {
    expect(ask([loaded(5, HEAVY)])).toMatchObject([
      {
        weight: 'stop',
        tool: 5,
        line: 6,
        sentence: expect.stringMatching(/T5, assembly A-5, hangs in pocket 7.* line 6/),
      },
    ]);
    expect(ask([loaded(5, HEAVY)])[0]!.remedy).toMatch(/by hand/);
    expect(ask([loaded(5, WIDE)])[0]!.remedy).toMatch(/declare the pocket wide/);
    expect(ask([loaded(5, null), loaded(6, HEAVY)])).toEqual([]);
  });
  it('is in the spindle, and the first change would put it away: it comes out before the start', () => {
    expect(ask([loaded(41, HEAVY, true)])).toMatchObject([
      {
        weight: 'stop',
        tool: 41,
        line: 3,
        sentence: expect.stringMatching(/line 3 would put it away for T4/),
      },
    ]);
    expect(ask([loaded(41, WIDE, true)])).toMatchObject([{ weight: 'stop', tool: 41 }]);
  });
  it('cuts first and is put away later: somebody sees that the program stops there', () => {
    expect(ask([loaded(4, HEAVY, true)])).toMatchObject([{ weight: 'look', tool: 4, line: 6 }]);
    // and it is the only one that is called
    expect(ask([loaded(4, HEAVY, true)], 'T4 M6\nS2000 M3\nG43 H4 Z50.')).toEqual([]);
  });
  it('goes by the members of a group that is called', () => {
    const group = sisters(4, [4, 24]);
    expect(ask([loaded(24, HEAVY)], undefined, [group])).toMatchObject([
      { weight: 'stop', tool: 24, line: 3 },
    ]);
    expect(ask([loaded(24, HEAVY, true)], undefined, [group])).toMatchObject([
      { weight: 'look', tool: 24, line: 6 },
    ]);
  });
});
