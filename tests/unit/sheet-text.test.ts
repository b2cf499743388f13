import { deflateRawSync } from 'node:zlib';
import { strToU8, Zip, zipSync, type ZipInputFile } from 'fflate';
import { describe, expect, it } from 'vitest';
import writeSheet from 'write-excel-file/node';
import { templateCells } from '../../src/core/formats/template.ts';
import { readToolFile } from '../../src/core/formats/tool-file.ts';
import { sheetText } from '../../src/server/work/sheet-text.ts';

/** Files packed one after the other as they would be, much faster where they are large. */
function packed(files: Readonly<Record<string, Uint8Array>>): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const parts: Uint8Array[] = [];
    const zip = new Zip((error, part, last) => {
      if (error) return reject(error);
      parts.push(part);
      if (last) resolve(new Uint8Array(Buffer.concat(parts)));
    });
    for (const [filename, bytes] of Object.entries(files)) {
      const file: ZipInputFile = { filename, crc: 0, size: bytes.length, compression: 8 };
      zip.add(file);
      file.ondata!(null, deflateRawSync(bytes), true);
    }
    zip.end();
  });
}

/** A workbook written by hand from ECMA-376 Part 1 (18.2 workbook, 18.3 worksheets, 18.4 shared strings): its parts, packed. */
const workbook = (sheets: Readonly<Record<string, string>>, more: Record<string, string> = {}) =>
  zipSync(
    Object.fromEntries(
      Object.entries({
        '[Content_Types].xml':
          '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
        'xl/workbook.xml': `<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets>${Object.keys(
          sheets,
        )
          .map((name, i) => `<sheet name="${name}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`)
          .join('')}</sheets></workbook>`,
        'xl/_rels/workbook.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${Object.keys(
          sheets,
        )
          .map(
            (_, i) =>
              `<Relationship Id="rId${i + 1}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`,
          )
          .join(
            '',
          )}<Relationship Id="rId99" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings" Target="sharedStrings.xml"/></Relationships>`,
        'xl/sharedStrings.xml':
          '<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><si><t>number</t></si><si><r><t>A-</t></r><r><t>77</t></r></si></sst>',
        ...Object.fromEntries(
          Object.values(sheets).map((rows, i) => [
            `xl/worksheets/sheet${i + 1}.xml`,
            `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
          ]),
        ),
        ...more,
      }).map(([name, text]) => [name, strToU8(text)]),
    ),
  );
const ROWS =
  '<row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="inlineStr"><is><t>diameter</t></is></c><c r="D1" t="str"><f>1</f><v>name</v></c></row>' +
  '<row r="3"><c r="A3" t="s"><v>1</v></c><c r="B3"><v>8.1000000000000014</v></c><c r="C3" t="b"><v>1</v></c><c r="D3" t="inlineStr"><is><t>say "8, long"</t></is></c></row>';

describe('a spreadsheet as a table', () => {
  it('shared, inline and worked-out cells, gaps, numbers as they are shown (ECMA-376)', async () => {
    expect(await sheetText(workbook({ Notes: '', Tools: ROWS, Old: ROWS }))).toEqual({
      ok: true,
      text: 'number,diameter,,name\n,,,\nA-77,8.1,yes,"say ""8, long"""\n',
      sheet: 'Tools',
      others: ['Old'],
    });
  });

  it.each(['assemblies', 'components'] as const)('a list of %s reads as its table does', async (kind) => {
    const cells = Object.entries(templateCells(kind)).map(
      ([name, value]) => [name, value.replace('# ', '')] as const,
    );
    const typed = (value: string) => (/^-?\d+(\.\d+)?$/.test(value) ? Number(value) : value);
    const rows = [cells.map(([name]) => name), cells.map(([, value]) => typed(value))];
    const bytes = await writeSheet(rows.map((row) => row.map((value) => ({ value }) as never))).toBuffer();
    const sheet = await sheetText(bytes);
    if (!sheet.ok) throw new Error(sheet.reason);
    const table = rows.map((row) => row.map((value) => `"${value}"`).join(',')).join('\n');
    expect(readToolFile(sheet.text)).toEqual(readToolFile(`${table}\n`));
    expect(readToolFile(sheet.text)).toMatchObject({ kind, result: { ok: true, rows: [{}] } });
  });

  it.each([
    ['an older kind', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1]), '.xls'],
    ['OpenDocument', zipSync({ 'content.xml': strToU8('<x/>') }), '.ods'],
    ['a packed something', zipSync({ 'a.nc': strToU8('G1') }), 'no spreadsheet'],
    ['one that was cut off', workbook({ Tools: ROWS }).slice(0, 700), 'cut off'],
    ['one without rows', workbook({ Tools: '' }), 'empty'],
    ['one whose sheet is gone', workbook({ Tools: ROWS }, { 'xl/workbook.xml': '<nothing' }), 'damaged'],
  ])('%s is named', async (_, bytes, word) => {
    const sheet = await sheetText(bytes);
    expect(sheet).toMatchObject({ ok: false });
    expect(JSON.stringify(sheet)).toContain(word);
  });

  it('one that unpacks to hundreds of megabytes is not unpacked', async () => {
    const bomb = await packed({
      'xl/workbook.xml': strToU8('<x/>'),
      'xl/worksheets/sheet1.xml': new Uint8Array(301 * 1024 * 1024),
    });
    expect(bomb.length).toBeLessThan(1_000_000);
    expect(JSON.stringify(await sheetText(bomb))).toContain('over 300 MB');
  });
});
