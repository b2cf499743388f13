import { parse } from 'csv-parse/sync';

/** What is wrong with one cell of a file, and where: lines count from 1, the heading is line 1. */
export interface FileIssue {
  line: number;
  column: string;
  message: string;
}

export type FileResult<T> = { ok: true; rows: T[] } | { ok: false; issues: FileIssue[] };

export interface CsvRow {
  line: number;
  cells: Readonly<Record<string, string>>;
}

const MOST_ROWS = 100_000;
const MOST_CELLS = 1000;
const MOST_WRONG = 50;
const MOST_LINE = 65_536;

export type Separator = ',' | ';' | '\t';

/** A table as it was cut, before anybody looked at its headings. */
export interface CutTable {
  separator: Separator;
  heading: string[];
  rows: { line: number; record: string[] }[];
}

/** Lines above a heading that may be a title, a date or a name. */
const MOST_TITLES = 10;

/** By the first lines: the sign that parts one of them into the most cells; titles above a heading have few. */
function separatorOf(text: string): Separator {
  const lines = text
    .slice(0, MOST_LINE)
    .split(/\r?\n/, MOST_TITLES + 1)
    .map((line) => line.replace(/"[^"]*"/g, ''));
  const signs: Separator[] = [',', ';', '\t'];
  const count = (sign: string) => Math.max(...lines.map((line) => line.split(sign).length));
  return signs.reduce((best, sign) => (count(sign) > count(best) ? sign : best));
}

const filled = (record: readonly string[]) => record.filter((cell) => cell !== '').length;
/** The heading: the first line, or the first with more than two cells below lines of one or two. */
function headingAt(records: readonly { record: string[] }[]): number {
  if (filled(records[0]!.record) > 2) return 0;
  const at = records.slice(0, MOST_TITLES + 1).findIndex(({ record }) => filled(record) > 2);
  return Math.max(0, at);
}

/**
 * Cuts a CSV text (RFC 4180, UTF-8; comma, semicolon or tab, as its first line or a line "sep=" tells) into its heading and rows.
 * Columns behind the last heading that hold nothing are left out, rows of nothing or that begin with # too. Broken quoting is named with its line.
 */
export function cutTable(text: string): { ok: true; table: CutTable } | { ok: false; issues: FileIssue[] } {
  if (text.includes('\uFFFD'))
    return bad(1, '', 'The file is not UTF-8 text: save it as UTF-8 and try again.');
  const told = /^\uFEFF?sep=([,;\t])\r?\n/i.exec(text);
  const body = told ? text.slice(told[0].length) : text;
  const before = told ? 1 : 0;
  const long = oversizedLine(body);
  if (long) return bad(long.line + before, '', long.message);
  const separator = (told?.[1] as Separator | undefined) ?? separatorOf(body);
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(body, {
      bom: true,
      trim: true,
      info: true,
      relax_column_count: true,
      // an inch mark in a cell without quotes is no quote
      relax_quotes: true,
      skip_empty_lines: true,
      delimiter: separator,
      max_record_size: MOST_LINE,
      to: MOST_ROWS + 2,
      on_record: countWrong() as never,
    }) as unknown as typeof records;
  } catch (error) {
    const line = ((error as { lines?: number }).lines ?? 1) + before;
    return bad(line, '', `The CSV cannot be read from here on: ${(error as Error).message}.`);
  }
  if (!records[0]) return bad(1, '', 'The file is empty.');
  records = records.slice(headingAt(records));
  if (records.length - 1 > MOST_ROWS)
    return bad(MOST_ROWS + 2, '', `Over ${MOST_ROWS} rows: split the file.`);
  const width = records[0]!.record.findLastIndex((cell) => cell !== '') + 1;
  const heading = records[0]!.record.slice(0, width);
  const issues: FileIssue[] = [];
  const rows = records.slice(1).flatMap(({ record, info }) => {
    const line = info.lines + before;
    // a remark, as our templates have one
    if (record.every((cell) => cell === '') || record[0]!.startsWith('#')) return [];
    if (record.length < width || record.slice(width).some((cell) => cell !== ''))
      issues.push({ line, column: '', message: `${record.length} cells where the heading has ${width}.` });
    return [{ line, record: record.slice(0, width) }];
  });
  const twice = heading.find(
    (cell, i) => cell !== '' && heading.findIndex((each) => each.toLowerCase() === cell.toLowerCase()) < i,
  );
  if (twice !== undefined)
    issues.push({
      line: records[0]!.info.lines + before,
      column: twice,
      message: 'This heading stands twice.',
    });
  return issues.length > 0 ? { ok: false, issues } : { ok: true, table: { separator, heading, rows } };
}

/** Cuts a CSV text into rows by our own headings; missing and unknown ones are named. */
export function csvTable(
  text: string,
  needed: readonly string[],
  allowed: readonly string[],
): FileResult<CsvRow> {
  const cut = cutTable(text);
  if (!cut.ok) return cut;
  const heading = cut.table.heading.map((cell) => cell.toLowerCase());
  const missing = needed.filter((name) => !heading.includes(name));
  if (missing.length > 0)
    return bad(
      1,
      missing[0]!,
      `The heading is missing ${missing.join(', ')}. Expected: ${[...needed, ...allowed].join(', ')}.`,
    );
  const unknown = heading.filter((name) => !needed.includes(name) && !allowed.includes(name));
  if (unknown.length > 0)
    return bad(
      1,
      unknown[0]!,
      `"${unknown[0]}" is not a heading this program knows. Expected: ${[...needed, ...allowed].join(', ')}.`,
    );
  return {
    ok: true,
    rows: cut.table.rows.map(({ line, record }) => ({
      line,
      cells: Object.fromEntries(heading.map((name, i) => [name, record[i] ?? ''])),
    })),
  };
}

/** Ends a reading that is nothing but lines of a wrong length; a few of them are named together. */
function countWrong() {
  let cells: number | null = null;
  let wrong = 0;
  return (each: { record: string[]; info: { lines: number } }) => {
    // titles above the heading have as few cells as they like
    if (cells === null && filled(each.record) > 2) cells = each.record.length;
    if (cells === null) return each;
    if (each.record.length !== cells && (wrong += 1) > MOST_WRONG)
      throw Object.assign(
        new Error(`over ${MOST_WRONG} lines have a different number of cells from the heading`),
        {
          lines: each.info.lines,
        },
      );
    return each;
  };
}

/** A line that no table of tools has, found before anything is made of it: a file of nothing but commas stays cheap. */
function oversizedLine(text: string): { line: number; message: string } | null {
  let [line, from, cells, blank] = [1, 0, 0, 0];
  for (let i = 0; i <= text.length; i += 1) {
    const sign = text.charCodeAt(i);
    if (sign === 44 || sign === 59 || sign === 9) cells += 1;
    else if (sign === 10 || i === text.length) {
      blank = i - from > 1 ? 0 : blank + 1;
      if (blank > MOST_CELLS) return { line, message: `Over ${MOST_CELLS} empty lines one after another.` };
      line += 1;
      [from, cells] = [i + 1, 0];
    }
    if (cells > MOST_CELLS)
      return { line, message: `Over ${MOST_CELLS} cells in one line: not a table this program reads.` };
    if (i - from > MOST_LINE)
      return { line, message: `A line of over ${MOST_LINE} characters: not a table this program reads.` };
  }
  return null;
}

const bad = (line: number, column: string, message: string): { ok: false; issues: FileIssue[] } => ({
  ok: false,
  issues: [{ line, column, message }],
});
