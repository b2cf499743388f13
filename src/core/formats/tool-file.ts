import { assemblyReader, type AssemblyRow } from './assembly-file.ts';
import { componentReader, type ComponentRow } from './component-file.ts';
import type { FileKind } from './columns.ts';
import { cutTable, type FileResult } from './csv-table.ts';
import { readCuttingToolAssets, type OpenAsset } from './cutting-tool-asset.ts';
import { plainReading, questionOf, rowsBy, type Question, type Reading } from './headings.ts';
import { readCells } from './row-reader.ts';
import { readToolJson } from './tool-json.ts';

interface Found {
  /** Line of its first row. */
  firstLine: number;
  /** The columns that a table has; what it has no column for is not said. Of other formats nothing is left open. */
  columns?: readonly string[];
  /** Tools that somebody has to complete, and what is said beside a row, by its place. */
  open?: readonly OpenAsset[];
  lines?: readonly number[];
  remarks?: ReadonlyMap<number, string>;
  asks?: undefined;
}

export type ToolFile =
  | ({ kind: 'assemblies'; result: FileResult<AssemblyRow> } & Found)
  | ({ kind: 'components'; result: FileResult<ComponentRow> } & Found)
  /** A table under headings that are not ours, or whose numbers can be read two ways: somebody has to say. */
  | { kind: Question['kind']; asks: Question };

/**
 * Reads a file of tools by what it is: XML assets, JSON, or CSV by its heading. A table is read as `reading` says; without one it
 * is read when nothing of it is in doubt, and else the answer says what is asked.
 */
export function readToolFile(text: string, reading: Reading | null = null): ToolFile {
  if (/^\s*(?:\uFEFF\s*)?</.test(text))
    return { kind: 'assemblies', ...readCuttingToolAssets(text), firstLine: 1 };
  if (/^\s*\{/.test(text)) {
    const json = readToolJson(text);
    if (json) return { ...json, firstLine: 1 };
    return wrong('The JSON has neither "assemblies" nor "components".');
  }
  const cut = cutTable(text);
  if (!cut.ok) return { kind: 'assemblies', result: cut, firstLine: 1 };
  const asks = questionOf(cut.table);
  const how = reading ?? plainReading(asks);
  if (!how) return { kind: asks.kind, asks };
  const rows = rowsBy(cut.table, how);
  const found = { firstLine: rows[0]?.line ?? 2, columns: Object.values(how.columns).filter(Boolean) };
  return how.kind === 'assemblies'
    ? { kind: how.kind, result: readCells(rows, assemblyReader()), ...found }
    : { kind: how.kind, result: readCells(rows, componentReader()), ...found };
}

/** What is asked of a table when somebody says that it is of another kind than it looks; null when it cannot be cut. */
export function askAgain(text: string, kind: FileKind): Question | null {
  const cut = cutTable(text);
  return cut.ok ? questionOf(cut.table, kind) : null;
}

const wrong = (message: string): ToolFile => ({
  kind: 'assemblies',
  firstLine: 1,
  result: { ok: false, issues: [{ line: 1, column: '', message }] },
});
