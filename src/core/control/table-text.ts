import { absoluteWords, readPastedTable, registerText, screenOrder } from '../correction/register-text.ts';
import type { Dialect } from '../program/dialect.ts';
import type { Length, LengthUnit } from '../units/length.ts';

/** Which machine, and its words for the text. */
export interface TableOf {
  name: string;
  unit: LengthUnit;
  dialect: Dialect;
}

export interface TableValue {
  kind: string;
  row: number;
  value: Length;
}

const REMARK = { machine: 'TABLE OF ', at: 'AT ', hash: 'HASH ' } as const;
/** Names in a program are in capitals, and without brackets. */
const plain = (text: string) => text.toUpperCase().replace(/[()]/g, ' ').trim();

/** A number of eight hexadecimal digits that a text comes to (FNV-1a, 32 bits): a line that was changed or lost makes it another. */
export function tableHash(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i += 1) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0).toString(16).toUpperCase().padStart(8, '0');
}

/**
 * A whole table as NC text in a machine's own words: absolute values behind a head that says whose it is, when it was so, and a hash of its lines.
 * Run on the machine it sets every register that is in it.
 *
 * @param at ISO 8601
 * @returns the text, and registers that this machine has no words for
 */
export function tableText(
  { name, unit, dialect }: TableOf,
  values: readonly TableValue[],
  at: string,
): { text: string; left: TableValue[] } {
  const left: TableValue[] = [];
  const lines = values
    .map((each) => ({ ...each, registerKind: each.kind }))
    .sort(screenOrder)
    .flatMap((each) => {
      const line = registerText(dialect, each.kind, each.row, each.value, unit);
      if (line === null) left.push({ kind: each.kind, row: each.row, value: each.value });
      return line === null ? [] : [line];
    });
  const body = [...absoluteWords(dialect, unit), ...lines];
  const head = [
    `(${REMARK.machine}${plain(name)})`,
    `(${REMARK.at}${plain(at)})`,
    `(${REMARK.hash}${tableHash(body.join('\n'))})`,
  ];
  return { text: ['%', ...head, ...body, '%', ''].join('\n'), left };
}

export interface TableRead {
  values: TableValue[];
  /** Lines that are none of a table, each with its line and why. Where there is one, nothing is taken. */
  problems: string[];
}

/** What the head of a table says: whose it is, when it was so, and the hash of its lines; null where it says nothing of that. */
export function tableHead(text: string): { owner: string | null; at: string | null; hash: string | null } {
  // the head stands at the top
  const head = text.slice(0, 2000);
  return {
    owner: /\(\s*TABLE OF\b([^()]*)\)/i.exec(head)?.[1]?.trim() || null,
    at: /\(\s*AT\s+([0-9][^()]*)\)/i.exec(head)?.[1]?.trim() ?? null,
    hash: /\(\s*HASH\s+([0-9A-F]{8})\s*\)/i.exec(head)?.[1] ?? null,
  };
}

/**
 * Reads a table of offsets as a control gives it out, or as somebody copied it: lines in the machine's words, or a row and what it shows.
 *
 * @param kind what lines hold that only name a row
 */
export function readTable(machine: TableOf, text: string, kind: string | null): TableRead {
  const found = readPastedTable(text, machine.dialect, machine.unit);
  const problems = [...found.problems];
  const { owner, hash } = tableHead(text);
  if (owner && plain(owner) !== plain(machine.name))
    problems.unshift(`This is the table of ${owner}, not of ${machine.name}.`);
  if (hash && tableHash(bodyOf(text)) !== hash.toUpperCase())
    problems.push('Its lines are not those that its hash was made of: it was changed, or cut off.');
  const nameless = found.rows.filter((each) => each.kind === null);
  if (nameless.length > 0 && kind === null)
    problems.push(`Row ${nameless[0]!.row}: say which register its number is of.`);
  if (found.rows.length === 0 && problems.length === 0) problems.push('There is no row in it.');
  return {
    values: found.rows.map((each) => ({ kind: each.kind ?? kind ?? '', row: each.row, value: each.value })),
    problems,
  };
}

const bodyOf = (text: string) =>
  text
    .split(/\r\n|\r|\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '' && line !== '%' && !line.startsWith('('))
    .join('\n');
