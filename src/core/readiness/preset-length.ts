import { formatWithUnit } from '../units/format-length.ts';
import { lengthOf, type Length } from '../units/length.ts';
import type { Finder } from './question.ts';

/** How far a length in a control may stand from the presetter's before somebody looks: machine and presetter never agree to the last digit (common practice, no source). */
export const APART: Length = lengthOf(0.1, 'mm');

/** A length in the control that is not what the presetter measured of the tool as it is built now (H17). */
export const presetLength: Finder = ({ tool, calls, loaded }, { machine, rows }) => {
  const { preset, held } = loaded ?? {};
  if (preset === undefined || preset === null || held === undefined || held === null) return [];
  // an empty row is told as one; a zero that was measured says that the tool is as long as the master
  if (held === 0 && (rows.find(({ row }) => row === tool)?.zero ?? true)) return [];
  if (Math.abs(preset - held) <= APART) return [];
  const show = (length: Length) => formatWithUnit(length, machine.unit);
  return [
    {
      weight: 'look',
      code: 'presetLength',
      tool,
      line: calls[0]!.line,
      sentence: `Row ${tool} holds ${show(held)}, but the presetter makes it ${show(preset)}.`,
      remedy: `Measure T${tool} once more: one of them was keyed wrongly, or the tool has moved in its holder.`,
    },
  ];
};
