import { isWear } from '../inspection/register-words.ts';
import type { RegisterRole } from '../inspection/feature.ts';
import { nanometres, type Length } from '../units/length.ts';

/** Registers that make up a row, geometry first. */
const KINDS: Readonly<Record<'mill' | 'lathe', readonly string[]>> = {
  mill: ['lengthGeometry', 'cutterGeometry', 'lengthWear', 'cutterWear'],
  lathe: ['xGeometry', 'zGeometry', 'xWear', 'zWear'],
};
/** Where a second row is looked for first: blocks that a shop remembers. */
const BLOCKS = [20, 30, 40, 50, 10];

/**
 * A row for a second use of a tool (H8): in one of the usual blocks if it is free, else the highest that is. `used` are rows that a
 * tool, a program or a plan has. Null: every row of the machine is used.
 */
export function freeRow(rows: readonly number[], used: readonly number[], row: number): number | null {
  const free = (each: number) => rows.includes(each) && !used.includes(each);
  return BLOCKS.map((block) => row + block).find(free) ?? rows.toSorted((a, b) => b - a).find(free) ?? null;
}

export interface RowRegister {
  id: number;
  row: number;
  kind: string;
  value: Length;
}

/** One register of the new row: what it holds, and what it is to hold. */
export interface PreparedRegister {
  registerId: number;
  row: number;
  registerKind: string;
  from: Length;
  to: Length;
  /** A wear that an earlier job left there. */
  stale: boolean;
}

/**
 * The new row, as the old one is, but for the register that the size answers to: that stands by `change` elsewhere, so that the size
 * comes to its target while the others keep the old row.
 */
export function prepareRow(
  registers: readonly RowRegister[],
  machine: 'mill' | 'lathe',
  { row, to, role, change }: { row: number; to: number; role: RegisterRole; change: Length },
): PreparedRegister[] {
  return KINDS[machine].flatMap((kind): PreparedRegister[] => {
    const source = registers.find((each) => each.row === row && each.kind === kind);
    const target = registers.find((each) => each.row === to && each.kind === kind);
    if (!source || !target) return [];
    const value = nanometres(source.value + (kind === role ? change : 0));
    return [
      {
        registerId: target.id,
        row: to,
        registerKind: kind,
        from: target.value,
        to: value,
        stale: isWear(kind) && target.value !== 0 && target.value !== value,
      },
    ];
  });
}

/** A line of the program that names the row, and how it reads with the other. */
export interface ChangedLine {
  line: number;
  was: string;
  becomes: string;
}

/**
 * The lines in which a program calls the tool with the row, each with the other row in it: the last digits of the T word on a lathe,
 * H for a length and D for a cutter on a mill. Remarks in brackets are left alone. Which of them cut the size nobody but the
 * programmer knows. Lines count from 1.
 */
export function changedLines(
  text: readonly string[],
  calls: readonly number[],
  { row, to, role, rowDigits }: { row: number; to: number; role: RegisterRole; rowDigits: number },
): ChangedLine[] {
  const lathe = role === 'xWear' || role === 'zWear';
  const word = lathe
    ? new RegExp(`(T\\d+?)(\\d{${rowDigits}})(?!\\d)`, 'i')
    : new RegExp(`(${role === 'cutterWear' ? 'D' : 'H'})(\\d+)(?![\\d.])`, 'i');
  return calls.flatMap((line): ChangedLine[] => {
    const was = text[line - 1] ?? '';
    const becomes = was
      .split(/(\([^)]*\))/)
      .map((part, i) =>
        i % 2 === 1
          ? part
          : part.replace(word, (all, head: string, digits: string) =>
              Number(digits) === row ? `${head}${String(to).padStart(digits.length, '0')}` : all,
            ),
      )
      .join('');
    return becomes === was ? [] : [{ line, was: was.trim(), becomes: becomes.trim() }];
  });
}
