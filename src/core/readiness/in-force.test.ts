import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { checkReadiness, verdictOf } from './check.ts';
import type { CutterBy, LoadedTool, Settled } from './question.ts';

/** Findings of a text on a machine in which every called tool stands, measured, with life enough, in a table of 50 rows. */
function find(
  text: string,
  {
    kind = 'mill' as 'mill' | 'lathe',
    cutterBy = 'cam' as CutterBy,
    tool = {} as Partial<LoadedTool>,
    settled = [] as Settled[],
  } = {},
) {
  const read = readProgram(text, usualDialect(kind, 'mm'));
  if (!read.ok) throw new Error(read.reason);
  const { calls, remarks } = read.reading;
  return checkReadiness({
    machine: { name: 'Avocet', kind, highestSpeed: 6000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls, remarks, settled, cutterBy },
    quantity: 1,
    loaded: [...new Set(calls.map((call) => call.tool))].map((number) => ({
      tool: number,
      assembly: `A-${number}`,
      place: `pocket ${number}`,
      flag: null,
      measuredSinceLoading: true,
      life: null,
      ...tool,
    })),
    rows: Array.from({ length: 50 }, (_, i) => ({ row: i + 1, zero: false, cutterZero: cutterBy === 'cam' })),
  });
}
const codes = (...given: Parameters<typeof find>) =>
  find(...given).map(({ weight, code, line }) => [weight, code, line]);
const HEAD = 'O1\nT1 M6\nS1000 M3\nG43 H1 Z50.';

