import { isDirection, isWear, REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { calledRows } from './called-rows.ts';
import { APART } from './preset-length.ts';
import type { Finder, Finding } from './question.ts';

/**
 * A called row in which the control was seen to hold something else than the record (H17, H19). Everything else here reasons by the record;
 * the control is what cuts. A length far off stops the job, one a little off cannot be told, and wear is looked at.
 */
export const controlDiffers: Finder = ({ tool, calls }, { machine, differs }) => {
  if (!differs || differs.length === 0) return [];
  const { lineOf } = calledRows(calls);
  return differs.flatMap(({ row, kind, control, record }): Finding[] => {
    const line = lineOf({ row, kind });
    if (line === undefined) return [];
    const show = (value: typeof control) =>
      isDirection(kind) ? String(value) : formatWithUnit(value, machine.unit, { sign: 'always' });
    const far = isDirection(kind) || Math.abs(control - record) > APART;
    return [
      {
        weight: isWear(kind) ? 'look' : far ? 'stop' : 'unknown',
        code: 'controlDiffers',
        tool,
        line,
        sentence: `Row ${row}, which T${tool} uses on line ${line}, held ${show(control)} as ${REGISTER_WORDS[kind] ?? kind} when the control was last read off; the record says ${show(record)}.`,
        remedy:
          'Say which is right, by a look at the control; where the record is, key it and read the row off again.',
      },
    ];
  });
};
