import { decodeText } from '../core/formats/decode-text.ts';
import { packedKind } from '../core/formats/file-kind.ts';
import type { Outcome } from './outcome.ts';
import { work } from './worker.ts';

/** What a file says, and what it is called on screen: of a spreadsheet, with the sheet that was read. */
export interface FileText {
  text: string;
  fileName: string;
}

/** The text of a file that somebody brings in: text in whatever encoding, or the first sheet of a spreadsheet. */
export async function fileText(file: File): Promise<Outcome<FileText>> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const fileName = file.name.slice(0, 120);
  if (!packedKind(bytes)) return { ok: true, value: { text: decodeText(bytes).text, fileName } };
  const sheet = await work('sheetText', [bytes]);
  if (!sheet.ok) return sheet;
  const left = sheet.others.length > 0 ? `; not read: ${sheet.others.join(', ')}` : '';
  return {
    ok: true,
    value: {
      text: sheet.text,
      fileName: `${fileName.slice(0, 60)}, sheet "${sheet.sheet}"${left}`.slice(0, 120),
    },
  };
}