describe('what is in force while it cuts', () => {
  it('everyday text is ready', () => {
    expect(codes(`${HEAD}\nG1 X5. F100.\nM30`)).toEqual([]);
    expect(
      codes('O1\nT0101\nG50 S3000\nG96 S200 M3\nG0 X50. Z0.\nG1 X0. F0.1\nM30', { kind: 'lathe' }),
    ).toEqual([]);
  });
  it('no length, and one that comes too late or was taken away', () => {
    expect(codes('O1\nT1 M6\nS9 M3\nG1 X5. F9.\nM30')).toEqual([['stop', 'noLengthRow', 2]]);
    expect(codes(`${HEAD}\nG49\nG1 X5. F9.\nM30`)).toEqual([['stop', 'noLengthRow', 6]]);
    expect(codes('O1\nT1 M6\nS9 M3\nG43 H0 Z5.\nG1 X5. F9.\nM30')).toEqual([['stop', 'noLengthRow', 2]]);
  });
  it('a way by rapid to a Z before the length is applied: the nose of the spindle would go there', () => {
    const late = (block: string) => codes(`O1\nT1 M6\nS9 M3\n${block}\nG43 H1 Z2.\nG1 X5. F9.\nM30`);
    expect(late('G0 X5. Y5.\nZ5.')).toEqual([['stop', 'noLengthRow', 5]]);
    expect(late('G0 G49 Z5.')).toEqual([['stop', 'noLengthRow', 4]]);
    // places of the machine, steps upwards, X and Y alone
    for (const block of ['G0 G53 Z0.', 'G91 G28 Z0.\nG90', 'G91 G0 Z9.\nG90', 'G0 X5. Y5.'])
      expect(late(block)).toEqual([]);
    // the length of the tool before is none of its own; in the block of the change it is still that one which moves
    const second = (block: string) =>
      codes(`${HEAD}\nG1 X5. F9.\nG0 Z50.\n${block}\nG43 H2 Z2.\nG1 X9.\nM30`);
    expect(second('T2 M6\nS9 M3\nG0 Z20.')).toEqual([['stop', 'noLengthRow', 9]]);
    expect(second('Z200. T2 M6\nS9 M3')).toEqual([]);
    expect(second('G49 Z200.\nT2 M6\nS9 M3')).toEqual([]);
  });
  it('the way home by a place of the part, where that is nearer than it stands', () => {
    const home = (block: string, kind: 'mill' | 'lathe' = 'mill') =>
      kind === 'mill'
        ? codes(`${HEAD}\nG1 X5. Z5. F100.\n${block}\nG90\nM30`)
        : codes(`O1\nT0101\nG97 S900 M3\nG0 X50. Z2.\nG1 X20. F0.1\n${block}\nM30`, { kind });
    for (const block of ['G28 Z0.', 'G30 P2 Z0.', 'G28 X0. Y0. Z-5.'])
      expect(home(block)).toEqual([['look', 'homeBy', 6]]);
    for (const block of ['G91 G28 Z0.', 'G28 Z50.', 'G28 Z5.', 'G53 G0 Z0.', 'G28 X0. Y0.'])
      expect(home(block)).toEqual([]);
    expect(home('G28 X0. Z0.', 'lathe')).toEqual([['look', 'homeBy', 6]]);
    expect(home('G28 U0. W0.', 'lathe')).toEqual([]);
    expect(home('G28 X60. Z5.', 'lathe')).toEqual([]);
    expect(find(`${HEAD}\nG1 Z5. F9.\nG28 Z0.\nM30`)[0]!.sentence).toMatch(/by way of Z0\.000, /);
  });
  it('the row of the tool before', () =>
    expect(codes(`${HEAD}\nG1 X5. F9.\nT2 M6\nS9 M3\nG1 X9.\nM30`)).toEqual([
      ['stop', 'rowDoesNotFollow', 8],
    ]));
  it('a spindle that stands still, but for a probe; one that turns both ways; no feed', () => {
    expect(codes('O1\nT1 M6\nG43 H1 Z5.\nG1 X5. F9.\nM30')).toEqual([['look', 'spindleStands', 4]]);
    expect(codes('O1\nT1 M6\nS0 M3\nG43 H1 Z5.\nG1 X5. F9.\nM30')).toEqual([['look', 'spindleStands', 5]]);
    expect(codes('O1\nT1 M6\nG43 H1 Z5.\nG1 X5. F9.\nM30', { tool: { kind: 'probe' } })).toEqual([]);
    expect(codes(`${HEAD}\nG1 X5. F9.\nM4\nX9.\nM30`)).toEqual([['look', 'bothWays', 2]]);
    expect(codes(`${HEAD}\nG1 X5.\nM30`)).toEqual([['stop', 'noFeed', 5]]);
  });
  it('to the centre without a ceiling, and speeds that are reached, not those of another tool', () => {
    const face = (ceiling: string) =>
      codes(`O1\nT0101\n${ceiling}G96 S200 M3\nG0 X50. Z0.\nG1 X0. F0.1\nM30`, { kind: 'lathe' });
    expect(face('')).toEqual([['stop', 'noCeiling', 5]]);
    expect(face('G50 S9000\n')).toEqual([['stop', 'overSpeed', 2]]);
    const two =
      'O1\nT0101\nG50 S1000\nG96 S200 M3\nG0 X9.\nG1 Z-5. F0.1\nT0202\nG50 S9000\nG96 S300\nG0 X4.\nG1 Z-15.\nM30';
    expect(codes(two, { kind: 'lathe' })).toEqual([['stop', 'overSpeed', 7]]);
    // a tool of the stack that stands less
    expect(codes(two.replace('9000', '4000'), { kind: 'lathe', tool: { speedLimit: 3000 } })).toEqual([
      ['stop', 'toolSpeed', 7],
    ]);
  });
  it('rows beyond the table', () => {
    expect(codes(`${HEAD}\nG41 D206 X5. F9.\nG1 X9. F9.\nM30`)[0]).toEqual(['stop', 'noSuchRow', 5]);
  });
  it('G41 with D0 where the control knows the cutter, and without a D of its own', () => {
    expect(codes(`${HEAD}\nG1 G41 D0 X5. F9.\nG40\nM30`, { cutterBy: 'control' })).toEqual([
      ['stop', 'compensation', 5],
    ]);
    expect(codes(`${HEAD}\nG1 G41 D0 X5. F9.\nG40\nM30`)).toEqual([]);
    expect(codes(`${HEAD}\nG1 G41 D1 X5. F9.\nG40\nT2 M6\nS9 M3\nG43 H2\nG1 G41 X9.\nG40\nM30`)).toEqual([
      ['stop', 'compensation', 10],
    ]);
  });
});

describe('what could not be read', () => {
  const text = `${HEAD}\nM98 P7001\nM30`;
  it('beats ready, and what is only to be looked at', () => {
    const found = find(text);
    expect(found.map(({ weight, code }) => [weight, code])).toEqual([['unknown', 'unknown']]);
    expect(verdictOf(found)).toBe('unknown');
    expect(verdictOf([...found, { ...found[0]!, weight: 'look' }])).toBe('unknown');
    expect(verdictOf([...found, { ...found[0]!, weight: 'stop' }])).toBe('stop');
    expect(found[0]!.remedy).toContain('Bring in O7001');
  });
  it('is settled once for its line and its words, and stays on the list with who said so', () => {
    const doubt = find(text)[0]!.doubt!;
    const settled = [{ ...doubt, said: 'It only blows off.', person: 'Maren Holt' }];
    const found = find(text, { settled });
    expect(verdictOf(found)).toBe('ready');
    expect(found).toMatchObject([{ weight: 'settled', remedy: 'Maren Holt: It only blows off.' }]);
    expect(verdictOf(find(text, { settled: [{ ...settled[0]!, line: 9 }] }))).toBe('unknown');
  });
  it('cutting before any tool, and a program that calls itself, stop', () => {
    expect(verdictOf(find('O1\nG1 X5. F9.\nT1 M6\nM30'))).toBe('stop');
    expect(verdictOf(find(`${HEAD}\nM98 P1\nM30`))).toBe('stop');
  });
});
