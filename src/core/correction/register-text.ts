import { isDirection } from '../inspection/register-words.ts';
import { readDirection } from '../length/tip-direction.ts';
import type { Dialect } from '../program/dialect.ts';
import { plainDecimal } from '../units/format-length.ts';
import { parseLength, type Parsed } from '../units/parse-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';

/** A register that is to be set, and what it shows before; null: nobody knows. */
export interface RegisterWrite {
  registerKind: string;
  row: number;
  from: Length | null;
  to: Length;
}

const filled = (template: string, kind: string, row: number, value: Length, unit: LengthUnit) =>
  template
    .replaceAll('{row}', String(row))
    .replaceAll('{value}', isDirection(kind) ? String(value) : plainDecimal(value, unit));

/**
 * The line of NC text that sets a register to a value, from the machine's dialect profile; null when the
 * profile has none. The line alone says nothing of its unit, and where G91 was left in force it adds to what stands there: see
 * `absoluteWords`.
 */
export function registerText(
  dialect: Dialect,
  registerKind: string,
  row: number,
  value: Length,
  unit: LengthUnit,
): string | null {
  const template = dialect.setRegister[registerKind];
  return template ? filled(template, registerKind, row, value, unit) : null;
}

/**
 * What goes before lines that set registers: the unit, and that they are absolute, for a program before may have left G91 in force and G10
 * would add (common practice of this family, no source). Where G90 is a turning cycle, X, Z and R set and U, W and C add.
 */
export const absoluteWords = (dialect: Dialect, unit: LengthUnit): string[] => [
  dialect.unitCodes[unit],
  ...(dialect.turningCycles ? [] : ['G90']),
];

/** Whether the text of a register adds to what stands there, by the words of a lathe (common practice of this family, no source). */
export const addsUp = (dialect: Dialect, registerKind: string): boolean =>
  dialect.turningCycles && /\b[UW]\s*\{value\}/.test(dialect.setRegister[registerKind] ?? '');

/**
 * A short program that sets registers: first the unit and that values are absolute, then a guard for each row that does not show what is on record, then the
 * values. All guards come before the first value, so that a row that is not as recorded leaves every row alone. Lines without a
 * guard in the profile have none, nor those of which nobody knows what they show; null when one of the registers cannot be written in this dialect.
 */
export function registerProgram(
  dialect: Dialect,
  unit: LengthUnit,
  writes: readonly RegisterWrite[],
): string[] | null {
  const lines = writes.map((each) => registerText(dialect, each.registerKind, each.row, each.to, unit));
  if (lines.length === 0 || !lines.every((line) => line !== null)) return null;
  const guards = writes.flatMap((each) => {
    const template = dialect.guardRegister[each.registerKind];
    return template && each.from !== null
      ? [filled(template, each.registerKind, each.row, each.from, unit)]
      : [];
  });
  return [
    ...absoluteWords(dialect, unit),
    ...guards,
    ...lines,
    ...(guards.length > 0 ? dialect.guardEnd : []),
  ];
}

/** The order of a control's screen: its offset pages one after another, each from the first row down. */
const PAGES = [
  'lengthGeometry',
  'xGeometry',
  'zGeometry',
  'cutterGeometry',
  'lengthWear',
  'xWear',
  'zWear',
  'cutterWear',
];
export const screenOrder = (a: { registerKind: string; row: number }, b: typeof a): number =>
  PAGES.indexOf(a.registerKind) - PAGES.indexOf(b.registerKind) || a.row - b.row;

/** What no table of offsets goes beyond: lines, and signs of one. */
export const [MOST_LINES, LONGEST_LINE] = [20_000, 300] as const;

