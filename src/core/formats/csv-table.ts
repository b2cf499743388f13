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

/**
 * Cuts a CSV text (RFC 4180, UTF-8, comma or semicolon) into rows by its headings. Missing headings, a wrong
 * number of cells and broken quoting are named with their line.
 */
export function csvTable(
  text: string,
  needed: readonly string[],
  allowed: readonly string[],
): FileResult<CsvRow> {
  if (text.includes('\uFFFD'))
    return bad(1, '', 'The file is not UTF-8 text: save it as UTF-8 and try again.');
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(text, {
      bom: true,
      trim: true,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      delimiter: /^[^,\n]*;/.test(text) ? ';' : ',',
      max_record_size: 65_536,
      to: MOST_ROWS + 2,
    }) as unknown as typeof records;
  } catch (error) {
    const line = (error as { lines?: number }).lines ?? 1;
    return bad(line, '', `The CSV breaks off here: ${(error as Error).message}.`);
  }
  const heading = records[0]?.record.map((cell) => cell.toLowerCase());
  if (!heading) return bad(1, '', 'The file is empty.');
  const missing = needed.filter((name) => !heading.includes(name));
  if (missing.length > 0)
    return bad(
      1,
      missing[0]!,
      `The heading lacks ${missing.join(', ')}. Expected: ${[...needed, ...allowed].join(', ')}.`,
    );
  const unknown = heading.filter((name) => !needed.includes(name) && !allowed.includes(name));
  if (unknown.length > 0)
    return bad(
      1,
      unknown[0]!,
      `"${unknown[0]}" is not a known heading. Expected: ${[...needed, ...allowed].join(', ')}.`,
    );
  if (records.length - 1 > MOST_ROWS)
    return bad(MOST_ROWS + 2, '', `Over ${MOST_ROWS} rows: split the file.`);
  const issues: FileIssue[] = [];
  const rows = records.slice(1).map(({ record, info }) => {
    if (record.length !== heading.length)
      issues.push({
        line: info.lines,
        column: '',
        message: `${record.length} cells where the heading has ${heading.length}.`,
      });
    return { line: info.lines, cells: Object.fromEntries(heading.map((name, i) => [name, record[i] ?? ''])) };
  });
  return issues.length > 0 ? { ok: false, issues } : { ok: true, rows };
}

const bad = (line: number, column: string, message: string): FileResult<never> => ({
  ok: false,
  issues: [{ line, column, message }],
});
