import { withPoint, type DecimalSign } from '../formats/decimal-sign.ts';
import { parseLength } from '../units/parse-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { isDirection } from '../inspection/register-words.ts';
import { readDirection } from '../length/tip-direction.ts';
import { registerWords } from './words.ts';
import type { TableRead, TableValue } from './table-text.ts';

/** What one column of a control's table holds; null: nothing that is kept here. */
export type ColumnMeaning =
  | { what: 'row' }
  | {
      what: 'register';
      kind: string;
      /** The control shows a radius for our diameter, or the other way round. */
      times: 1 | 2 | 0.5;
      /** Its sign is the other way round. */
      turned: boolean;
    }
  | null;

/** How a table of a machine is laid out: told once on a sample, and kept by a name. */
export interface TableMapping {
  /** What parts the columns; of fixed columns where each begins. */
  separator: ',' | ';' | '\t' | '|' | 'columns';
  begins: number[];
  /** Lines above the first row. */
  skip: number;
  columns: ColumnMeaning[];
  unit: LengthUnit;
  decimal: DecimalSign;
}

const MOST_LINES = 20_000;
const LONGEST_LINE = 2000;
const MOST_COLUMNS = 60;
const MOST_PROBLEMS = 50;

const linesOf = (text: string) =>
  text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/, MOST_LINES + 1)
    .map((line) => line.slice(0, LONGEST_LINE + 1));

/** One line cut into its cells. */
export function cellsOf(
  line: string,
  { separator, begins }: Pick<TableMapping, 'separator' | 'begins'>,
): string[] {
  if (separator === 'columns') return begins.map((from, i) => line.slice(from, begins[i + 1]).trim());
  const cells: string[] = [];
  let cell = '';
  let quoted = false;
  for (let i = 0; i < line.length; i += 1) {
    const sign = line[i]!;
    if (quoted && sign === '"' && line[i + 1] === '"') {
      cell += '"';
      i += 1;
    } else if (sign === '"') quoted = !quoted;
    else if (sign === separator && !quoted) {
      cells.push(cell.trim());
      cell = '';
    } else cell += sign;
  }
  return [...cells, cell.trim()];
}

/** Names under which controls and their exports call a column (common practice, no source). */
const NAMES: readonly (readonly [RegExp, ColumnMeaning])[] = (
  [
    ['row', '^(no\\.?|nr\\.?|#|row|offset|offs?\\.?( ?no\\.?)?|number|h|d|tool offset|index)$'],
    ['lengthWear', '(len|^h|^l|^z).*wear|wear.*(len|\\bh\\b)|^hw$|^lw$'],
    ['cutterWear', '(dia|rad|^d|^r).*wear|wear.*(dia|rad|\\b[dr]\\b)|^dw$|^rw$'],
    ['xWear', '^x.*wear|wear.*x$|^xw$'],
    ['zWear', '^z.*wear|wear.*z$|^zw$'],
    ['lengthGeometry', '^(len(gth)?|h|geom.*(len|\\bh\\b).*|(len|h\\b).*geom.*|tool length)$'],
    ['cutterGeometry', '^(dia(meter)?|rad(ius)?|d|geom.*(dia|rad|\\bd\\b).*|(dia|rad|d\\b).*geom.*)$'],
    ['xGeometry', '^(x|x.*geom.*|geom.*x)$'],
    ['zGeometry', '^(z|z.*geom.*|geom.*z)$'],
    ['noseRadius', '^(r|nose.*|tip r.*|.*nose r.*)$'],
    ['tipDirection', '^(t|tip|tip dir.*|direction|quadrant)$'],
  ] as const
).map(([kind, name]) => [
  new RegExp(name, 'i'),
  kind === 'row' ? { what: 'row' } : { what: 'register', kind, times: 1, turned: false },
]);

/** What a column is called, without what says nothing of what it holds. */
const plainName = (name: string): string =>
  name
    .replace(/_/g, ' ')
    .replace(/\((mm|in|inch)\)/i, '')
    .trim()
    .replace(/\.$/, '');

/**
 * What a column that is called so holds, among what this machine keeps; its own names are known as they are.
 *
 * @param counted another column counts the rows: H and D are then what stands in them
 */
