import type { CsvRow, FileResult } from './csv-table.ts';
import { assemblyReader, type AssemblyRow } from './assembly-file.ts';
import { COLUMNS, type FileKind } from './columns.ts';
import { componentReader, type ComponentRow } from './component-file.ts';
import { readCells } from './row-reader.ts';
import { EDITION } from './tool-schema.ts';

const MOST = 100_000;
/** A file of tools is three deep: the whole, its list, a tool. */
const DEEPEST = 20;
const LONGEST = 65_536;

/** Tools as JSON: `{ "assemblies": [ … ] }` or `{ "components": [ … ] }`, each an object with the headings of the CSV. */
export type ToolJson =
  | { kind: 'assemblies'; result: FileResult<AssemblyRow> }
  | { kind: 'components'; result: FileResult<ComponentRow> };

/** Null when the text is JSON of something else; a fault of the JSON itself is told with its place. */
export function readToolJson(text: string): ToolJson | null {
  const reason = hostile(text);
  if (reason) return { kind: 'assemblies', result: bad(reason) };
  let tree: unknown;
  try {
    tree = JSON.parse(text);
  } catch (error) {
    return { kind: 'assemblies', result: bad(`This is not JSON: ${(error as Error).message}.`) };
  }
  if (typeof tree !== 'object' || tree === null) return null;
  const { version } = tree as { version?: unknown };
  if (typeof version === 'number' && version > EDITION)
    return {
      kind: 'assemblies',
      result: bad(`It is of edition ${version}; this program reads edition ${EDITION} and those before.`),
    };
  for (const kind of ['assemblies', 'components'] as const) {
    const list = (tree as Record<string, unknown>)[kind];
    if (list === undefined) continue;
    const rows = cellsOf(list, kind);
    if (typeof rows === 'string') return { kind, result: bad(rows) };
    return kind === 'assemblies'
      ? { kind, result: readCells(rows, assemblyReader()) }
      : { kind, result: readCells(rows, componentReader()) };
  }
  return null;
}

/** Why a text is not worth reading as JSON: brackets too deep in one another, or a text too long; told before anything is built. */
function hostile(json: string): string | null {
  let depth = 0;
  for (let at = 0; at < json.length; at += 1) {
    const sign = json[at];
    if (sign === '"') {
      const from = at;
      do at = json.indexOf('"', at + 1);
      while (at > 0 && escaped(json, at));
      if (at < 0 || at - from > LONGEST) return `A text of over ${LONGEST} characters: not a file of tools.`;
    } else if (sign === '[' || sign === '{') depth += 1;
    else if (sign === ']' || sign === '}') depth -= 1;
    if (depth > DEEPEST) return `Lists stand over ${DEEPEST} deep inside one another: not a file of tools.`;
  }
  return null;
}

/** Whether the quotation mark at this place belongs to the text: an odd number of strokes before it. */
function escaped(json: string, at: number): boolean {
  let strokes = 0;
  while (json[at - 1 - strokes] === '\\') strokes += 1;
  return strokes % 2 === 1;
}

const NAMES: Readonly<Record<FileKind, ReadonlySet<string>>> = {
  assemblies: new Set(COLUMNS.assemblies.map(({ name }) => name)),
  components: new Set(COLUMNS.components.map(({ name }) => name)),
};

function cellsOf(list: unknown, name: FileKind): CsvRow[] | string {
  if (!Array.isArray(list)) return `"${name}" must be a list.`;
  if (list.length > MOST) return `Over ${MOST} ${name}: split the file.`;
  const rows: CsvRow[] = [];
  for (const [index, each] of list.entries()) {
    if (typeof each !== 'object' || each === null || Array.isArray(each))
      return `${name}[${index}] is not an object.`;
    const cells: Record<string, string> = {};
    for (const [key, value] of Object.entries(each)) {
      if (!NAMES[name].has(key.toLowerCase()))
        return `${name}[${index}].${key} is no name that is known: ${[...NAMES[name]].join(', ')}.`;
      if (value !== null && !['string', 'number', 'boolean'].includes(typeof value))
        return `${name}[${index}].${key} must be text or a number.`;
      cells[key.toLowerCase()] =
        value === null ? '' : value === true ? 'yes' : value === false ? 'no' : String(value).trim();
    }
    rows.push({ line: index + 1, cells });
  }
  return rows;
}

const bad = (message: string): FileResult<never> => ({
  ok: false,
  issues: [{ line: 1, column: '', message }],
});

/** Written so that reading it again gives the same, to the last digit. */
export const writeToolJson = (kind: ToolJson['kind'], cells: readonly Record<string, string>[]): string =>
  `${JSON.stringify({ version: EDITION, [kind]: cells.map((each) => Object.fromEntries(Object.entries(each).filter(([, value]) => value !== ''))) }, null, 1)}\n`;
