import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { partings, type FamilyMachine, type StandsThere } from './family.ts';
import { fieldHistories, planFields, planWas, type PlanSize } from './plan-fields.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const day = (n: number) => new Date(Date.UTC(2026, 0, 1 + n));
const size = (over: Partial<PlanSize & { name: string }> = {}): PlanSize & { name: string } => ({
  name: 'Height',
  kind: 'height',
  nominal: mm(20),
  upper: mm(0.02),
  lower: mm(-0.02),
  target: mm(20),
  policy: 'deadBand',
  deadBand: mm(0.004),
  averageOf: 1,
  tool: 1,
  row: 1,
  other: null,
  rough: null,
  operatorLimit: mm(0.015),
  gauge: 'height gauge',
  every: 4,
  also: [],
  ...over,
});
const stands = (meaning: string, number = 'X-1'): { at: Date; value: StandsThere }[] => [
  { at: new Date(0), value: { meaning: '', number: '' } },
  { at: day(1), value: { meaning, number } },
];
const machine = (name: string, over: Partial<FamilyMachine> = {}): FamilyMachine => ({
  id: 1,
  name,
  unit: 'mm',
  reckoning: 'D holds a radius, millimetres',
  text: [{ at: day(0), value: 'one' }],
  tools: [
    {
      tool: 1,
      stands: stands('face mill 80 mm'),
      gaugeLength: [{ at: day(1), value: mm(100) }],
      life: [{ at: new Date(0), value: '220.0 min' }],
      rows: 'length 1',
    },
  ],
  sizes: [{ name: 'Height', fields: fieldHistories(size(), [{ at: day(0), was: { Height: null } }]) }],
  ...over,
});
const short = (found: ReturnType<typeof partings>) => found.map(({ of, what, by }) => [of, what, by]);

describe('where a family parts', () => {
  it('is nowhere for machines that are alike, whichever piece stands there and whatever presetting left', () => {
    const other = machine('Egret');
    const tool = {
      ...other.tools[0]!,
      stands: stands('face mill 80 mm', 'E-501'),
      gaugeLength: [{ at: day(2), value: mm(100.4) }],
    };
    expect(partings([machine('Avocet'), { ...other, tools: [tool] }], mm(0.5))).toEqual([]);
    expect(short(partings([machine('Avocet'), { ...other, tools: [tool] }], mm(0.3)))).toEqual([
      ['T1', 'gauge length', '0.400 mm'],
    ]);
  });
  it('is told worst first: the tool, its rows, the text, limits, the reckoning, aims, habits, lives', () => {
    const other = machine('Egret', {
      reckoning: 'D holds a diameter, millimetres',
      text: [
        { at: day(0), value: 'one' },
        { at: day(9), value: 'two' },
      ],
      tools: [
        {
          tool: 1,
          stands: stands('face mill 100 mm'),
          gaugeLength: [{ at: day(1), value: mm(110) }],
          life: [{ at: new Date(0), value: '240.0 min' }],
          rows: 'length 21',
        },
      ],
      sizes: [
        {
          name: 'Height',
          fields: fieldHistories(size({ upper: mm(0.03), target: mm(20.002), deadBand: mm(0.006) }), [
            { at: day(7), was: { Height: { aim: mm(20) } } },
            { at: day(0), was: { Height: null } },
          ]),
        },
      ],
    });
    const found = partings([machine('Avocet'), other], mm(0.5));
    expect(short(found)).toEqual([
      ['T1', 'tool', null],
      ['T1', 'rows', null],
      ['program', 'text', null],
      ['Height', 'upper limit', '0.010 mm'],
      ['control', 'reckons', null],
      ['T1', 'gauge length', '10.000 mm'],
      ['Height', 'aim', '0.002 mm'],
      ['Height', 'dead band', '0.002 mm'],
      ['T1', 'good for', null],
    ]);
    const of = (what: string) => found.find((each) => each.what === what)!;
    expect(of('text').since).toEqual({ since: day(9), atLeast: false });
    expect(of('aim').since).toEqual({ since: day(7), atLeast: false });
    expect(of('dead band').since).toEqual({ since: day(0), atLeast: true });
    expect(of('tool').since).toEqual({ since: day(1), atLeast: false });
    // nobody kept since when
    expect(of('reckons').since).toBeNull();
    expect(of('tool').sides).toEqual([
      { machine: 'Avocet', words: 'face mill 80 mm (X-1)' },
      { machine: 'Egret', words: 'face mill 100 mm (X-1)' },
    ]);
  });
  it('tells a T that stands empty on one machine, and a size that one of them does not measure', () => {
    const other = machine('Egret', {
      tools: [
        { ...machine('').tools[0]!, stands: [{ at: new Date(0), value: { meaning: '', number: '' } }] },
      ],
      sizes: [],
    });
    const found = partings([machine('Avocet'), other], mm(0.5));
    expect(found.map(({ of, what, sides }) => [of, what, sides[1]!.words])).toEqual([
      ['T1', 'tool', 'nothing there'],
      ['Height', 'measured', 'no'],
    ]);
  });
  it('of three is told where one of them parts', () => {
    const found = partings(
      [
        machine('Avocet'),
        machine('Egret'),
        machine('Fulmar', {
          sizes: [{ name: 'Height', fields: fieldHistories(size({ gauge: 'caliper' }), []) }],
        }),
      ],
      mm(0.5),
    );
    expect(found[0]).toMatchObject({
      of: 'Height',
      what: 'gauge',
      since: { since: day(0), atLeast: true },
    });
    expect(found[0]!.sides.map(({ words }) => words)).toEqual(['height gauge', 'height gauge', 'caliper']);
  });
});

describe('the past of a plan', () => {
  it('is kept as what changed, and told back from there', () => {
    const [first, second, third] = [
      size(),
      size({ deadBand: mm(0.006) }),
      size({ deadBand: mm(0.005), every: 2 }),
    ];
    const changes = [
      { at: day(5), was: planWas([second], [third]) },
      { at: day(3), was: planWas([first], [second]) },
      { at: day(1), was: planWas([], [first]) },
    ];
    expect(changes.map(({ was }) => was)).toEqual([
      { Height: { 'dead band': mm(0.006), 'parts between readings': '4' } },
      { Height: { 'dead band': mm(0.004) } },
      { Height: null },
    ]);
    const histories = fieldHistories(third, changes);
    const of = (field: string) => histories.find((each) => each.field === field)!.history;
    expect(of('dead band')).toEqual([
      { at: day(1), value: mm(0.004) },
      { at: day(3), value: mm(0.006) },
      { at: day(5), value: mm(0.005) },
    ]);
    expect(of('gauge')).toEqual([{ at: day(1), value: 'height gauge' }]);
    expect(histories.map(({ field }) => field)).toEqual(Object.keys(planFields(third)));
  });
  it('is unknown before a change of which nobody kept what it changed', () => {
    const histories = fieldHistories(size(), [
      { at: day(5), was: { Height: { gauge: 'caliper' } } },
      { at: day(2), was: null },
      { at: day(1), was: null },
    ]);
    const of = (field: string) => histories.find((each) => each.field === field)!.history;
    expect(of('gauge')).toEqual([
      { at: day(2), value: 'caliper' },
      { at: day(5), value: 'height gauge' },
    ]);
    expect(of('aim')).toEqual([{ at: day(2), value: mm(20) }]);
  });
});
