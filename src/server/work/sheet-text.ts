import { stringify } from 'csv-stringify/sync';
import { unzipSync } from 'fflate';
import readSheets from 'read-excel-file/universal';
import { packedKind } from '../../core/formats/file-kind.ts';

/** A sheet unpacked, bytes: what is larger is no table of tools, whatever its file says. */
const MOST_UNPACKED = 300 * 1024 * 1024;
/** Digits that a sheet's own numbers have: what is behind them is the rest of a sum in binary. */
const DIGITS = 15;

export type SheetText =
  | { ok: true; text: string; sheet: string; others: string[] }
  | { ok: false; reason: string };
const no = (reason: string): SheetText => ({ ok: false, reason });

/**
 * The first sheet with something in it of a spreadsheet file (.xlsx, ECMA-376), as a table in text: numbers with a point and as many digits as
 * a sheet has, days as ISO 8601, yes and no. Other sheets are named, not read.
 */
export async function sheetText(bytes: Uint8Array): Promise<SheetText> {
  if (packedKind(bytes) === 'oldSheet')
    return no('This is a spreadsheet of the old kind (.xls): save it as .xlsx or CSV, and bring that in.');
  const names: string[] = [];
  let unpacked = 0;
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        names.push(name);
        unpacked += originalSize;
        return false;
      },
    });
  } catch {
    return no('The file is packed and cannot be opened: it is damaged or was cut off.');
  }
  if (names.includes('content.xml'))
    return no('This is a spreadsheet as OpenDocument (.ods): save it as .xlsx or CSV, and bring that in.');
  if (!names.some((name) => name.toLowerCase() === 'xl/workbook.xml'))
    return no('This is a packed file, and no spreadsheet: unpack it, and bring in what is in it.');
  if (unpacked > MOST_UNPACKED) return no('The spreadsheet is over 300 MB unpacked: split it.');
  const sheets = await readSheets(new Uint8Array(bytes).buffer, { trim: false }).catch(() => null);
  if (!sheets) return no('The spreadsheet cannot be read: it is damaged or protected by a password.');
  const filled = sheets.filter(({ data }) => data.some((row) => row.some((cell) => cell !== null)));
  const first = filled[0];
  if (!first) return no('The spreadsheet is empty.');
  return {
    ok: true,
    text: stringify(
      first.data.map((row) => row.map((cell) => cellText(cell))),
      { record_delimiter: '\n' },
    ),
    sheet: first.sheet,
    others: filled.slice(1).map(({ sheet }) => sheet),
  };
}

/** A cell as whoever typed it sees it: 8.1000000000000014 is the rest of a sum in binary. */
function cellText(cell: unknown): string {
  if (cell === null) return '';
  if (typeof cell === 'number') return String(Number(cell.toPrecision(DIGITS)));
  if (typeof cell === 'boolean') return cell ? 'yes' : 'no';
  if (cell instanceof Date) return cell.toISOString().replace(/T00:00:00\.000Z$/, '');
  return String(cell);
}
