import { describe, expect, it } from 'vitest';
import type { ToolCall } from '../program/reading.ts';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { lengthOf } from '../units/length.ts';
import { checkReadiness } from './check.ts';
import type { AskedGroup, LoadedTool, ReadinessQuestion } from './question.ts';

const dialect = { ...usualDialect('mill', 'mm'), automaticRow: 99, lifeCodes: ['M120'] };
const callsOf = (text: string): ToolCall[] => {
  const read = readProgram(text, dialect);
  if (!read.ok) throw new Error(read.reason);
  return read.reading.calls;
};
const DRILLS = 'G83 X0. Y0. Z-10. R2. Q3. F100.\nX10.\nG80\n';
const program = (rows = 'G43 H99 Z50.', counts = '') =>
  callsOf(`O1\nT90 M6 (DRILL 6)\nS2000 M3\n${rows}\n${DRILLS}${counts}\nM30`);
const group = (over: Partial<AskedGroup> = {}): AskedGroup => ({
  number: 90,
  purpose: 'drill 6',
  rules: { next: 'lowest', renewed: 'atOnce', spares: true },
  inUse: 5,
  members: [5, 25].map((tool) => ({
    tool,
    role: 'original' as const,
    lengthRows: [tool],
    radiusRows: [],
    fresh: false,
  })),
  ...over,
});
const loaded = (tool: number, remaining: number, over: Partial<LoadedTool> = {}): LoadedTool => ({
  tool,
  assembly: `A-${tool}`,
  place: `pocket ${tool}`,
  flag: null,
  measuredSinceLoading: true,
  life: { basis: 'holes', remaining, limit: 100 },
  ...over,
});
const found = (over: Partial<ReadinessQuestion> & { calls?: ToolCall[] } = {}) =>
  checkReadiness({
    machine: { name: 'Avocet', kind: 'mill', highestSpeed: 12_000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls: over.calls ?? program() },
    quantity: 20,
    // two holes a part
    loaded: [loaded(5, 10), loaded(25, 30)],
    rows: [5, 25, 90].map((row) => ({ row, zero: false })),
    groups: [group()],
    ...over,
  });
const said = (...of: Parameters<typeof found>) =>
  found(...of).map(({ weight, code, line, afterPart }) => [
    weight,
    code,
    line,
    ...(afterPart === undefined ? [] : [afterPart]),
  ]);

