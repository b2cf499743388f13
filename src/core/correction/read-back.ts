import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { slipBetween } from './slips.ts';

export type ReadBackFault =
  | 'notKeyed'
  | 'sign'
  | 'changeKeyedAsValue'
  | 'keyedTwice'
  | 'neighbourRow'
  | 'decimalPoint'
  | 'units'
  | 'digitsSwapped'
  | 'unknown';

export type ReadBack =
  | { matches: true }
  | { matches: false; fault: ReadBackFault; reason: string; remedy: string };

/** What came of a number that was read off the control. */
export type ReadBackAnswer =
  | { kept: true }
  | { kept: false; reading: ReadBack & { matches: false } }
  | { kept: false; overtaken: string };

/** The same of one row among several: it may also not have been taken, for the reason given. */
export type RowAnswer = { proposalId: number } & (ReadBackAnswer | { kept: false; refused: string });

/** What came of one register that was read off the control, by its number. */
export interface RowRead {
  registerId: number;
  kept: boolean;
  said: string;
}

/** What a row's answer says; empty where the row shows what it should. */
export function rowAnswerWords(answer: RowAnswer): string {
  if (answer.kept) return '';
  if ('refused' in answer) return answer.refused;
  if ('overtaken' in answer) return answer.overtaken;
  return `Stop. ${answer.reading.reason} ${answer.reading.remedy}`;
}

export interface Keyed {
  row: number;
  from: Length;
  to: Length;
  unit: LengthUnit;
  decimals: number;
  /** The same register in the rows next to this one, as the record has them. */
  neighbours: readonly { row: number; value: Length }[];
}

/**
 * Compares what the control now shows with what was to be keyed, and names the slip that explains a
 * difference (H1.6, H18): good setters assume they keyed it wrong and read every number back.
 */
export function explainReadBack(shown: Length, keyed: Keyed): ReadBack {
  const { from, to, unit, decimals, row } = keyed;
  if (shown === to) return { matches: true };
  const show = (value: Length) => formatLength(value, unit, { decimals, sign: 'always' });
  const change = nanometres(to - from);
  const again = `Key ${show(to)} into row ${row} and read it back again.`;
  const fault = (name: ReadBackFault, reason: string, remedy = again): ReadBack => ({
    matches: false,
    fault: name,
    reason,
    remedy,
  });
  const neighbour = keyed.neighbours.find((other) => other.value === shown && other.value !== from);
  if (neighbour)
    return fault(
      'neighbourRow',
      `${show(shown)} is what row ${neighbour.row} holds: the neighbouring row was read, or the number went into it.`,
      `Check row ${neighbour.row} first: it must still show ${show(neighbour.value)}. Then find row ${row}.`,
    );
  if (shown === from)
    return fault(
      'notKeyed',
      `The control still shows the old value ${show(from)}: nothing was keyed into row ${row}, or it went into the row above or below.`,
      `Look at rows ${row - 1} and ${row + 1} for a stray ${show(to)}, put them right, then key ${show(to)} into row ${row}.`,
    );
  if (shown === -to) return fault('sign', `${show(shown)} has its sign reversed: it should be ${show(to)}.`);
  if (shown === from - change)
    return fault(
      'sign',
      `The change went the wrong way: ${show(from)} was moved by ${show(nanometres(-change))} instead of ${show(change)}.`,
    );
  if (shown === change)
    return fault(
      'changeKeyedAsValue',
      `${show(shown)} is the change alone: it was keyed as the value instead of being added to ${show(from)}.`,
    );
  if (shown === from + to)
    return fault(
      'changeKeyedAsValue',
      `${show(shown)} is the old value plus the new one: the value was keyed as a change.`,
    );
  if (shown === to + change)
    return fault(
      'keyedTwice',
      `${show(shown)} is the change made twice. Somebody else may have keyed it already.`,
      `Ask who else was at the control, then key ${show(to)} into row ${row} and read it back.`,
    );
  const slip = slipBetween(shown, to, unit, decimals);
  if (slip === 'decimalPoint')
    return fault('decimalPoint', `${show(shown)} looks like ${show(to)} with the decimal point moved.`);
  if (slip === 'units')
    return fault(
      'units',
      `${show(shown)} is ${show(to)} multiplied or divided by 25.4: inches and millimetres were mixed.`,
    );
  if (slip === 'digitsSwapped')
    return fault('digitsSwapped', `${show(shown)} is ${show(to)} with two digits swapped.`);
  return fault(
    'unknown',
    `The control shows ${show(shown)}; the record expects ${show(to)}, and no usual slip explains it.`,
    `Key ${show(to)} and read it back. If the control held something else before, write a question on the leaf.`,
  );
}