/** What a pasted table says a register shows; `kind` is null where only the row is named. */
export interface PastedRow {
  kind: string | null;
  row: number;
  value: Length;
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`);

/** What a template writes, read back: how the line of a row looks with any number in it. */
function reader(template: string): RegExp {
  const parts = escaped(template.toUpperCase())
    .replace(/\s+/g, String.raw`\s*`)
    .replaceAll(String.raw`\{ROW\}`, String.raw`0*(?<row>\d{1,4})`)
    .replaceAll(String.raw`\{VALUE\}`, String.raw`(?<value>[+-]?\d*\.?\d+\.?)`);
  return new RegExp(`^${parts}$`);
}

/** A value as a line in the machine's words has it. Without a point it is what the machine takes X100 for, as everywhere in a program. */
function inWords(kind: string, written: string, unit: LengthUnit, dialect: Dialect): Parsed<Length> {
  if (isDirection(kind)) return readDirection(written);
  const read = parseLength(written.replace(/\.$/, ''), unit);
  if (!read.ok || written.includes('.') || dialect.pointless === 'asWritten') return read;
  return { ok: true, value: nanometres(read.value / (unit === 'mm' ? 1000 : 10_000)) };
}

/**
 * A table that was copied or punched out of a control: lines in the machine's own words, or a row and what it shows. Blank lines,
 * program marks, remarks and headings without a number are passed over.
 *
 * @returns what was read, and what was not: the line and why.
 */
export function readPastedTable(
  text: string,
  dialect: Dialect,
  unit: LengthUnit,
): { rows: PastedRow[]; problems: string[] } {
  const templates = Object.entries(dialect.setRegister).map(([kind, template]) => ({
    kind,
    like: reader(template),
  }));
  const rows = new Map<string, PastedRow>();
  const problems: string[] = [];
  const doubtful = new Set<PastedRow>();
  let at = unit;
  const take = (line: number, kind: string | null, row: number, written: string) => {
    const value =
      kind === null ? parseLength(written.replace(/[.,]$/, ''), at) : inWords(kind, written, at, dialect);
    const key = `${kind} ${row}`;
    const before = rows.get(key);
    if (!value.ok) problems.push(`Line ${line}: ${value.reason}`);
    else if (before && before.value !== value.value) {
      problems.push(`Line ${line}: row ${row} stands in the table twice, with two values; neither is taken.`);
      doubtful.add(before);
    } else if (!before) rows.set(key, { kind, row, value: value.value });
  };
  const written = text.split(/\r\n|\r|\n/);
  if (written.length > MOST_LINES)
    return { rows: [], problems: [`More than ${MOST_LINES} lines: no table of offsets is that long.`] };
  for (const [index, raw] of written.entries()) {
    if (raw.length > LONGEST_LINE) {
      problems.push(`Line ${index + 1}: "${raw.trim().slice(0, 40)}" is too long for a row.`);
      continue;
    }
    const line = raw
      .replace(/\(.*?\)/g, '')
      .replace(/^N\d+\s*/i, '')
      .trim()
      .toUpperCase()
      .replace(/^G90\s*|\s*G90$/, '');
    if (line === '' || line === '%' || /^O\d+$/.test(line) || !/\d/.test(line)) continue;
    if (/^G91(?!\d)/.test(line)) {
      problems.push(
        `Line ${index + 1}: from G91 on it says by how much, not what the register holds. Punch the table out in absolute values.`,
      );
      break;
    }
    const mode = (['mm', 'in'] as const).find((each) => line === dialect.unitCodes[each]);
    if (mode) {
      at = mode;
      continue;
    }
    if (/^M(?:30|99|2|02)$/.test(line)) continue;
    const own = templates
      .map(({ kind, like }) => ({ kind, found: like.exec(line) }))
      .find(({ found }) => found !== null);
    const plain = /^(?:T|H|D)?0*(?<row>\d{1,4})(?:\s*[\t;:|]\s*|\s+)(?<value>[+\-−]?\d*[.,]?\d+[.,]?)$/.exec(
      line,
    );
    const found = own?.found ?? plain;
    if (found) take(index + 1, own?.kind ?? null, Number(found.groups!.row), found.groups!.value!);
    else problems.push(`Line ${index + 1}: "${raw.trim().slice(0, 40)}" is not a row and what it shows.`);
  }
  return { rows: [...rows.values()].filter((each) => !doubtful.has(each)), problems };
}
