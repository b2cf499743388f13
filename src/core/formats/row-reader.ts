import type { Limits } from '../inspection/feature.ts';
import { readLimits } from '../inspection/fit.ts';
import { parseSize } from '../units/parse-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import type { Choice } from './columns.ts';
import { csvTable, type CsvRow, type FileIssue, type FileResult } from './csv-table.ts';

/** A number as people write it: no sixteens, no powers of ten. */
const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)$/;

/** Characters as people and the database count them: a sign beyond the basic plane is one. */
const signs = (text: string) => [...text].length;

/** Reads one row's cells, gathering what is wrong instead of stopping at the first fault. */
export class RowReader {
  readonly issues: FileIssue[];
  private readonly row: CsvRow;

  constructor(row: CsvRow, issues: FileIssue[]) {
    this.row = row;
    this.issues = issues;
  }

  get line(): number {
    return this.row.line;
  }

  /** Notes what is wrong with a cell. */
  say(column: string, message: string): void {
    this.issues.push({ line: this.row.line, column, message });
  }

  text(column: string, most = 120): string {
    const value = this.row.cells[column] ?? '';
    if (value === '') this.say(column, 'This cell is empty.');
    else if (signs(value) > most) this.say(column, `Longer than ${most} characters.`);
    this.refuseFormula(column, value);
    return value;
  }

  optional(column: string): string | null {
    return (this.row.cells[column] ?? '') || null;
  }

  /** A text that may be left out. */
  words(column: string, most = 120): string {
    const value = this.row.cells[column] ?? '';
    if (signs(value) > most) this.say(column, `Longer than ${most} characters.`);
    this.refuseFormula(column, value);
    return value;
  }

  /** What a spreadsheet would run when the file is opened there again is not taken as a text. */
  private refuseFormula(column: string, value: string): void {
    if (/^[=@]|^[+-](?![\d.])/.test(value))
      this.say(column, `"${value.slice(0, 20)}" begins like a spreadsheet formula: write it as plain text.`);
  }

  /** One of a few, by its name or in the words of the trade. */
  choice<T extends string>(column: string, choices: readonly T[], words?: readonly Choice[]): T {
    const value = this.text(column).toLowerCase();
    const said = words?.find((choice) => choice.words.toLowerCase() === value)?.value ?? value;
    const found = choices.find((choice) => choice.toLowerCase() === said.toLowerCase());
    if (value !== '' && !found)
      this.say(
        column,
        `"${value}" is not one of ${words ? words.map((choice) => choice.words).join('; ') : choices.join(', ')}.`,
      );
    return found ?? choices[0]!;
  }

  length(column: string, unit: LengthUnit): Length {
    const parsed = parseSize(this.row.cells[column] ?? '', unit);
    if (parsed.ok) return parsed.value;
    this.say(column, parsed.reason);
    return nanometres(0);
  }

  /** A length of something that is there: none is below zero. */
  size(column: string, unit: LengthUnit): Length {
    const found = this.length(column, unit);
    if (found < 0) this.say(column, `"${this.row.cells[column]}" is below zero: no size is.`);
    return found;
  }

  optionalLength(column: string, unit: LengthUnit, fallback: Length): Length {
    return this.optional(column) === null ? fallback : this.size(column, unit);
  }

  /** Nominal with its deviations, a tolerance for both sides, or a fit. */
  limits(unit: LengthUnit): Limits {
    const { nominal = '', upper = '', lower = '' } = this.row.cells;
    const read = readLimits({ nominal, upper, lower }, unit);
    if (read.ok) return read.limits;
    this.say(read.column, read.reason);
    return { nominal: nanometres(0), upper: nanometres(1), lower: nanometres(0) };
  }

  decimal(column: string, least: number, most: number): number {
    const value = this.row.cells[column] ?? '';
    const number = Number(value);
    if (PLAIN.test(value) && number >= least && number <= most) return number;
    this.say(column, `"${value}" is not a number from ${least} to ${most}.`);
    return least;
  }

  /** "yes", "y", "1", "x" or "true"; nothing and "no" mean no. */
  yes(column: string): boolean {
    const value = (this.row.cells[column] ?? '').toLowerCase();
    if (['yes', 'y', '1', 'x', 'true'].includes(value)) return true;
    if (!['', 'no', 'n', '0', 'false'].includes(value)) this.say(column, `"${value}" is neither yes nor no.`);
    return false;
  }

  whole(column: string, least: number, most: number, fallback?: number): number {
    const value = this.row.cells[column] ?? '';
    if (value === '' && fallback !== undefined) return fallback;
    const number = Number(value);
    if (PLAIN.test(value) && Number.isInteger(number) && number >= least && number <= most) return number;
    this.say(column, `"${value}" is not a whole number from ${least} to ${most}.`);
    return least;
  }
}

/** Reads a whole CSV, row by row; one fault anywhere and nothing of it is taken. */
export function readRows<T>(
  text: string,
  needed: readonly string[],
  allowed: readonly string[],
  read: (row: RowReader) => T,
): FileResult<T> {
  const table = csvTable(text, needed, allowed);
  return table.ok ? readCells(table.rows, read) : table;
}

/** Reads rows that are cut into cells already, from whatever format. */
export function readCells<T>(rows: readonly CsvRow[], read: (row: RowReader) => T): FileResult<T> {
  const issues: FileIssue[] = [];
  const found = rows.map((row) => read(new RowReader(row, issues)));
  return issues.length > 0 ? { ok: false, issues } : { ok: true, rows: found };
}
