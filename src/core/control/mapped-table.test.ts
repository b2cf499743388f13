import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nanometres, type Length } from '../units/length.ts';
import {
  agentTable,
  cellsOf,
  guessMapping,
  mappingRefusal,
  meaningOf,
  readMapped,
  type TableMapping,
} from './mapped-table.ts';

const MILL = ['lengthGeometry', 'lengthWear', 'cutterGeometry', 'cutterWear'];
const LATHE = ['xGeometry', 'zGeometry', 'xWear', 'zWear', 'noseRadius'];
const mm = (value: number) => nanometres(Math.round(value * 1e6));
const register = (kind: string, times: 1 | 2 | 0.5 = 1, turned = false) =>
  ({ what: 'register', kind, times, turned }) as const;

describe('the layout of a table, from a sample', () => {
  it('is read off a separated one with a head', () => {
    const text =
      'OFFSET TABLE;;;;\nNo.;Length;Length wear;Dia.;Note\n1;120,345;-0,010;12;drill\n2;98,7;0;10;\n';
    const mapping = guessMapping(text, MILL, 'mm');
    expect(mapping).toMatchObject({ separator: ';', skip: 2, unit: 'mm', decimal: 'comma' });
    expect(mapping.columns.slice(0, 3)).toEqual([
      { what: 'row' },
      register('lengthGeometry'),
      register('lengthWear'),
    ]);
    expect(mapping.columns[4]).toBeNull();
    expect(readMapped(text, mapping).values.slice(0, 2)).toEqual([
      { kind: 'lengthGeometry', row: 1, value: mm(120.345) },
      { kind: 'lengthWear', row: 1, value: mm(-0.01) },
    ]);
  });

  it('without a name the first column counts the rows; where one has the name, that one does', () => {
    expect(guessMapping('1;120.345;0.010\n2;98.7;0.5\n', MILL, 'mm').columns).toEqual([
      { what: 'row' },
      null,
      null,
    ]);
    expect(guessMapping('Length;No.\n120.345;1\n98.7;2\n', MILL, 'mm').columns).toEqual([
      register('lengthGeometry'),
      { what: 'row' },
    ]);
    expect(guessMapping('', MILL, 'mm').columns).toEqual([]);
  });

  it.each([
    ['No.;Length\n1;-,5\n2;+12,25\n3;7.\n', 'comma'],
    // as often as points: nobody can tell, and the reader says so line by line
    ['No.;Length\n1;0,5\n2;12.25\n', 'point'],
    // the head, the numbers of the rows and notes are no lengths
    ['Stand;1,5;2,5;3,5\nNo.;Length;Wear;Note\n1;120.345;0;x\n', 'point'],
    ['No.;Length\n1,1;120.3\n1,2;98\n1,3;99\n', 'point'],
    ['No.;Length;Note\n1;120.3;drill 3,5\n2;98;bore 4,2\n', 'point'],
    ['No.;Length;Note\n1;120.3;3,5 long\n2;98;4,2 long\n', 'point'],
  ])('of %j the decimal sign is a %s', (text, decimal) => {
    expect(guessMapping(text, MILL, 'mm').decimal).toBe(decimal);
  });

  it('a name of two words over fixed columns is one, though its first stands as near to the column before', () => {
    const text = '  No.     DW  Geom. length\n    1  0.000         0.120\n';
    const { values } = readMapped(text, guessMapping(text, MILL, 'mm'));
    expect(values.map(({ kind, value }) => `${kind} ${value}`)).toEqual([
      'cutterWear 0',
      'lengthGeometry 120000',
    ]);
    // and where one blank parts columns each word is a name
    const close = 'No. Length  Wear\n  1 120.300 0.010\n  2  98.000 0.000\n';
    expect(guessMapping(close, MILL, 'mm').columns.slice(0, 2)).toMatchObject([
      { what: 'row' },
      { kind: 'lengthGeometry' },
    ]);
  });
  it('of any table that names its columns is guessed so that each number is read as what it was written', () => {
    const NAMED = {
      lengthGeometry: ['Length', 'H', 'Geom. length', 'H geom.', 'lengthGeometry'],
      lengthWear: ['Length wear', 'Wear (H)', 'HW'],
      cutterGeometry: ['Dia.', 'Radius', 'Geom. dia', 'D', 'DIAMETER (mm)'],
      cutterWear: ['Dia. wear', 'RADIUS_WEAR', 'Wear (D)', 'DW'],
    };
    const micron = fc.integer({ min: -400_000, max: 400_000 });
    const kinds = fc.shuffledSubarray(MILL, { minLength: 1 });
    const asked = fc.record({
      kinds,
      name: fc.nat(60),
      // the column of the rows stands anywhere but last
      rowAt: fc.nat(),
      rows: fc.uniqueArray(
        fc.tuple(
          fc.integer({ min: 1, max: 400 }),
          fc.array(micron, { minLength: 4, maxLength: 4 }),
          fc.constantFrom('', 'drill 3,5', '#7'),
        ),
        { minLength: 1, maxLength: 90, selector: ([row]) => row },
      ),
      separator: fc.constantFrom(';', '\t', '|', 'columns'),
      decimal: fc.constantFrom('.', ','),
      above: fc.constantFrom('', 'OFFSETS 2026\n', '\n\nTOOL TABLE\n\n'),
      mark: fc.constantFrom('', '\uFEFF'),
      note: fc.boolean(),
    });
    fc.assert(
      fc.property(asked, ({ kinds: own, name, rowAt, rows, separator, decimal, above, mark, note }) => {
        const number = (value: number) => (value / 1000).toFixed(3).replace('.', decimal);
        const at = rowAt % own.length;
        const put = <T>(all: readonly T[], one: T) => [...all.slice(0, at), one, ...all.slice(at)];
        const names = own.map((kind) => {
          const known = NAMED[kind as keyof typeof NAMED];
          return known[name % known.length]!;
        });
        const cells = [
          [...put(names, 'No.'), ...(note ? ['Note'] : [])],
          ...rows.map(([row, values, said]) => [
            ...put(
              own.map((_, i) => number(values[i]!)),
              String(row),
            ),
            ...(note ? [said.replaceAll(' ', separator === 'columns' ? '_' : ' ')] : []),
          ]),
        ];
        const wide = cells[0]!.map((_, i) => Math.max(...cells.map((line) => line[i]!.length)) + 2);
        const text = `${mark}${above}${cells
          .map((line) =>
            separator === 'columns'
              ? line.map((cell, i) => cell.padStart(wide[i]!)).join('')
              : line.join(separator),
          )
          .join('\n')}\n`;
        const mapping = guessMapping(text, MILL, 'mm');
        const read = readMapped(text, mapping);
        expect([mapping.separator, read.problems, text]).toEqual([separator, [], text]);
        const told = read.values.map(({ kind, row, value }) => `${kind} ${row} ${value}`);
        expect(told.toSorted()).toEqual(
          rows
            .flatMap(([row, values]) => own.map((kind, i) => `${kind} ${row} ${values[i]! * 1000}`))
            .toSorted(),
        );
      }),
      { numRuns: 300 },
    );
  });

  it('is read off fixed columns, and a lathe’s names', () => {
    const text = [
      'WEAR/GEOMETRY  (INCH)',
      ' NO.    X          Z        X WEAR    Z WEAR',
      '  1   -5.2100   -10.4400    0.0000    0.0002',
      '  2   -4.0000    -9.9990   -0.0004    0.0000',
      ' 12    0.0000     0.0000    0.0000    0.0000',
    ].join('\r\n');
    const mapping = guessMapping(text, LATHE, 'mm');
    expect(mapping).toMatchObject({ separator: 'columns', skip: 2, unit: 'in', decimal: 'point' });
    const read = readMapped(text, {
      ...mapping,
      columns: [
        { what: 'row' },
        register('xGeometry'),
        register('zGeometry'),
        register('xWear'),
        register('zWear'),
      ],
    });
    expect(read.problems).toEqual([]);
    expect(read.values.filter(({ row }) => row === 2)).toEqual([
      { kind: 'xGeometry', row: 2, value: mm(-4 * 25.4) },
      { kind: 'zGeometry', row: 2, value: mm(-9.999 * 25.4) },
      { kind: 'xWear', row: 2, value: mm(-0.0004 * 25.4) },
      { kind: 'zWear', row: 2, value: 0 },
    ]);
  });

  it.each([
    ['H', 'lengthGeometry'],
    ['LENGTH_WEAR', 'lengthWear'],
    ['Radius wear', 'cutterWear'],
    ['Geom. length', 'lengthGeometry'],
    ['lengthGeometry', 'lengthGeometry'],
    ['Remark', null],
    ['X', null],
  ])('on a mill %s holds %s', (name, kind) => {
    const meaning = meaningOf(name, MILL);
    expect(meaning?.what === 'register' ? meaning.kind : meaning?.what === 'row' ? 'row' : null).toBe(
      name === 'H' ? 'row' : kind,
    );
  });

  it('whatever a table was like, it comes back as it was written: separators, columns, units, signs', () => {
    const kinds = fc.subarray(MILL, { minLength: 1 });
    fc.assert(
      fc.property(
        kinds,
        fc.constantFrom(',', ';', '\t', '|', 'columns') as fc.Arbitrary<TableMapping['separator']>,
        fc.constantFrom('mm', 'in') as fc.Arbitrary<'mm' | 'in'>,
        fc.constantFrom('point', 'comma') as fc.Arbitrary<'point' | 'comma'>,
        fc.array(fc.array(fc.integer({ min: -4_000_000, max: 4_000_000 }), { minLength: 4, maxLength: 4 }), {
          minLength: 1,
          maxLength: 12,
        }),
        (held, separator, unit, decimal, table) => {
          // a comma cannot be both
          fc.pre(!(separator === ',' && decimal === 'comma'));
          const step = unit === 'mm' ? 1000 : 2540;
          const written = (n: number) =>
            (n / (unit === 'mm' ? 1000 : 10_000))
              .toFixed(unit === 'mm' ? 3 : 4)
              .replace('.', decimal === 'comma' ? ',' : '.');
          const cells = table.map((row, i) => [String(i + 1), ...held.map((_, k) => written(row[k]!))]);
          const mapping: TableMapping = {
            separator,
            begins: separator === 'columns' ? held.map((_, k) => 6 + 16 * k) : [],
            skip: 1,
            columns: [{ what: 'row' }, ...held.map((kind) => register(kind))],
            unit,
            decimal,
          };
          if (separator === 'columns') mapping.begins.unshift(0);
          const text = [
            'head',
            ...cells.map((row) =>
              separator === 'columns'
                ? row[0]!.padEnd(6) +
                  row
                    .slice(1)
                    .map((cell) => cell.padEnd(16))
                    .join('')
                : row.join(separator),
            ),
          ].join('\n');
          const read = readMapped(text, mapping);
          expect(read.problems).toEqual([]);
          expect(read.values).toEqual(
            table.flatMap((row, i) =>
              held.map((kind, k) => ({ kind, row: i + 1, value: nanometres(row[k]! * step) })),
            ),
          );
        },
      ),
    );
  });
});

