import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { sisters } from '../../../tests/support/sisters.ts';
import { checkReadiness, verdictOf } from './check.ts';
import type { ReadinessQuestion } from './question.ts';

const TEXT = '%\nO1 (X)\nT4 M6\nS2000 M3\nG43 H4 Z50.\nT5 M6\nS2000 M3\nG43 H5 Z50.\nM30\n%';

function ask(over: Partial<ReadinessQuestion>, machine: Partial<ReadinessQuestion['machine']> = {}) {
  const read = readProgram(TEXT, usualDialect('mill', 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return checkReadiness({
    machine: { name: 'M', kind: 'mill', highestSpeed: 20_000, boringShift: 'X+', unit: 'mm', ...machine },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
    quantity: 1,
    loaded: [],
    rows: [],
    ...over,
  }).filter(({ code }) => code === 'whereItStands');
}
const words = 'T5 and T9 have changed places. Look into pocket 7.';

describe('whether it is known where the called tools stand (H4, H18)', () => {
  it('cannot be told while nobody is sure of the spindle', () => {
    const found = ask({}, { spindleSure: false });
    expect(found).toMatchObject([{ weight: 'unknown', tool: null, line: 3 }]);
    expect(verdictOf(found)).toBe('unknown');
    expect(ask({}, { spindleSure: true })).toEqual([]);
    expect(ask({})).toEqual([]);
  });
  it('cannot be told of a tool that record and control have in different pockets, and is no matter for others', () => {
    expect(ask({ tangles: [{ tools: [5, 9], words }] })).toMatchObject([
      {
        weight: 'unknown',
        tool: 5,
        line: 6,
        sentence: `Record and control do not agree where T5 stands. ${words}`,
      },
    ]);
    expect(ask({ tangles: [{ tools: [7, 9], words }] })).toEqual([]);
    expect(ask({ tangles: [{ tools: [4, 5], words }] })[0]!.sentence).toMatch(/where T4, T5 stand\. /);
  });
  it('goes by the members of a group that is called', () => {
    const group = sisters(4, [4, 24]);
    expect(ask({ groups: [group], tangles: [{ tools: [9, 24], words }] })).toMatchObject([
      { tool: 24, line: 3 },
    ]);
  });
});
