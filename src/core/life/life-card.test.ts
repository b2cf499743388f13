import { describe, expect, it } from 'vitest';
import { groupFaults, type GroupMachine, type WrittenGroup } from './group-check.ts';
import { explainLife, lifeNumbers, type LifeKeyed } from './life-card.ts';

const five: LifeKeyed = { tool: 5, basis: 'pieces', remaining: 132, limit: 200 };
const twenty: LifeKeyed = { tool: 25, basis: 'pieces', remaining: 87, limit: 150 };
const timed: LifeKeyed = { tool: 7, basis: 'minutes', remaining: 90 * 60_000, limit: 240 * 60_000 };

describe('what to key for a tool’s life, and what the control shows after it (H11)', () => {
  it('uses as they are, or one less where the control expires below zero; minutes as they are', () => {
    expect(lifeNumbers(five, 'atZero')).toEqual({ set: 200, left: 132 });
    expect(lifeNumbers(five, 'belowZero')).toEqual({ set: 199, left: 131 });
    expect(lifeNumbers(timed, 'belowZero')).toEqual({ set: 240, left: 90 });
    expect(lifeNumbers({ ...timed, remaining: 93_000 }, 'atZero').left).toBe(1.6);
  });
  it('what matches, to a tenth of a minute', () => {
    expect(explainLife(132, five, 'atZero', [])).toEqual({ matches: true });
    expect(explainLife(131, five, 'belowZero', [])).toEqual({ matches: true });
    expect(explainLife(90.05, timed, 'atZero', [])).toEqual({ matches: true });
    expect(explainLife(90.2, timed, 'atZero', [])).toMatchObject({ matches: false });
  });
  it.each([
    [132, 'belowZero', /one less\.$/],
    [131, 'atZero', /as they are/],
    [200, 'atZero', /full life/],
    [199, 'belowZero', /full life/],
    [87, 'atZero', /number of T25/],
    [123, 'atZero', /swapped/],
    [312, 'atZero', /swapped/],
    [1320, 'atZero', /digit too many/],
    [13.2, 'atZero', /too few/],
    [77, 'atZero', /not what the card asks for/],
  ] as const)('%d on a control that expires %s', (shown, rule, why) => {
    const read = explainLife(shown, five, rule, [five, twenty]);
    expect(read.matches ? '' : read.reason).toMatch(why);
  });
  it('hours for minutes', () => {
    const read = explainLife(1.5, timed, 'atZero', []);
    expect(read.matches ? '' : read.reason).toMatch(/hours/);
  });
});

describe('a group as it is written down', () => {
  const member = (tool: number, over: object = {}) => ({
    tool,
    role: 'original' as const,
    lengthRows: [tool],
    radiusRows: [] as number[],
    ...over,
  });
  const group = (over: Partial<WrittenGroup> = {}): WrittenGroup => ({
    number: 90,
    purpose: '',
    next: 'lowest',
    renewed: 'atOnce',
    spares: true,
    initialise: false,
    members: [member(5), member(25, { role: 'spare', radiusRows: [25, 26, 27] })],
    ...over,
  });
  const machine: GroupMachine = {
    name: 'Avocet',
    kind: 'mill',
    highestTool: 60,
    rows: Array.from({ length: 60 }, (_, i) => i + 1),
    others: [{ number: 91, tools: [8] }],
  };
  const faults = (over: Partial<WrittenGroup>, of: Partial<GroupMachine> = {}) =>
    groupFaults(group(over), { ...machine, ...of });
  it('is right: any number, members that differ, a T with one length row and up to three radius rows', () => {
    expect(faults({})).toEqual([]);
    // a D row may be that of an H row: another page
    expect(faults({ members: [member(5, { radiusRows: [5] })] })).toEqual([]);
    const lathe = { kind: 'lathe' as const };
    expect(faults({ members: [member(5, { lengthRows: [5, 25, 35] })] }, lathe)).toEqual([]);
  });
  it.each([
    [{ number: 91 }, /already has a group 91/],
    [{ members: [] }, /one member at least/],
    [{ members: [member(5, { role: 'spare' })] }, /is an original/],
    [{ members: [member(61, { lengthRows: [6] })] }, /T1 to T60/],
    [{ members: [member(5), member(5, { lengthRows: [6] })] }, /in it twice/],
    [{ members: [member(8)] }, /in group 91 already/],
    [{ members: [member(5, { lengthRows: [] })] }, /no row of its own/],
    [{ members: [member(5, { lengthRows: [5, 6] })] }, /one length row/],
    [{ members: [member(5, { radiusRows: [5, 6, 7, 8] })] }, /up to three/],
    [{ members: [member(5), member(6, { lengthRows: [5] })] }, /T6 and T5 share row 5/],
    [{ members: [member(5, { radiusRows: [7] }), member(6, { radiusRows: [7] })] }, /share D7/],
    [{ members: [member(5, { radiusRows: [7, 7] })] }, /names D7 twice/],
  ] as [Partial<WrittenGroup>, RegExp][])('says what is wrong: %j', (over, why) => {
    const found = faults(over);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(why);
  });
  it('rows that the control has; no D on a lathe', () => {
    expect(faults({ members: [member(5, { radiusRows: [5] })] }, { kind: 'lathe' })).toEqual([
      'station 5: a lathe has no D rows.',
    ]);
    expect(faults({ members: [member(5)] }, { rows: [1, 2, 3] })).toEqual(['T5: Avocet has no row 5.']);
  });
});
