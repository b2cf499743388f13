import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { usualDialect, type Dialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { nanometres } from '../units/length.ts';
import { absoluteWords, addsUp, readPastedTable, registerProgram, screenOrder } from './register-text.ts';
import { registerDecimals } from '../units/register-decimals.ts';

const dialect: Dialect = {
  ...usualDialect('lathe', 'in'),
  setRegister: { xWear: 'G10 P{row} U{value}', zWear: 'G10 P{row} W{value}' },
  guardRegister: { xWear: 'IF [#[100+{row}] NE {value}] GOTO 99' },
  guardEnd: ['N99 M30'],
};
const inch = (value: number) => nanometres(Math.round(value * 25_400_000));
const write = (registerKind: string, row: number, from: number, to: number) => ({
  registerKind,
  row,
  from: inch(from),
  to: inch(to),
});

describe('text that sets registers', () => {
  it('says its unit first, asks every guard before the first value, and ends where a guard leads to', () => {
    expect(
      registerProgram(dialect, 'in', [write('xWear', 2, -0.0026, -0.0029), write('zWear', 4, 0, 0.0012)]),
    ).toEqual(['G20', 'IF [#[100+2] NE -0.0026] GOTO 99', 'G10 P2 U-0.0029', 'G10 P4 W0.0012', 'N99 M30']);
  });

  it('says that its values are absolute, unless G90 is a cycle: a program before may have left G91', () => {
    const mill: Dialect = {
      ...usualDialect('mill', 'mm'),
      setRegister: { lengthWear: 'G10 L11 P{row} R{value}' },
    };
    const lines = registerProgram(mill, 'mm', [write('lengthWear', 3, 0, 0.001)])!;
    expect(lines).toEqual(['G21', 'G90', 'G10 L11 P3 R0.0254']);
    // what a machine makes of it after that program: read by the reader of programs
    const after = readProgram(['O1', 'T1 M6', 'G91 G28 Z0.', ...lines, 'M30'].join('\n'), mill);
    expect(after.ok && after.reading.remarks.map(({ code, adds }) => [code, adds])).toEqual([
      ['writes', undefined],
    ]);
    expect(absoluteWords(usualDialect('lathe', 'in'), 'in')).toEqual(['G20']);
    expect([addsUp(dialect, 'xWear'), addsUp(mill, 'lengthWear'), addsUp(dialect, 'xGeometry')]).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('a table may say so before its unit, behind it, or on a line of its own', () => {
    for (const head of ['G90 G20', 'G20 G90', 'G20G90', 'G20\nG90'])
      expect(readPastedTable(`${head}\nG10 P2 U0.01`, dialect, 'mm')).toEqual({
        rows: [{ kind: 'xWear', row: 2, value: inch(0.01) }],
        problems: [],
      });
  });

  it('writes nothing at all where one of the registers has no text', () => {
    expect(registerProgram(dialect, 'in', [write('xWear', 2, 0, 1), write('xGeometry', 2, 0, 1)])).toBeNull();
    expect(registerProgram(dialect, 'in', [])).toBeNull();
  });

  it('has no last lines where no guard leads to them', () => {
    expect(registerProgram(dialect, 'in', [write('zWear', 12, 0, 0.001)])).toEqual([
      'G20',
      'G10 P12 W0.0010',
    ]);
  });

  it('stands in the order of the control’s pages', () => {
    const rows = [
      write('zWear', 1, 0, 0),
      write('xWear', 12, 0, 0),
      write('xGeometry', 5, 0, 0),
      write('xWear', 2, 0, 0),
    ];
    expect(rows.sort(screenOrder).map((each) => `${each.registerKind} ${each.row}`)).toEqual([
      'xGeometry 5',
      'xWear 2',
      'xWear 12',
      'zWear 1',
    ]);
  });

  it('is read back as it was written, whatever the values', () => {
    const step = fc.integer({ min: -9_999, max: 9_999 }).map((steps) => nanometres(steps * 2_540));
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 99 }), step), {
          minLength: 1,
          selector: ([row]) => row,
        }),
        (rows) => {
          const writes = rows.map(([row, to]) => ({ registerKind: 'xWear', row, from: nanometres(0), to }));
          const text = registerProgram({ ...dialect, guardRegister: {} }, 'in', writes)!;
          const read = readPastedTable(text.join('\r\n'), dialect, 'in');
          expect(read.problems).toEqual([]);
          expect(read.rows).toEqual(writes.map(({ row, to }) => ({ kind: 'xWear', row, value: to })));
        },
      ),
    );
  });
});