export function meaningOf(name: string, kinds: readonly string[], counted = false): ColumnMeaning {
  const plain = plainName(name);
  if (kinds.includes(name)) return { what: 'register', kind: name, times: 1, turned: false };
  const found = NAMES.find(
    ([pattern, meaning]) =>
      pattern.test(plain) && (meaning?.what === 'register' ? kinds.includes(meaning.kind) : !counted),
  );
  return found?.[1] ?? null;
}

/** What the columns under a heading hold; of several that may count the rows the one does that is called nothing else. */
function meaningsOf(heading: readonly string[], kinds: readonly string[]): ColumnMeaning[] {
  const found = heading.map((name) => meaningOf(name, kinds));
  const counting = found.flatMap((each, i) => (each?.what === 'row' ? [i] : []));
  const own = counting.find((i) => meaningOf(heading[i]!, kinds, true) === null) ?? counting[0];
  return found.map((each, i) =>
    counting.includes(i) && i !== own ? meaningOf(heading[i]!, kinds, true) : each,
  );
}

const isNumber = (cell: string) => /^[+-]?\d{0,9}[.,]?\d{0,9}$/.test(cell) && /\d/.test(cell);

interface Run {
  from: number;
  to: number;
}

/** What stands below each other in lines: places that are not free in all of them, side by side. */
function runsIn(lines: readonly string[]): Run[] {
  const longest = Math.max(0, ...lines.map((line) => line.length));
  const runs: Run[] = [];
  for (let at = 0; at < longest; at += 1) {
    if (lines.every((line) => (line[at] ?? ' ') === ' ')) continue;
    const last = runs.at(-1);
    if (last?.to === at) last.to = at + 1;
    else runs.push({ from: at, to: at + 1 });
  }
  return runs.slice(0, MOST_COLUMNS);
}

/**
 * Where columns begin. Numbers end below each other and grow to the left: a column of them begins right behind one of numbers, and half way
 * behind one of words, which grow to the right. A column of words begins where its words do.
 */
function beginsIn(runs: readonly Run[], lines: readonly string[]): number[] {
  const numbers = ({ from, to }: Run) => lines.every((line) => isNumber(line.slice(from, to).trim()));
  return runs.map((run, i) => {
    const before = runs[i - 1];
    if (!before) return 0;
    if (!numbers(run)) return run.from;
    return numbers(before) ? before.to : (before.to + run.from) >> 1;
  });
}

/**
 * Names over fixed columns: words one blank apart are one name where they stand above no more than one column, otherwise each word is. Each
 * belongs to what it stands above, or nearest to; behind the last there is nothing.
 */
function namesOver(heading: string, runs: readonly Run[]): string[] {
  const names = runs.map(() => '');
  const above = (from: number, to: number) =>
    runs.map((run) => Math.min(to, run.to) - Math.max(from, run.from));
  const give = (name: string, from: number) => {
    if (from >= (runs.at(-1)?.to ?? 0)) return;
    const over = above(from, from + name.length);
    // numbers end below the end of their name, so that it stands out to the left of them
    const i = over.lastIndexOf(Math.max(...over));
    names[i] = `${names[i]} ${name}`.trim();
  };
  for (const { 0: name, index } of heading.matchAll(/\S+(?: \S+)*/g)) {
    if (above(index, index + name.length).filter((shared) => shared > 0).length < 2) give(name, index);
    else for (const { 0: word, index: from } of name.matchAll(/\S+/g)) give(word, index + from);
  }
  return names;
}

/** Whether a number stands across the place at which a column begins: each half of it would be read as another. */
const splits = (line: string, at: number): boolean =>
  /[\d.,+−-]/.test(line[at - 1] ?? ' ') && /[\d.,]/.test(line[at] ?? ' ');

/**
 * What a table's layout may be, from a sample of it: what parts its columns, which lines are head, what the columns hold by their
 * names. A proposal: whoever knows the control says what is so.
 *
 * @param kinds registers that the machine keeps
 */
