import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import { COLUMNS, type FileKind } from './columns.ts';
import { cutTable } from './csv-table.ts';
import { readToolFile } from './tool-file.ts';
import { readToolJson, writeToolJson } from './tool-json.ts';
import { publishedSchema, toolFileSchema } from './tool-schema.ts';

describe('the schema of the JSON', () => {
  it.each(['assemblies', 'components'] as const)('the demo’s %s fulfil it as they are written', (kind) => {
    const cells = parse(readFileSync(`demo/${kind}.csv`, 'utf8'), { columns: true, bom: true }) as Record<
      string,
      string
    >[];
    const lower = cells.map((each) =>
      Object.fromEntries(Object.entries(each).map(([name, value]) => [name.toLowerCase(), value])),
    );
    const text = writeToolJson(kind, lower);
    const parsed = toolFileSchema(kind).safeParse(JSON.parse(text));
    expect(parsed.error?.issues).toBeUndefined();
    expect(readToolJson(text)!.result.ok).toBe(true);
  });
  it('names every column, those that must be there, and what each may be', () => {
    for (const kind of ['assemblies', 'components'] as FileKind[]) {
      const { properties, required } = publishedSchema(kind) as {
        properties: Record<string, { items: { properties: object; required: string[] } }>;
        required: string[];
      };
      expect(required).toEqual([kind]);
      const { items } = properties[kind]!;
      expect(Object.keys(items.properties)).toEqual(COLUMNS[kind].map(({ name }) => name));
      expect(items.required).toEqual(COLUMNS[kind].flatMap(({ name, needed }) => (needed ? [name] : [])));
    }
  });
  it('a name that is not known is refused by both, and so is a newer edition', () => {
    const tool = {
      number: 'A-1',
      name: 'x',
      kind: 'drill',
      interface: 'steep 40',
      diameter: 6,
      stick_out: 40,
      gauge_length: 120,
      holder_diameter: 40,
    };
    const issue = (tree: unknown) => {
      const read = readToolJson(JSON.stringify(tree))!.result;
      return read.ok ? null : read.issues[0]!.message;
    };
    expect(issue({ assemblies: [tool] })).toBeNull();
    expect(issue({ assemblies: [{ ...tool, diametre: 5 }] })).toMatch(/assemblies\[0\]\.diametre is no name/);
    expect(toolFileSchema('assemblies').safeParse({ assemblies: [{ ...tool, diametre: 5 }] }).success).toBe(
      false,
    );
    expect(issue({ version: 9, assemblies: [tool] })).toMatch(/edition 9/);
  });
});

describe('lines above the heading', () => {
  const HEADING = 'number;name;kind;interface;diameter;stick_out;gauge_length;holder_diameter';
  const ROW = 'A-1;Drill;drill;steep 40;6,8;48;118,4;40';
  it.each([
    ['a title', 'Tool list, cell 3, spring'],
    ['a title and a date', 'Tool list\n27.11.2026;;;'],
    ['a title and an empty line', 'Tool list\n\n'],
  ])('%s are passed over, and lines keep their numbers', (_, title) => {
    const file = readToolFile(`${title}\n${HEADING}\n${ROW}\n`);
    if (file.asks) throw new Error('asked');
    expect(file.result).toMatchObject({ ok: true, rows: [{ number: 'A-1', diameter: 6_800_000 }] });
    expect(file.firstLine).toBe(title.split('\n').length + 2);
  });
  it('whatever stands above, the rows are those of the table alone', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[A-Za-z ]{0,20}$/), { maxLength: 6 }), (titles) => {
        const cut = cutTable(`${titles.map((title) => `${title}\n`).join('')}${HEADING}\n${ROW}\n`);
        expect(cut.ok && [cut.table.separator, cut.table.heading.length, cut.table.rows.length]).toEqual([
          ';',
          8,
          1,
        ]);
      }),
    );
  });
});
