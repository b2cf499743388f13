import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatWithUnit } from '../units/format-length.ts';
import type { Length } from '../units/length.ts';
import { calledRows } from './called-rows.ts';
import type { Finder, Finding } from './question.ts';

/** A correction of a row: that waits for approval or to be keyed, or was keyed and is doubted by the parts since. */
export interface RowCorrection {
  row: number;
  kind: string;
  change: Length;
  what: 'proposed' | 'approved' | 'doubted';
}

/** Rows that the program calls and that hold another number than is known to be right, or perhaps do (H13, H14): its first part would be off by it. */
export const correctionsLeft: Finder = ({ tool, calls }, { machine, corrections }) => {
  if (!corrections || corrections.length === 0) return [];
  const { lineOf } = calledRows(calls);
  return corrections.flatMap(({ row, kind, change, what }): Finding[] => {
    const line = lineOf({ row, kind });
    if (line === undefined) return [];
    const of = `${REGISTER_WORDS[kind] ?? kind} of row ${row}, which T${tool} uses on line ${line},`;
    const by = formatWithUnit(change, machine.unit, { sign: 'always' });
    const said = {
      proposed: {
        sentence: `A correction of ${by} to ${of} waits for approval.`,
        remedy: 'Approve and key it, or refuse it, before the first part.',
      },
      approved: {
        sentence: `A correction of ${by} to ${of} waits to be keyed.`,
        remedy: 'Key it and read it back before the first part.',
      },
      doubted: {
        sentence: `The last correction of ${of} did not do on the parts what was asked of it: the row may hold something else.`,
        remedy: 'Read the row off the control.',
      },
    }[what];
    return [{ weight: 'look', code: 'correctionLeft', tool, line, ...said }];
  });
};