export function guessMapping(text: string, kinds: readonly string[], unit: LengthUnit): TableMapping {
  const lines = linesOf(text).filter((line) => line.trim() !== '');
  const sample = lines.slice(0, 60);
  const signs = [';', '\t', '|', ','] as const;
  // the sign that stands equally often in most lines
  const share = (sign: string) => {
    const counts = sample
      // two numbers with blanks between are two columns: the comma is in them
      .filter((line) => sign !== ',' || !line.split(sign).some((cell) => /\d\s+[+−-]?\d/.test(cell)))
      .map((line) => line.split(sign).length - 1)
      .filter((n) => n > 0);
    const usual = counts.sort((a, b) => a - b)[counts.length >> 1] ?? 0;
    return usual === 0 ? 0 : counts.filter((n) => n === usual).length / sample.length;
  };
  const best = signs.reduce((a, b) => (share(b) > share(a) ? b : a));
  const separated = share(best) >= 0.5;
  const numbers = sample.filter((line) => /^\s*"?[+−-]?\d/.test(line));
  const standing = numbers.length > 0 ? numbers : sample;
  const runs = separated ? [] : runsIn(standing);
  const layout = {
    separator: separated ? best : ('columns' as const),
    begins: beginsIn(runs, standing),
  };
  const cut = sample.map((line) => cellsOf(line, layout));
  const first = cut.findIndex((cells) => isNumber(cells[0] ?? '') && cells.filter(isNumber).length > 1);
  const skip = Math.max(0, first);
  const width = Math.max(0, ...cut.slice(skip).map((cells) => cells.length));
  const heading = skip === 0 ? [] : separated ? cut[skip - 1]! : namesOver(sample[skip - 1]!, runs);
  const columns = meaningsOf(
    Array.from({ length: Math.min(width, MOST_COLUMNS) }, (_, i) => heading[i] ?? ''),
    kinds,
  );
  // without a name the first column counts the rows
  if (!columns.some((each) => each?.what === 'row') && columns.length > 0) columns[0] = { what: 'row' };
  const cells = cut.slice(skip).flatMap((line) => line.slice(1));
  const commas = cells.filter((cell) => /^[+-]?\d*,\d+$/.test(cell)).length;
  const points = cells.filter((cell) => /^[+-]?\d*\.\d+$/.test(cell)).length;
  return {
    ...layout,
    // counted over all lines, blank ones too
    skip: first < 0 ? 0 : linesOf(text).indexOf(sample[skip]!),
    columns: columns.map((each, i) =>
      each?.what === 'register' && columns.findIndex((other) => same(other, each)) < i ? null : each,
    ),
    unit: /\binch|\(in\)|\bG20\b/i.test(lines.slice(0, skip).join(' ')) ? 'in' : unit,
    decimal: commas > points ? 'comma' : 'point',
  };
}

const same = (a: ColumnMeaning, b: ColumnMeaning) =>
  a?.what === 'register' && b?.what === 'register' ? a.kind === b.kind : a?.what === b?.what && a !== null;

/** Why a mapping reads nothing; null: it can be used. */
export function mappingRefusal({ columns }: Pick<TableMapping, 'columns'>): string | null {
  if (columns.filter((each) => each?.what === 'row').length !== 1) return 'One column must hold the row.';
  const kinds = columns.flatMap((each) => (each?.what === 'register' ? [each.kind] : []));
  if (kinds.length === 0) return 'No column holds a register.';
  const twice = kinds.find((kind, i) => kinds.indexOf(kind) !== i);
  return twice
    ? `Two columns hold ${registerWords({ kind: twice, row: 0 }).replace(/ of row 0$/, '')}.`
    : null;
}

/** Reads a table by its mapping: all of it, or with what is wrong with it nothing that may be used. */
export function readMapped(text: string, mapping: TableMapping): TableRead {
  const refusal = mappingRefusal(mapping);
  if (refusal !== null) return { values: [], problems: [refusal] };
  const lines = linesOf(text);
  if (lines.length > MOST_LINES)
    return { values: [], problems: [`More than ${MOST_LINES} lines: no table of offsets is that long.`] };
  const rowAt = mapping.columns.findIndex((each) => each?.what === 'row');
  const values: TableValue[] = [];
  const problems: string[] = [];
  const seen = new Set<number>();
  for (const [index, line] of lines.entries()) {
    if (index < mapping.skip || line.trim() === '') continue;
    const at = `Line ${index + 1}: `;
    if (problems.length >= MOST_PROBLEMS) break;
    if (line.length > LONGEST_LINE) {
      problems.push(`${at}it is too long for a row.`);
      continue;
    }
    if (mapping.separator === 'columns' && mapping.begins.some((begin) => begin > 0 && splits(line, begin))) {
      problems.push(`${at}a number stands across two columns of this layout.`);
      continue;
    }
    const cells = cellsOf(line, mapping);
    const name = cells[rowAt] ?? '';
    const row = /^[A-Za-z#.]{0,4} ?0*(\d{1,5})$/.exec(name)?.[1];
    if (row === undefined) {
      problems.push(`${at}"${name.slice(0, 30)}" is no row.`);
      continue;
    }
    if (seen.has(Number(row))) problems.push(`${at}row ${row} stands there twice.`);
    seen.add(Number(row));
    if (cells.length < mapping.columns.length && mapping.separator !== 'columns')
      problems.push(
        `${at}it has ${cells.length} of ${mapping.columns.length} columns: perhaps it was cut off.`,
      );
    for (const [i, meaning] of mapping.columns.entries()) {
      const cell = cells[i] ?? '';
      if (meaning?.what !== 'register' || cell === '') continue;
      const value = isDirection(meaning.kind) ? plainOf(cell) : valueOf(cell, meaning, mapping);
      if (typeof value === 'string') problems.push(`${at}${value}`);
      else values.push({ kind: meaning.kind, row: Number(row), value });
    }
  }
  if (values.length === 0 && problems.length === 0) problems.push('There is no row in it.');
  return { values, problems };
}

const plainOf = (cell: string): Length | string => {
  const read = readDirection(cell);
  return read.ok ? read.value : read.reason;
};

function valueOf(
  cell: string,
  { times, turned }: { times: 1 | 2 | 0.5; turned: boolean },
  { unit, decimal }: Pick<TableMapping, 'unit' | 'decimal'>,
): Length | string {
  if (!/^[+−-]?\s?\d{0,9}([.,]\d{0,12})?$/.test(cell) || !/\d/.test(cell))
    return `"${cell.slice(0, 30)}" is no number.`;
  if (decimal === 'point' && /^[+-]?\d+,\d+$/.test(cell)) return `"${cell}" has a comma, not a point.`;
  if (decimal === 'comma' && /^[+-]?\d+\.\d+$/.test(cell)) return `"${cell}" has a point, not a comma.`;
  const read = parseLength(withPoint(cell, decimal), unit);
  if (!read.ok) return read.reason;
  const value = read.value * times * (turned ? -1 : 1);
  return Number.isInteger(value) ? nanometres(value) : `"${cell}" cannot be halved exactly.`;
}

/**
 * The offset table of an agent (MTConnect's `ToolOffsetTable`, from memory: lengths in millimetres whatever the control shows), in
 * steps of the machine's registers where the turn into millimetres alone made it another number.
 */
export function agentTable(
  rows: readonly { key: string; cells: Readonly<Record<string, string>> }[],
  kinds: readonly string[],
  increment: Length,
): TableRead {
  const values: TableValue[] = [];
  const problems: string[] = [];
  const seen = new Set<string>();
  for (const { key, cells } of rows) {
    if (!/^\d{1,5}$/.test(key)) problems.push(`"${key.slice(0, 30)}" is no row.`);
    else if (seen.has(key)) problems.push(`Row ${key} stands there twice.`);
    seen.add(key);
    for (const [name, cell] of Object.entries(cells)) {
      if (cell === '' || cell === 'UNAVAILABLE') continue;
      const meaning = meaningOf(name, kinds);
      if (meaning?.what !== 'register') {
        problems.push(`The agent names a column "${name.slice(0, 30)}", and nobody knows what it holds.`);
        continue;
      }
      if (isDirection(meaning.kind)) {
        const plain = plainOf(cell);
        if (typeof plain === 'string') problems.push(`Row ${key}: ${plain}`);
        else values.push({ kind: meaning.kind, row: Number(key), value: plain });
        continue;
      }
      const read = /^[+-]?\d{1,6}(\.\d{1,12})?$/.test(cell) ? Math.round(Number(cell) * 1e6) : null;
      if (read === null) problems.push(`Row ${key}: "${cell.slice(0, 30)}" is no length.`);
      else values.push({ kind: meaning.kind, row: Number(key), value: inSteps(read, increment) });
    }
  }
  if (values.length === 0 && problems.length === 0) problems.push('The agent gives no offset table.');
  return { values, problems: [...new Set(problems)] };
}

/** To the next step where it lies within a tenth of one; otherwise as it is, for somebody to look at. */
function inSteps(value: number, increment: Length): Length {
  const stepped = Math.round(value / increment) * increment;
  return nanometres(Math.abs(value - stepped) <= increment / 10 ? stepped : value);
}