describe('columns that are fixed', () => {
  it('stand under headings that are wider than they are, words where they begin', () => {
    const text = 'OFFSETS\n No.  Geom. length   Rem\n  1   123.4560      mill\n  2   -98.7000      drill\n';
    expect(guessMapping(text, MILL, 'mm').columns).toEqual([
      { what: 'row' },
      register('lengthGeometry'),
      null,
    ]);
  });

  const sample = ' NO NOTE    LENGTH      HW\n  1 drill   98.700   0.000\n  2 tap     45.000   0.010\n';
  const mapping = guessMapping(sample, MILL, 'mm');
  it('hold longer numbers than the sample had', () => {
    expect(readMapped(`${sample}  3 reamer 120.345  -0.020\n`, mapping)).toEqual({
      problems: [],
      values: [
        [1, 98.7, 0],
        [2, 45, 0.01],
        [3, 120.345, -0.02],
      ].flatMap(([row, length, wear]) => [
        { kind: 'lengthGeometry', row, value: mm(length!) },
        { kind: 'lengthWear', row, value: mm(wear!) },
      ]),
    });
  });
  it.each([
    '  3 ream  1120.345   0.020',
    '  3 ream -1120.345   0.020',
    '  3 ream       .5-1234.020',
    '  3 ream    20.345-1234.020',
  ])('never give half a number for the whole: %s', (line) => {
    const narrow = { ...mapping, begins: [0, 3, 12, 19] };
    const { values, problems } = readMapped(`${sample}${line}\n`, narrow);
    expect(values.filter(({ row }) => row === 3)).toEqual([]);
    expect(problems.join()).toContain('Line 4: a number stands across two columns');
  });
});

