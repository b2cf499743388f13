import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { usualDialect } from './dialect.ts';
import { easiestFirst, elsewhere, type OtherMachine, type ToolThere } from './elsewhere.ts';
import { readProgram } from './read-program.ts';

const MILL = usualDialect('mill', 'mm');
const TEXT =
  '%\nO1 (X)\nT5 M6\nS9000 M3\nG43 H5 Z50.\nG1 X1. F400.\nT12 M6\nS2000 M3\nG43 H12 Z50.\nG1 X1. F400.\nM77\nM30\n%';
const other: OtherMachine = {
  name: 'Bittern',
  kind: 'mill',
  highestSpeed: 12_000,
  highestTool: 99,
  places: 20,
  lastRow: 200,
  travel: { x: null, y: null },
};
const tools: ToolThere[] = [{ tool: 5, words: 'drill', state: 'there', serves: 'B-305' }];
const ask = (
  over: Partial<OtherMachine> = {},
  dialect = { ...MILL, harmlessCodes: ['M77'] },
  text = TEXT,
) => {
  const home = readProgram(text, { ...MILL, harmlessCodes: ['M77'] });
  return elsewhere(
    'mill',
    home.ok ? home.reading.remarks : [],
    { ...other, ...over },
    readProgram(text, dialect),
    tools,
  );
};

describe('whether a program could run on another machine', () => {
  it('as it is, where nothing of it is otherwise there', () =>
    expect(ask()).toEqual({ verdict: 'asItIs', against: [], change: [], tools }));
  it('with what would have to change: speed, T, rows, a code that is not known there', () => {
    expect(ask({ highestSpeed: 8000 }).change.map(({ text }) => text)).toEqual([
      'T5 asks for 9000 rpm; 8000 is the most there.',
    ]);
    expect(ask({ highestTool: 10 }).change).toEqual([
      { tool: 12, text: 'T12 is above the highest T there, 10.' },
    ]);
    expect(ask({ lastRow: 10 }).change[0]!.text).toBe(
      'T12 uses row 12 on line 9; the table there ends at 10.',
    );
    const strange = ask({}, MILL);
    expect(strange.verdict).toBe('changed');
    expect(strange.change[0]!.text).toMatch(/^Line 11: M77/);
  });
  it('what cannot be told at home either is no difference', () => {
    const text = TEXT.replace('M77', 'M79');
    expect(ask({}, { ...MILL, harmlessCodes: ['M77'] }, text).verdict).toBe('asItIs');
  });
  it('a length that is applied by another word there', () =>
    expect(
      ask({}, { ...MILL, harmlessCodes: ['M77', 'G43'], lengthCodes: ['G143'] }).change.map(
        ({ text }) => text,
      ),
    ).toContain('T5 has no length in force by what Bittern takes for one.'));
  it('not at all on another kind of machine, or with fewer places than tools', () => {
    expect(ask({ kind: 'lathe' })).toMatchObject({ verdict: 'not', against: ['Bittern is a lathe.'] });
    expect(ask({ places: 1 })).toMatchObject({
      verdict: 'not',
      against: ['It calls 2 tools, and Bittern has one place.'],
    });
    expect(ask({}, { ...MILL, toolCallCodes: ['M106'] })).toMatchObject({ verdict: 'not' });
  });
  it('not where it goes further than the axes travel', () => {
    const far = TEXT.replace('G1 X1. F400.', 'G0 X-200. Y0.\nG1 X250. F400.');
    const dialect = { ...MILL, harmlessCodes: ['M77'] };
    const within = (x: number) => ask({ travel: { x: lengthOf(x, 'mm'), y: null } }, dialect, far).against;
    expect(within(400)).toEqual(['It goes 450.0 mm in X, and Bittern travels 400.0.']);
    expect(within(450)).toEqual([]);
  });
  it('the easiest comes first', () => {
    const places = [ask({ kind: 'lathe' }), ask({ highestSpeed: 8000 }), ask()].map((found) => ({ found }));
    expect(easiestFirst(places).map(({ found }) => found.verdict)).toEqual(['asItIs', 'changed', 'not']);
  });
});
