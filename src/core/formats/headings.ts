import type { LengthUnit } from '../units/length.ts';
import { COLUMNS, type Column, type FileKind } from './columns.ts';
import type { CsvRow, CutTable } from './csv-table.ts';
import { decimalSignOf, withPoint, type DecimalSign } from './decimal-sign.ts';

/** How a table of tools is to be read: what its columns are, what its numbers look like, and what they are in. */
export interface Reading {
  kind: FileKind;
  /** Name of our column for each heading, in lower case; empty: left out. */
  columns: Readonly<Record<string, string>>;
  decimal: DecimalSign;
  unit: LengthUnit;
}

/** What has to be told of a table before it can be read, with what is guessed from its headings and cells. */
export interface Question {
  kind: FileKind;
  headings: { heading: string; samples: string[]; guess: string }[];
  decimal: DecimalSign | null;
  unit: LengthUnit;
  /** The headings by which an answer is remembered. */
  signature: string;
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[[(].*?[\])]/g, '')
    .replace(/,? *\b(mm|in|inch)\b\.?$/, '')
    .replace(/[\s_.:#-]+/g, ' ')
    .trim();

/** How well a heading fits a column: by its name, by its words, by what else it is called; 0 not at all. */
function fit(heading: string, column: Column): number {
  const asked = plain(heading);
  if (heading.toLowerCase() === column.name) return 4;
  if (asked === plain(column.name)) return 3;
  if (asked === plain(column.words)) return 2;
  return column.also?.some((other) => plain(other) === asked) ? 1 : 0;
}

/** Our column for each heading; each column goes to the heading that fits it best, once. */
function guesses(heading: readonly string[], kind: FileKind): string[] {
  const found = heading.map(() => '');
  const pairs = heading
    .flatMap((text, i) => COLUMNS[kind].map((column) => ({ i, column, good: fit(text, column) })))
    .filter((pair) => pair.good > 0)
    .sort((a, b) => b.good - a.good);
  for (const { i, column } of pairs)
    if (found[i] === '' && !found.includes(column.name)) found[i] = column.name;
  return found;
}

/** Which kind of tools a heading speaks of: the one that knows more of its columns; of equals, the one that lacks less of what it needs. */
export function kindOfHeading(heading: readonly string[]): FileKind {
  const good = (kind: FileKind) => {
    const found = guesses(heading, kind);
    const needed = COLUMNS[kind].filter((column) => column.needed);
    const has = needed.filter((column) => found.includes(column.name)).length;
    return found.filter(Boolean).length + has / needed.length;
  };
  return good('assemblies') >= good('components') ? 'assemblies' : 'components';
}

const NUMERIC: readonly Column['type'][] = ['length', 'number', 'whole'];
const isNumeric = (kind: FileKind, name: string) =>
  NUMERIC.includes(COLUMNS[kind].find((column) => column.name === name)?.type ?? 'text');

/** What is asked about a table; `kind` when somebody has said what it is. */
export function questionOf(table: CutTable, kind: FileKind = kindOfHeading(table.heading)): Question {
  const found = guesses(table.heading, kind);
  const numeric = found.map((name) => isNumeric(kind, name));
  const cells = table.rows.flatMap(({ record }) => record.filter((_, i) => numeric[i]));
  return {
    kind,
    headings: table.heading.map((heading, i) => ({
      heading,
      samples: table.rows.flatMap(({ record }) => record[i] || []).slice(0, 3),
      guess: found[i]!,
    })),
    decimal: decimalSignOf(cells, table.separator),
    unit: 'mm',
    signature: table.heading.map((heading) => heading.toLowerCase()).join('\u001f'),
  };
}

/** Columns that are needed and that no heading was given to. */
export const unanswered = (kind: FileKind, given: readonly string[]): Column[] =>
  COLUMNS[kind].filter((column) => column.needed && !given.includes(column.name));

/** The reading of a table that nobody has to be asked about: our own headings, and numbers that can be read one way only. */
export function plainReading(question: Question): Reading | null {
  const own = question.headings.every(({ heading, guess }) => heading.toLowerCase() === guess);
  const given = question.headings.map(({ guess }) => guess);
  if (!own || question.decimal === null || unanswered(question.kind, given).length > 0) return null;
  return {
    kind: question.kind,
    columns: Object.fromEntries(given.map((name) => [name, name])),
    decimal: question.decimal,
    unit: question.unit,
  };
}

/** The rows of a table under our own headings, with decimal points; lengths in inches say so. */
export function rowsBy(table: CutTable, { kind, columns, decimal, unit }: Reading): CsvRow[] {
  const names = table.heading.map((heading) => columns[heading.toLowerCase()] ?? '');
  const length = names.map((name) => COLUMNS[kind].find((column) => column.name === name)?.type === 'length');
  return table.rows.map(({ line, record }) => ({
    line,
    cells: Object.fromEntries(
      names.flatMap((name, i) => {
        if (name === '') return [];
        const cell = isNumeric(kind, name) ? withPoint(record[i] ?? '', decimal) : (record[i] ?? '');
        return [[name, length[i] && unit === 'in' && /[\d]$/.test(cell) ? `${cell}in` : cell]];
      }),
    ),
  }));
}