describe('a pasted table', () => {
  it('takes rows and what they show, from a spreadsheet or a listing', () => {
    const read = readPastedTable(
      'Row\tX wear\n1\t-0.0026\n2;0.0010\n03  +.0005\nT04 | −0.0001\n',
      dialect,
      'in',
    );
    expect(read.problems).toEqual([]);
    expect(read.rows).toEqual(
      [
        [1, -0.0026],
        [2, 0.001],
        [3, 0.0005],
        [4, -0.0001],
      ].map(([row, value]) => ({ kind: null, row, value: inch(value!) })),
    );
  });

  it('follows the unit that the text itself says', () => {
    const read = readPastedTable('%\nO9001 \n(PUNCHED)\nG21\nN10 G10 P2 U0.254\nM30\n%', dialect, 'in');
    expect(read).toEqual({ rows: [{ kind: 'xWear', row: 2, value: inch(0.01) }], problems: [] });
  });

  it('passes over numbers of blocks, remarks within lines and program numbers, and no more than those', () => {
    const read = readPastedTable(
      'O0042\n\n%\nN5G10  P12 U0.001 (ROUGH 7)\nG10 P12 W-.5\nM02\nM99\n12 0.003\n7 1.\n8 2',
      dialect,
      'in',
    );
    expect(read.problems).toEqual([]);
    expect(read.rows).toEqual(
      [
        ['xWear', 12, 0.001],
        ['zWear', 12, -0.5],
        [null, 12, 0.003],
        [null, 7, 1],
        [null, 8, 2],
      ].map(([kind, row, value]) => ({ kind, row, value: inch(value as number) })),
    );
    for (const line of ['O0042 X1', 'M30 1', '3 N5 0.001', 'AM30', '1 2 3'])
      expect(readPastedTable(line, dialect, 'in')).toMatchObject({ rows: [], problems: [expect.anything()] });
    expect(readPastedTable('12 0,003', dialect, 'in')).toMatchObject({
      rows: [],
      problems: [expect.stringMatching(/^Line 1: .*comma/)],
    });
    const long = `  ${'9'.repeat(60)}`;
    expect(readPastedTable(long, dialect, 'in').problems).toEqual([
      `Line 1: "${'9'.repeat(40)}" is not a row and what it shows.`,
    ]);
  });

  it('without a point a line in the machine’s words holds what the machine takes it for; off a screen it is as it stands', () => {
    const steps: Dialect = { ...dialect, pointless: 'leastIncrement' };
    const rows = (text: string, by = steps) => readPastedTable(text, by, 'in').rows.map(({ value }) => value);
    expect(rows('G10 P1 U26\nG10 P2 U-26.\nG10 P3 U0.0026')).toEqual([inch(0.0026), inch(-26), inch(0.0026)]);
    expect(rows('G21\nG10 P1 U-66')).toEqual([-66_000]);
    expect(rows('7 2')).toEqual([inch(2)]);
    expect(rows('G10 P1 U26', dialect)).toEqual([inch(26)]);
  });

  it('a tip’s direction is written and read as the number that it is', () => {
    const tip = { ...dialect, setRegister: { ...dialect.setRegister, tipDirection: 'G10 P{row} Q{value}' } };
    const line = registerProgram(tip, 'in', [
      { registerKind: 'tipDirection', row: 4, from: null, to: nanometres(3) },
    ])!.at(-1)!;
    expect(line).toBe('G10 P4 Q3');
    expect(readPastedTable(`${line}\nG10 P5 Q08.`, { ...tip, pointless: 'leastIncrement' }, 'in')).toEqual({
      rows: [
        { kind: 'tipDirection', row: 4, value: 3 },
        { kind: 'tipDirection', row: 5, value: 8 },
      ],
      problems: [],
    });
    expect(readPastedTable('G10 P4 Q0.8', tip, 'in').problems).toEqual([
      'Line 1: "0.8" is no direction of a tip.',
    ]);
  });

  it('says which line it cannot read, and takes no row that stands there with two values', () => {
    const read = readPastedTable('1 0.001 0.002 0.003\n2 0.001\n2 0.002\n2 0.001', dialect, 'in');
    expect(read.rows).toEqual([]);
    expect(read.problems).toEqual([
      'Line 1: "1 0.001 0.002 0.003" is not a row and what it shows.',
      'Line 3: row 2 stands in the table twice, with two values; neither is taken.',
    ]);
  });
});

it('writes as many digits as the least step has', () => {
  expect(registerDecimals('mm', nanometres(1_000))).toBe(3);
  expect(registerDecimals('mm', nanometres(100))).toBe(4);
  expect(registerDecimals('in', inch(0.0001))).toBe(4);
  expect(registerDecimals('in', inch(0.00005))).toBe(5);
  // a step that no six digits can write has six
  expect(registerDecimals('mm', nanometres(1))).toBe(6);
  expect(registerDecimals('in', nanometres(1_000))).toBe(6);
});