describe('a program that calls a group of sisters (H11)', () => {
  it('is ready when its members last together, though none lasts alone', () => {
    expect(said()).toEqual([]);
    expect(said({ quantity: 21 })).toEqual([['look', 'runsOut', 2, 20]]);
  });
  it('of each member is asked what is asked of any tool: wear of the tool before, the way it turns, where it came from', () => {
    const since = { since: 40, kind: 'drill' as const };
    const wear = (entry: number) => [{ kind: 'lengthWear', value: lengthOf(-0.2, 'mm'), entry }];
    const rows = (entry: number) =>
      [5, 25, 90].map((row) => ({ row, zero: false, ...(row === 25 && { wear: wear(entry) }) }));
    const standing = [loaded(5, 10, since), loaded(25, 30, since)];
    expect(said({ loaded: standing, rows: rows(41) })).toEqual([]);
    expect(said({ loaded: standing, rows: rows(39) })).toEqual([['look', 'wearLeft', 2]]);
    const counter = callsOf(`O1\nT90 M6 (DRILL 6)\nS2000 M4\nG43 H99 Z50.\n${DRILLS}\nM30`);
    expect(said({ calls: counter, loaded: standing }).filter(([, code]) => code === 'wrongWay')).toEqual([
      ['stop', 'wrongWay', 2],
      ['stop', 'wrongWay', 2],
    ]);
  });
  describe('and one of its members by its own T', () => {
    const both = (text: string) => callsOf(`O1\n${text}M30`);
    const byGroup = `T90 M6 (DRILL 6)\nS2000 M3\nG43 H99 Z50.\n${DRILLS}`;
    const byItself = `T25 M6 (DRILL 6)\nS2000 M3\nG43 H25 Z50.\n${DRILLS}`;
    const runsOut = (over: Parameters<typeof found>[0]) =>
      found(over)
        .filter(({ code }) => code === 'runsOut')
        .map(({ tool, afterPart, sentence }) => [tool, afterPart, sentence]);
    it('wears it by both: each part by its own call, and twice once it takes over', () => {
      // T5 lasts five parts, in which T25 goes from 30 to 20; then it loses four holes a part, not two: ten parts in all
      expect(runsOut({ calls: both(byGroup + byItself), quantity: 10 })).toEqual([]);
      expect(runsOut({ calls: both(byGroup + byItself), quantity: 11 })).toEqual([
        [90, 10, 'T25, called as one of group 90 and by its own T, runs out at part 10 of 11.'],
      ]);
    });
    it('what a job before takes of it through the group is gone for one that calls its T', () => {
      const before = [{ job: 'O7', parts: 10, partsPerCycle: 1, calls: both(byGroup) }];
      const asked = { calls: both(byItself), before };
      // ten parts of the group: five by T5, five by T25, which has 20 left
      expect(runsOut({ ...asked, quantity: 10 })).toEqual([]);
      expect(runsOut({ ...asked, quantity: 11 })).toEqual([
        [25, 10, 'T25, assembly A-25, runs out at part 10 of 11, from where O7 leaves it.'],
      ]);
      const whole = [{ ...before[0]!, parts: 20 }];
      expect(runsOut({ ...asked, before: whole })).toEqual([
        [25, 0, 'T25, assembly A-25, is used up as O7 ends.'],
      ]);
      expect(runsOut({ ...asked, before: [{ ...before[0]!, parts: 21 }] })).toEqual([
        [
          25,
          0,
          'T25, assembly A-25, is one of group 90, which stops before this job begins: after 20 more parts of O7.',
        ],
      ]);
    });
    it('what a job before takes of it by its T is gone for the group', () => {
      const before = [{ job: 'O7', parts: 10, partsPerCycle: 1, calls: both(byItself) }];
      expect(runsOut({ before, quantity: 10 })).toEqual([]);
      expect(runsOut({ before, quantity: 11 })).toEqual([
        [
          90,
          10,
          'Group 90 (drill 6) is out after part 10 of 11, with T5 and T25 spent one after the other, from where O7 leaves it.',
        ],
      ]);
    });
    it('a call of the number that the group has is no call of the tool with the same T', () => {
      const members = group().members.map((member, i) => ({ ...member, tool: [90, 25][i]! }));
      const named = group({ inUse: 90, members });
      const asked = { groups: [named], loaded: [loaded(90, 10), loaded(25, 30)] };
      expect(said({ ...asked, quantity: 20 })).toEqual([]);
      const before = [{ job: 'O7', parts: 15, partsPerCycle: 1, calls: both(byGroup) }];
      expect(runsOut({ ...asked, before, quantity: 5 })).toEqual([]);
      expect(runsOut({ ...asked, before, quantity: 6 }).map(([tool, after]) => [tool, after])).toEqual([
        [90, 5],
      ]);
    });
    it('one that is expired now is said once, where its T is called', () => {
      const codes = found({
        calls: both(byGroup + byItself),
        loaded: [loaded(5, 10), loaded(25, 0, { flag: 'expired' })],
      }).map(({ tool, code }) => [tool, code]);
      expect(codes).toEqual([[25, 'expired']]);
    });
  });
  it('lasts as far as the jobs that are made first leave it', () => {
    const before = (parts: number) => [{ job: 'O7', parts, partsPerCycle: 1, calls: program() }];
    expect(said({ quantity: 10, before: before(10) })).toEqual([]);
    expect(said({ quantity: 11, before: before(10) })).toEqual([['look', 'runsOut', 2, 10]]);
    expect(said({ before: before(20) })).toEqual([['look', 'runsOut', 2, 0]]);
    expect(found({ before: before(30) }).map(({ sentence }) => sentence)).toEqual([
      'Group 90 (drill 6) is out before this job begins: after 20 more parts of O7.',
    ]);
    expect(said({ loaded: [loaded(5, 10), loaded(25, 30, { flag: 'broken' })], before: before(3) })).toEqual([
      ['stop', 'broken', 2],
    ]);
    // what stops the job before at once stops this one as well
    const spent = [loaded(5, 0, { flag: 'expired' }), loaded(25, 0, { flag: 'expired' })];
    expect(said({ loaded: spent, before: before(3) })).toEqual([['stop', 'groupStops', 2, 0]]);
  });
  it('without spares only the one in use counts', () =>
    expect(
      said({ groups: [group({ rules: { next: 'lowest', renewed: 'atOnce', spares: false } })] }),
    ).toEqual([['look', 'runsOut', 2, 5]]));
  it('an expired member is no fault of the job while another has life', () => {
    expect(said({ loaded: [loaded(5, 0, { flag: 'expired' }), loaded(25, 40)] })).toEqual([]);
    expect(said({ loaded: [loaded(5, 0, { flag: 'expired' }), loaded(25, 0, { flag: 'expired' })] })).toEqual(
      [['stop', 'groupStops', 2, 0]],
    );
  });
  it('a broken or locked one is: no sister takes over where a part is suspect (H12)', () => {
    expect(said({ loaded: [loaded(5, 10), loaded(25, 30, { flag: 'broken' })] })).toEqual([
      ['stop', 'broken', 2],
    ]);
    expect(said({ loaded: [loaded(5, 10), loaded(25, 30, { flag: 'locked' })] })).toEqual([
      ['stop', 'locked', 2],
      ['look', 'runsOut', 2, 5],
    ]);
  });
  it('sisters are measured one by one, each in its own rows', () => {
    expect(said({ loaded: [loaded(5, 10), loaded(25, 30, { measuredSinceLoading: false })] })).toEqual([
      ['stop', 'notMeasured', 2],
    ]);
    expect(
      said({
        rows: [
          { row: 5, zero: false },
          { row: 25, zero: true },
        ],
      }),
    ).toEqual([['stop', 'zeroLength', 2]]);
    const misses = ['it is 6.1 mm across'];
    expect(said({ loaded: [loaded(5, 10), loaded(25, 30, { misses })] })).toEqual([
      ['look', 'notAsAsked', 2],
    ]);
  });
  it('one that is not there leaves the rest; none there stops', () => {
    expect(said({ loaded: [loaded(5, 10)] })).toEqual([
      ['look', 'groupMember', 2],
      ['look', 'runsOut', 2, 5],
    ]);
    expect(said({ loaded: [] })).toEqual([['stop', 'missing', 2]]);
  });
  it('what the control has not taken up does not count', () => {
    const [five, other] = group().members;
    expect(said({ groups: [group({ members: [five!, { ...other!, fresh: true }] })] })).toEqual([
      ['look', 'groupMember', 2],
      ['look', 'runsOut', 2, 5],
    ]);
  });
  it('a fixed H or D stops the job; so does no length at all', () => {
    expect(said({ calls: program('G43 H5 Z50.') })).toEqual([['stop', 'fixedRow', 4]]);
    expect(said({ calls: program('G43 H90 Z50.') })).toEqual([['stop', 'fixedRow', 4]]);
    expect(said({ calls: program('G43 H99 Z50.\nG1 G41 D5 X1. F50.\nG40') })).toEqual([
      ['stop', 'fixedRow', 5],
    ]);
    expect(said({ calls: program('G43 H99 Z50.\nG1 G41 D99 X1. F50.\nG40') })).toEqual([]);
    expect(said({ calls: program('') })).toEqual([['stop', 'noLengthRow', 2]]);
    // read before it was noted whether a row is automatic: the number of the group can be either
    const early = (row: number) => program().map((call) => ({ ...call, lengthRows: [{ row, line: 4 }] }));
    expect([said({ calls: early(90) }), said({ calls: early(5) })]).toEqual([[], [['stop', 'fixedRow', 4]]]);
  });
  it.each<[string, Parameters<typeof found>[0], RegExp, RegExp]>([
    [
      'none there',
      { loaded: [] },
      /^Group 90 \(drill 6\) .* line 2 .*none of T5 and T25 is in Avocet/,
      /^Load/,
    ],
    ['one not there', { loaded: [loaded(5, 100)] }, /^T25 of group 90 is not in Avocet/, /^Load it, or take/],
    [
      'new data',
      {
        groups: [group({ members: group().members.map((each) => ({ ...each, fresh: each.tool === 25 })) })],
        quantity: 1,
      },
      /^T25 of group 90 has new data/,
      /^Key its life/,
    ],
    ['out on the way', { quantity: 21 }, /is out after part 20 of 21, with T5 and T25 spent/, /^Renew those/],
    [
      'out in the job before',
      {
        before: [{ job: 'O7', parts: 30, partsPerCycle: 2, calls: program() }],
        loaded: [loaded(5, 1)],
        groups: [group({ purpose: '', members: group().members.slice(0, 1) })],
      },
      /^Group 90 is out before this job begins: after 1 more part of O7/,
      /^Renew those/,
    ],
    [
      'used up by it',
      { before: [{ job: 'O7', parts: 20, partsPerCycle: 1, calls: program() }] },
      /is used up as O7 ends/,
      /^Renew those/,
    ],
    [
      'none left',
      { loaded: [loaded(5, 0, { flag: 'expired' }), loaded(25, 0, { flag: 'expired' })] },
      /has no tool left: .* first call/,
      /^Renew those/,
    ],
    [
      'without spares',
      { groups: [group({ rules: { next: 'lowest', renewed: 'atOnce', spares: false } })] },
      /runs without spares: T5 expires in part 5 of 20/,
      /^Renew it before then, or let/,
    ],
    ['a fixed H', { calls: program('G43 H5 Z50.') }, /line 2, but line 4 fixes H5/, /automatic offset/],
    [
      'a fixed D',
      { calls: program('G43 H99 Z50.\nG1 G41 D5 X1. F50.\nG40') },
      /line 5 fixes D5/,
      /automatic offset/,
    ],
    ['no length', { calls: program('') }, /cuts from line 2 on with no length/, /length call is missing/],
  ])('names what is meant, and what is to be done: %s', (_, over, sentence, remedy) => {
    const [first] = found(over).filter((each) => sentence.test(each.sentence));
    expect(first?.remedy).toMatch(remedy);
  });
  it('on a lathe it is the row that is fixed, and a call that cuts nothing needs none', () => {
    const lathe = {
      machine: {
        name: 'Curlew',
        kind: 'lathe' as const,
        highestSpeed: 4000,
        boringShift: 'X+' as const,
        unit: 'mm' as const,
      },
    };
    const fixed = program().map((call) => ({ ...call, lengthRows: [{ row: 7, line: 4, automatic: false }] }));
    expect(found({ ...lathe, calls: fixed }).find(({ code }) => code === 'fixedRow')!.sentence).toMatch(
      /fixes row 7/,
    );
    const none = program().map((call) => ({ ...call, lengthRows: [] }));
    expect(said({ ...lathe, calls: none }).filter(([, code]) => code === 'noLengthRow')).toEqual([]);
    const idle = none.map((call) => ({ ...call, cutMilliseconds: 0 }));
    expect(said({ calls: idle }).filter(([, code]) => code === 'noLengthRow')).toEqual([]);
  });
  it('each member is held against its own D row', () => {
    const calls = program('G43 H99 Z50.\nG1 G41 D99 X1. F50.\nG40');
    const members = group().members.map((each) => ({ ...each, radiusRows: [each.tool] }));
    const rows = [5, 25, 90].map((row) => ({
      row,
      zero: false,
      cutterZero: row !== 25,
      cutter: lengthOf(row === 25 ? 3 : 0, 'mm'),
    }));
    const ask = { calls, rows, groups: [group({ members })] };
    const by = (cutterBy: 'cam' | 'control') =>
      found({ ...ask, program: { name: 'O1', partsPerCycle: 1, calls, cutterBy } })
        .filter(({ code }) => code === 'cutterRow')
        .map(({ tool, sentence }) => [tool, /D\d+/.exec(sentence)![0]]);
    expect(by('cam')).toEqual([[25, 'D25']]);
    expect(by('control')).toEqual([[5, 'D5']]);
  });
  it('a member that is called by its own number is a tool like others', () => {
    const own = callsOf(`O1\nT5 M6\nS2000 M3\nG43 H5 Z50.\n${DRILLS}M30`);
    expect(said({ calls: own })).toEqual([['look', 'runsOut', 2, 5]]);
  });
});