describe('a table that is not as its mapping says', () => {
  const mapping: TableMapping = {
    separator: ',',
    begins: [],
    skip: 0,
    columns: [{ what: 'row' }, register('lengthGeometry'), register('cutterGeometry', 2)],
    unit: 'mm',
    decimal: 'point',
  };
  it.each([
    ['1,120.5,6\n2,98', /Line 2: it has 2 of 3 columns: perhaps it was cut off/],
    ['1,120.5,6\n1,98.0,5', /row 1 stands there twice/],
    ['1,1e5,6', /"1e5" is no number/],
    // a sum is something that people type, not a control
    ['1,120.5-98,6', /"120.5-98" is no number/],
    ['TOOL,120.5,6', /"TOOL" is no row/],
    ['', /no row in it/],
    [`1,${'9'.repeat(3000)},1`, /too long/],
  ])('is a sentence (%#)', (text, reason) => {
    expect(readMapped(text, mapping).problems.join(' ')).toMatch(reason);
  });
  it('a comma where points are used is not guessed away', () => {
    const semicolons: TableMapping = { ...mapping, separator: ';' };
    expect(readMapped('1;120,5;6', semicolons).problems.join()).toContain('has a comma, not a point');
    expect(readMapped('1;120.5;6', { ...semicolons, decimal: 'comma' }).problems.join()).toContain(
      'has a point, not a comma',
    );
  });
  it('radius for diameter and turned signs are taken as the mapping says', () => {
    const read = readMapped('7,120.5,6.25', {
      ...mapping,
      columns: [{ what: 'row' }, register('lengthGeometry', 1, true), register('cutterGeometry', 2)],
    });
    expect(read).toEqual({
      problems: [],
      values: [
        { kind: 'lengthGeometry', row: 7, value: mm(-120.5) },
        { kind: 'cutterGeometry', row: 7, value: mm(12.5) },
      ],
    });
  });
  it('needs one column for the row, one for a register, none twice', () => {
    expect(mappingRefusal({ columns: [register('lengthWear')] })).toMatch(/row/);
    expect(mappingRefusal({ columns: [{ what: 'row' }, null] })).toMatch(/No column/);
    expect(
      mappingRefusal({ columns: [{ what: 'row' }, register('lengthWear'), register('lengthWear')] }),
    ).toBe('Two columns hold length wear.');
    expect(mappingRefusal(mapping)).toBeNull();
  });
  it('quotes hold separators', () => {
    expect(cellsOf('"1","drill, ""long""",5', { separator: ',', begins: [] })).toEqual([
      '1',
      'drill, "long"',
      '5',
    ]);
  });
  it('reads long lines and many in one pass', () => {
    const text = `${'"'.repeat(1_000_000)}\n${'1,2,3\n'.repeat(30_000)}`;
    expect(readMapped(text, mapping).problems[0]).toMatch(/More than/);
  });
});

