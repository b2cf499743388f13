import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { COLUMNS } from './columns.ts';
import { decodeText } from './decode-text.ts';
import { cutTable } from './csv-table.ts';
import { plainReading, questionOf, rowsBy, unanswered, type Reading } from './headings.ts';
import { templateCells } from './template.ts';
import { readToolFile } from './tool-file.ts';

const cut = (text: string) => {
  const table = cutTable(text);
  if (!table.ok) throw new Error(JSON.stringify(table.issues));
  return table.table;
};
const OWN = 'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter';
const ROW = 'A-1,Drill,drill,steep 40,6.8,40,120.5,32';

describe('headings of other people (common practice, no source)', () => {
  const SHOP =
    'Tool No.;Description;Type;Taper;Dia (mm);Projection;Tool length;Holder Ø;Flutes;Remark\n' +
    'T-7;Drill 6,8;Drill;40-taper;6,8;40,5;120,25;32;2;for brass\n' +
    'T-8;"End mill ""long""";END MILL;40-taper;10;35;125,4;32;4;\n';
  it('are guessed by what they are called; what is not known is left out', () => {
    const question = questionOf(cut(SHOP));
    expect(question.kind).toBe('assemblies');
    expect(question.headings.map(({ guess }) => guess)).toEqual([
      'number',
      'name',
      'kind',
      'interface',
      'diameter',
      'stick_out',
      'gauge_length',
      'holder_diameter',
      'teeth',
      '',
    ]);
    expect(question.decimal).toBe('comma');
    expect(question.headings[4]).toMatchObject({ heading: 'Dia (mm)', samples: ['6,8', '10'] });
    expect(plainReading(question)).toBeNull();
    expect(readToolFile(SHOP)).toMatchObject({ asks: { kind: 'assemblies' } });
  });
  it('read as somebody said they give the tools, kinds in the words of the trade', () => {
    const question = questionOf(cut(SHOP));
    const reading: Reading = {
      kind: 'assemblies',
      columns: Object.fromEntries(
        question.headings.map(({ heading, guess }) => [heading.toLowerCase(), guess]),
      ),
      decimal: 'comma',
      unit: 'mm',
    };
    const file = readToolFile(SHOP, reading);
    if (file.asks || !file.result.ok) throw new Error(JSON.stringify(file));
    expect(file.result.rows).toMatchObject([
      {
        number: 'T-7',
        name: 'Drill 6,8',
        kind: 'drill',
        interface: 'steep 40',
        diameter: lengthOf(6.8, 'mm'),
      },
      {
        number: 'T-8',
        name: 'End mill "long"',
        kind: 'endMill',
        gaugeLength: lengthOf(125.4, 'mm'),
        teeth: 4,
      },
    ]);
    expect(file.columns).not.toContain('corner_radius');
  });
  it('a length is in inches when the file is, unless it says its own unit', () => {
    const text =
      'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter\nA-1,D,drill,steep 40,0.25,1.5,4.75,32 mm\n';
    const rows = rowsBy(cut(text), {
      ...plainReading(questionOf(cut(text)))!,
      unit: 'in',
    });
    expect(rows[0]!.cells).toMatchObject({ diameter: '0.25in', holder_diameter: '32 mm', number: 'A-1' });
  });
  it('the kind that knows more of the columns is meant, though one that it needs is not there', () => {
    const kind = (heading: string) => questionOf(cut(`${heading}\n`)).kind;
    expect(kind('number,name,kind,stock,minimum,cost')).toBe('components');
    expect(kind('number,name,kind,interface,diameter,stick_out,gauge_length')).toBe('assemblies');
    // of equals the one that lacks less of what it needs
    expect(kind('number,name,kind')).toBe('components');
  });
  it('what is needed and not given is named; the kind can be said', () => {
    const table = cut('Artikel;Preis;Menge\nX;12,50;3\n');
    const question = questionOf(table, 'components');
    expect(question.headings.map(({ guess }) => guess)).toEqual(['', 'cost', 'stock']);
    expect(unanswered('components', ['cost', 'stock']).map((column) => column.name)).toEqual([
      'number',
      'name',
      'kind',
    ]);
  });
  it('two headings do not become one column', () => {
    const question = questionOf(cut('number,name,kind,d,dia,ø\nA,b,drill,1,2,3\n'), 'components');
    const given = question.headings.map(({ guess }) => guess).filter(Boolean);
    expect(new Set(given).size).toBe(given.length);
  });
});

