import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { calledRows } from './called-rows.ts';
import type { Finder } from './question.ts';

/** Wear that was in a row before its tool came, or before its edge was changed: a stray value that nobody remembers (H1.7, H19). */
export const wearLeft: Finder = ({ tool, calls, loaded }, { rows, machine }) => {
  if (loaded?.since === undefined) return [];
  const { since } = loaded;
  return [...calledRows(calls).all].flatMap(([row, line]) =>
    (rows.find((state) => state.row === row)?.wear ?? [])
      .filter(({ entry }) => entry < since)
      .map(({ kind, value }) => ({
        weight: 'look' as const,
        code: 'wearLeft' as const,
        tool,
        line,
        sentence: `Row ${row} still holds ${formatWithUnit(value, machine.unit, { sign: 'always' })} of ${(REGISTER_WORDS[kind] ?? kind).toLowerCase()} from before T${tool} came or its edge was changed.`,
        remedy: 'Set it to zero, unless somebody knows why it is there.',
      })),
  );
};