describe('the offset table of an agent', () => {
  it('is in millimetres, in the steps of the machine', () => {
    const inch = nanometres(2540) as Length;
    const read = agentTable([{ key: '4', cells: { LENGTH: '3.04800', LENGTH_WEAR: '-0.0102' } }], MILL, inch);
    expect(read).toEqual({
      problems: [],
      values: [
        { kind: 'lengthGeometry', row: 4, value: mm(3.048) },
        // −0.0004 in is −0.01016 mm: what the turn made of it is taken back
        { kind: 'lengthWear', row: 4, value: mm(-0.01016) },
      ],
    });
  });
  it.each([
    [[{ key: 'x', cells: { LENGTH: '1' } }], /no row/],
    [[{ key: '1', cells: { FLUTES: '4' } }], /"FLUTES"/],
    [[{ key: '1', cells: { LENGTH: 'long' } }], /no length/],
    [[{ key: '1', cells: { LENGTH: '1.5x' } }], /"1.5x" is no length/],
    [[{ key: '1', cells: { LENGTH: 'x1.5' } }], /"x1.5" is no length/],
    [[{ key: '1', cells: { LENGTH: '1234567.' } }], /no length/],
    [[{ key: '123456', cells: { LENGTH: '1' } }], /"123456" is no row/],
    [[{ key: '1a', cells: { LENGTH: '1' } }], /"1a" is no row/],
    [[{ key: '1', cells: { LENGTH: '', LENGTH_WEAR: '' } }], /no offset table/],
    [[], /no offset table/],
    [
      [
        { key: '1', cells: { LENGTH: '1' } },
        { key: '1', cells: { LENGTH: '2' } },
      ],
      /twice/,
    ],
  ])('that cannot be read is a sentence (%#)', (rows, reason) => {
    expect(agentTable(rows, MILL, nanometres(1000)).problems.join(' ')).toMatch(reason);
  });
  it('a tip’s direction is a number, no length', () => {
    const rows = [{ key: '1', cells: { tipDirection: '3', X: '-5' } }];
    expect(agentTable(rows, [...LATHE, 'tipDirection'], nanometres(1000)).values).toEqual([
      { kind: 'tipDirection', row: 1, value: 3 },
      { kind: 'xGeometry', row: 1, value: mm(-5) },
    ]);
    const mapping = guessMapping('No,X,Tip\n1,-5.0,3\n2,-4.0,0\n', [...LATHE, 'tipDirection'], 'mm');
    expect(readMapped('No,X,Tip\n1,-5.0,3\n', mapping).values).toContainEqual({
      kind: 'tipDirection',
      row: 1,
      value: 3,
    });
    expect(readMapped('No,X,Tip\n1,-5.0,33\n', mapping).problems.join()).toContain('no direction');
  });
  it('what is no step and near none stays as it is, for somebody to look at', () => {
    const inch = nanometres(2540);
    const of = (cell: string) => agentTable([{ key: '12', cells: { LENGTH: cell } }], MILL, inch).values[0]!;
    // a step is 0.00254: a tenth of it away is the turn's, a third is not
    expect(of('0.00280')).toEqual({ kind: 'lengthGeometry', row: 12, value: 2800 });
    expect(of('0.00260').value).toBe(2540);
    expect(of('0.00340').value).toBe(3400);
    expect(of('-120').value).toBe(-119_999_760);
  });
  it('what a control does not know is left out', () => {
    expect(
      agentTable([{ key: '1', cells: { LENGTH: '5', LENGTH_WEAR: 'UNAVAILABLE' } }], MILL, nanometres(1000))
        .values,
    ).toHaveLength(1);
  });
});