describe('tables as people save them', () => {
  it('our own headings and plain numbers ask nothing', () => {
    expect(readToolFile(`${OWN}\n${ROW}\n`)).toMatchObject({ kind: 'assemblies', result: { ok: true } });
    expect(
      readToolFile(`\uFEFFsep=;\r\n${OWN.replaceAll(',', ';')}\r\n${ROW.replaceAll(',', ';')}\r\n`),
    ).toMatchObject({ result: { ok: true }, firstLine: 3 });
    expect(readToolFile(`${OWN.replaceAll(',', '\t')}\n${ROW.replaceAll(',', '\t')}\n`)).toMatchObject({
      result: { ok: true },
    });
  });
  it('our own file saved with thousands and fractions alike is asked about, not guessed', () => {
    const german = `${OWN.replaceAll(',', ';')}\nA-1;Face mill;face mill;steep 40;80.000;40.000;120.500;63.000\n`;
    expect(readToolFile(german)).toMatchObject({ asks: { decimal: null } });
  });
  it('empty columns behind the last heading and rows of nothing or of a remark are left out', () => {
    const file = readToolFile(`${OWN},,\n${ROW},,\n,,,,,,,,,\n# remark\n${ROW.replace('A-1', 'A-2')}\n`);
    if (file.asks || !file.result.ok) throw new Error(JSON.stringify(file));
    expect(file.result.rows.map((row) => row.number)).toEqual(['A-1', 'A-2']);
  });
  it('a heading twice and a cell beyond the headings are told', () => {
    const said = (text: string) => JSON.stringify(readToolFile(text));
    expect(said(`${OWN},Diameter\n${ROW},7\n`)).toContain('stands twice');
    expect(said(`${OWN}\n${ROW},7\n`)).toContain('9 cells where the heading has 8');
  });
  it('a template is read as a file of no tools', () => {
    for (const kind of ['assemblies', 'components'] as const) {
      const cells = templateCells(kind);
      expect(Object.keys(cells)).toEqual(COLUMNS[kind].map((column) => column.name));
      const quoted = Object.values(cells).map((cell) => `"${cell}"`);
      expect(readToolFile(`${Object.keys(cells).join(',')}\n${quoted.join(',')}\n`)).toMatchObject({
        kind,
        result: { ok: true, rows: [] },
      });
      // and its example is a tool that would be taken
      expect(
        readToolFile(`${Object.keys(cells).join(',')}\n${quoted.join(',').replace('# ', '')}\n`),
      ).toMatchObject({ kind, result: { ok: true, rows: [{}] } });
    }
  });
  it('bytes are text by their mark, by being UTF-8, or else as a spreadsheet saves "ANSI"', () => {
    const text = 'number;Länge ø µ';
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...new Uint8Array(Uint16Array.from(text, (sign) => sign.charCodeAt(0)).buffer),
    ]);
    expect(decodeText(new TextEncoder().encode(text))).toEqual({ text, encoding: 'UTF-8' });
    expect(decodeText(utf16)).toEqual({ text, encoding: 'UTF-16' });
    expect(decodeText(Uint8Array.from(text, (sign) => sign.charCodeAt(0)))).toEqual({
      text,
      encoding: 'Windows-1252',
    });
  });
  it('UTF-16 without a mark, tape with parity and leaders of noughts are text as well', () => {
    const text = '%\nO1 (PLATE)\nG0 X12.5 Y-3.\nM30\n%\n';
    const units = Uint16Array.from(text, (sign) => sign.charCodeAt(0));
    const little = new Uint8Array(units.buffer);
    const big = Uint8Array.from(little, (_, i) => little[i % 2 === 0 ? i + 1 : i - 1]!);
    expect([decodeText(little), decodeText(big)]).toEqual([
      { text, encoding: 'UTF-16' },
      { text, encoding: 'UTF-16' },
    ]);
    // even parity: an eighth bit wherever the seven have an odd number
    const odd = (code: number) => code.toString(2).replaceAll('0', '').length % 2;
    const tape = [
      0,
      0,
      0,
      ...Array.from(text, (sign) => sign.charCodeAt(0)).map((code) => code | (odd(code) << 7)),
    ];
    expect(decodeText(Uint8Array.from(tape))).toEqual({ text, encoding: 'tape' });
    const leader = Uint8Array.from([0, 0, 0, 0, 0, ...new TextEncoder().encode(text)]);
    expect(decodeText(leader)).toEqual({ text, encoding: 'UTF-8' });
  });
});

it('an inch mark in a cell without quotes is an inch mark', () => {
  const file = readToolFile(`${OWN}\nA-1,Drill 1/4" long,drill,steep 40,1/4",1.5in,120.5,32\n`);
  if (file.asks || !file.result.ok) throw new Error(JSON.stringify(file));
  expect(file.result.rows[0]).toMatchObject({ name: 'Drill 1/4" long', diameter: lengthOf(0.25, 'in') });
});
