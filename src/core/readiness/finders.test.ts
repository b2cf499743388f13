import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import type { Remark } from '../program/reading.ts';
import { lengthOf } from '../units/length.ts';
import { againstNextPart, checkReadiness } from './check.ts';
import type { Finding, ReadinessQuestion } from './question.ts';
import { mayChange } from './unknowns.ts';

const mm = (value: number) => lengthOf(value, 'mm');
interface Over {
  machine?: Partial<ReadinessQuestion['machine']>;
  program?: Partial<ReadinessQuestion['program']>;
  rest?: Partial<ReadinessQuestion>;
}
function ask(text: string, { machine, program, rest }: Over = {}): Finding[] {
  const kind = machine?.kind ?? 'mill';
  const read = readProgram(text, usualDialect(kind, 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return checkReadiness({
    machine: { name: 'Avocet', kind, highestSpeed: 20_000, boringShift: 'X+', unit: 'mm', ...machine },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls, ...program },
    quantity: 1,
    loaded: [],
    rows: [],
    ...rest,
  });
}
const of = (findings: readonly Finding[], code: Finding['code']) =>
  findings.filter((finding) => finding.code === code);

describe('how far a program goes, and how far the machine travels (H17)', () => {
  const text = '%\nO1\nT5 M6\nS900 M3\nG54 G0 X-10. Y0.\nG43 H5 Z50.\nG1 X590. Y200. F90.\nM30\n%';
  const travel = (x: number | null, y: number | null, kind: 'mill' | 'lathe' = 'mill') =>
    of(
      ask(text, {
        machine: { kind, travel: { x: x === null ? null : mm(x), y: y === null ? null : mm(y) } },
      }),
      'travel',
    ).map(({ weight, line, sentence }) => `${weight} ${line}: ${sentence}`);
  it('as far as it travels is no further', () => {
    expect(travel(600, 200)).toEqual([]);
    expect(travel(599.9, 200)).toEqual(['stop 3: O1 goes 600.0 mm in X; Avocet travels 599.9 mm.']);
    expect(travel(600, 199)).toEqual(['stop 3: O1 goes 200.0 mm in Y; Avocet travels 199.0 mm.']);
  });
  it('of a machine whose travel is not on record, and of a lathe, nothing is said', () => {
    expect(travel(null, null)).toEqual([]);
    expect(of(ask(text), 'travel')).toEqual([]);
    expect(travel(1, 1, 'lathe')).toEqual([]);
  });
});

describe('what the reader could not know (H9, H15)', () => {
  const text = '%\nO1\nT5 M6\nS900 M3\nG43 H5 Z50.\nG1 X1. F90.\nM30\n%';
  const doubt: Remark = {
    code: 'unknownCode',
    line: 4,
    text: 'M77 is not known.',
    wants: 'M77',
    affects: ['speed', 'time'],
    settle: 'Say what it does.',
    tool: 5,
  };
  const found = (settled: ReadinessQuestion['program']['settled'] = [], remark: Partial<Remark> = {}) =>
    of(ask(text, { program: { remarks: [{ ...doubt, ...remark }], settled } }), 'unknown')[0]!;
  const said = { code: 'unknownCode', line: 4, text: 'M77 is not known.', said: 'A lamp.', person: 'Sam' };
  it('cannot be told until somebody settles that very thing on that very line', () => {
    expect(found()).toMatchObject({
      weight: 'unknown',
      tool: 5,
      remedy: 'It could change speeds and time. Say what it does.',
      doubt: { unknownCode: 'M77' },
    });
    expect(found([said])).toMatchObject({ weight: 'settled', remedy: 'Sam: A lamp.' });
    for (const other of [{ line: 5 }, { text: 'M78 is not known.' }, { code: 'unknownValue' }])
      expect(found([{ ...said, ...other }]).weight).toBe('unknown');
  });
  it('a code is asked for only where it is a code, and what is of no tool is of none', () => {
    expect(found([], { code: 'unknownValue', tool: null })).toMatchObject({
      tool: null,
      doubt: { unknownCode: null, code: 'unknownValue' },
    });
    expect(found([], { code: 'selfCall' }).weight).toBe('stop');
  });
  it('says what it may change', () => {
    const may = (affects?: Remark['affects']) => mayChange({ ...doubt, affects: affects as never });
    expect(may([])).toBe('');
    expect(may(undefined)).toBe('');
    expect(may(['depth'])).toBe('It could change depth.');
    expect(may(['tools', 'length', 'radius'])).toBe('It could change tools, lengths and radii.');
    expect(may(['tools', 'length', 'radius', 'speed', 'depth', 'life', 'time'])).toBe(
      'It could change anything.',
    );
  });
});

describe('one T for two tools, by what their remarks say', () => {
  const twice = (first: string, second: string) =>
    of(
      ask(
        `%\nO1 (X)\n(${first})\nT5 M6\nS900 M3\nG43 H5 Z50.\nG1 X1. F90.\nT6 M6\nG43 H6 Z50.\nG1 X1. F90.\n(${second})\nT5 M6\nG43 H5 Z50.\nG1 X2. F90.\nM30\n%`,
      ),
      'doubled',
    ).length;
  it('a corner radius tells two tools apart as well, and a remark that is silent contradicts nothing', () => {
    expect(twice('END MILL 12 R1', 'END MILL 12 R2')).toBe(1);
    expect(twice('END MILL 12 R1', 'END MILL 12 R1')).toBe(0);
    expect(twice('END MILL 12 R1', 'END MILL 12')).toBe(0);
    expect(twice('END MILL 12', 'END MILL 12 R1')).toBe(0);
    expect(twice('TAP M10', 'TAP')).toBe(0);
    expect(twice('TAP', 'TAP M10')).toBe(0);
    expect(twice('TAP M10', 'TAP M10')).toBe(0);
    expect(twice('DRILL', 'DRILL 8.5')).toBe(0);
  });
});

describe('a D row is that of the call', () => {
  const text = '%\nO1\nT5 M6\nS900 M3\nG43 H5 Z50.\nG41 D25 X5.\nG1 X1. F90.\nG40\nM30\n%';
  it('and not of another row', () => {
    const rows = [
      { row: 5, zero: false, cutterZero: true },
      { row: 25, zero: false, cutterZero: false },
    ];
    const codes = (given: typeof rows) =>
      of(ask(text, { program: { cutterBy: 'cam' }, rest: { rows: given } }), 'cutterRow').length;
    expect(codes(rows)).toBe(1);
    expect(codes(rows.map((each) => ({ ...each, cutterZero: !each.cutterZero })))).toBe(0);
    expect(of(ask(text, { rest: { rows } }), 'cutterRow')).toEqual([]);
  });
  it('without compensation it is no matter what it holds', () => {
    const plain = text.replace('G41 D25 X5.', 'G1 D25 X5. F90.');
    const rows = [{ row: 25, zero: false, cutterZero: false }];
    expect(of(ask(plain, { program: { cutterBy: 'cam' }, rest: { rows } }), 'cutterRow')).toEqual([]);
  });
});

describe('against the next part', () => {
  const text = '%\nO1\nT5 M6\nS900 M3\nG43 H5 Z50.\nG1 X1. F90.\nM30\n%';
  it('a length that the control holds otherwise stands there however little it is, wear does not', () => {
    const differs = (kind: string, by: number) =>
      againstNextPart(
        ask(text, { rest: { differs: [{ row: 5, kind, control: mm(100 + by), record: mm(100) }] } }),
      ).filter(({ code }) => code === 'controlDiffers').length;
    expect(differs('lengthGeometry', 5)).toBe(1);
    expect(differs('lengthGeometry', 0.01)).toBe(1);
    expect(differs('lengthWear', 0.01)).toBe(0);
  });
  it('what is worst comes first, and of the same weight what comes first in the program', () => {
    const found = ask('%\nO1\nT5 M6\nS900 M3\nG1 X1. F90.\nT6 M6\nS900 M3\nG1 X1. F90.\nM30\n%');
    const lines = found.filter(({ code }) => code === 'missing').map(({ line }) => line);
    expect(lines).toEqual([3, 6]);
  });
});
