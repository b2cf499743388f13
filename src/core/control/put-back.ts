import type { Length } from '../units/length.ts';
import { screenOrder } from '../correction/register-text.ts';
import type { TableValue } from './table-text.ts';

/** A register that is to be set for a kept table to be in the control. */
export interface PutBackRow {
  id: number;
  kind: string;
  row: number;
  /** What the control held when it was last looked at, where nothing was recorded since; null: not known. */
  control: Length | null;
  record: Length;
  to: Length;
}

export interface PutBack {
  /** What is to be set at the control or in the record, in the order of the screen; what nobody read off the control is among it. */
  rows: PutBackRow[];
  /** Registers that the control was seen to hold as they are to be, and the record has so. */
  same: number;
  /** What the kept table sets and this machine has not. */
  strange: TableValue[];
  /** Registers in use that the kept table says nothing of: they stay as they are. */
  left: { kind: string; row: number }[];
}

/** The same as its page shows it: numbers as the control writes them, and the text that it was worked out from. */
export interface PutBackShown {
  text: string;
  at: string;
  entry: number;
  same: number;
  /** Since when the control was seen to hold those; null: there are none. */
  seen: Date | null;
  left: string[];
  /** Lines that set what the control is not known to hold; null where the machine has no words for one of them. */
  lines: readonly string[] | null;
  rows: { id: number; words: string; control: string | null; record: string; to: string }[];
}

/**
 * What becomes of a machine's registers when a table that was kept is put back into its control: each one before and after. Whether the record
 * has it already says nothing of the control, which may have lost its table: what it was not seen to hold is set.
 *
 * @param held what the control is known to hold, by register; empty when it has lost its table
 */
export function putBack(
  kept: readonly TableValue[],
  registers: readonly { id: number; kind: string; row: number; value: Length }[],
  held: ReadonlyMap<number, Length>,
): PutBack {
  const known = new Map(registers.map((each) => [`${each.kind} ${each.row}`, each]));
  const named = new Set(kept.map(({ kind, row }) => `${kind} ${row}`));
  const rows: PutBackRow[] = [];
  let same = 0;
  for (const { kind, row, value } of kept) {
    const register = known.get(`${kind} ${row}`);
    if (!register) continue;
    const control = held.get(register.id) ?? null;
    if (register.value === value && control === value) same += 1;
    else rows.push({ id: register.id, kind, row, control, record: register.value, to: value });
  }
  return {
    rows: rows.toSorted((a, b) =>
      screenOrder({ registerKind: a.kind, row: a.row }, { registerKind: b.kind, row: b.row }),
    ),
    same,
    strange: kept.filter(({ kind, row }) => !known.has(`${kind} ${row}`)),
    left: registers
      .filter(({ kind, row, value }) => value !== 0 && !named.has(`${kind} ${row}`))
      .map(({ kind, row }) => ({ kind, row })),
  };
}

/**
 * What a register shows before it is set, for the guard of its line; null: nothing may be held against it. Of one that was not seen and is on
 * record as it is to be, a guard could only stand in the way: it would stop where there is something to mend.
 *
 * @param lost the control has lost its table
 */
export const shownBefore = ({ control, record, to }: PutBackRow, lost: boolean): Length | null =>
  lost ? null : (control ?? (record === to ? null : record));

/** Registers of a kept table that a control, read afterwards, does not hold; with what it holds, null where it was not read. */
export function notPutBack(
  kept: readonly TableValue[],
  read: readonly TableValue[],
): { kind: string; row: number; to: Length; holds: Length | null }[] {
  const held = new Map(read.map(({ kind, row, value }) => [`${kind} ${row}`, value]));
  return kept.flatMap(({ kind, row, value }) => {
    const holds = held.get(`${kind} ${row}`) ?? null;
    return holds === value ? [] : [{ kind, row, to: value, holds }];
  });
}