describe('life counting in the program, against the holes really made (H11)', () => {
  const counted = (counts: string, over: Partial<ReadinessQuestion> = {}) =>
    found({ calls: program('G43 H99 Z50.', counts), ...over }).map(({ code, line, sentence }) => [
      code,
      line,
      sentence.replace(/^.*counts? /, ''),
    ]);
  it('two holes, counted as two at once or one by one', () => {
    expect(counted('M120 Q2')).toEqual([]);
    expect(counted('M120 Q1\nM120 Q1')).toEqual([]);
    expect(counted('M120\nM120')).toEqual([]);
  });
  it('twice, or another number, with the line of the command', () => {
    expect(counted('M120 Q2\nM120 Q2')).toEqual([['lifeCount', 9, expect.stringContaining('twice')]]);
    expect(counted('M120 Q3')).toEqual([['lifeCount', 8, expect.stringMatching(/^3, by line 8/)]]);
  });
  it('not at all, where other tools of the program are', () => {
    const two = (first: string) =>
      callsOf(
        `O1\nT90 M6\nS2000 M3\nG43 H99 Z50.\n${DRILLS}${first}T7 M6\nM3\nG43 H7 Z50.\n${DRILLS}M120 Q2\nM30`,
      );
    const ask = (calls: ToolCall[]) =>
      said({
        calls,
        loaded: [loaded(5, 100), loaded(25, 30), loaded(7, 100)],
        rows: [5, 7, 25].map((row) => ({ row, zero: false })),
      });
    expect(ask(two(''))).toEqual([['look', 'lifeCount', 2]]);
    expect(ask(two('M120 Q2\n'))).toEqual([]);
    // counted by pieces or minutes the holes are nobody's matter
    const pieces = { basis: 'pieces', remaining: 50, limit: 50 } as const;
    expect(
      said({ calls: program('G43 H99 Z50.', 'M120 Q3'), loaded: [loaded(5, 0, { life: pieces })] }),
    ).toEqual([['look', 'groupMember', 2]]);
    // one that is, is enough
    expect(
      said({
        calls: program('G43 H99 Z50.', 'M120 Q3'),
        loaded: [loaded(5, 50, { life: pieces }), loaded(25, 50)],
      }),
    ).toEqual([['look', 'lifeCount', 8]]);
  });
  it('of a tool by itself too', () => {
    const calls = callsOf(`O1\nT5 M6\nS2000 M3\nG43 H5 Z50.\n${DRILLS}M120 Q4\nM30`);
    expect(said({ calls, loaded: [loaded(5, 100)] })).toEqual([['look', 'lifeCount', 8]]);
  });
});
