import { CUTTER_SHARE } from '../control/assumed.ts';
import type { ToolCall } from '../program/reading.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { nanometres, type Length } from '../units/length.ts';
import { APART } from './preset-length.ts';
import type { Finder, Finding, LoadedTool, ReadinessQuestion } from './question.ts';

/** Who knows the cutter's diameter, path or control, against what its D row holds and what cutter is there (H7). */
export const cutterRow: Finder = ({ calls, loaded }, question) =>
  calls.flatMap((call) => cutterFindings(call, loaded, question));

/** Where the path is compensated for the cutter, its D row holds geometry or it does not: never a little of both. */
function cutterFindings(
  call: ToolCall,
  loaded: LoadedTool | undefined,
  { machine, program, rows }: ReadinessQuestion,
): Finding[] {
  if (machine.kind === 'lathe' || !call.usesRadiusCompensation || !program.cutterBy) return [];
  return call.radiusRows.flatMap(({ row, line }): Finding[] => {
    const state = rows.find((each) => each.row === row);
    const zero = state?.cutterZero;
    if (zero === undefined) return [];
    const at = { code: 'cutterRow' as const, tool: call.tool, line };
    if (zero === (program.cutterBy === 'cam'))
      return zero ? [] : otherCutter(at, row, state?.cutter, loaded, machine);
    return [
      {
        ...at,
        weight: 'stop',
        sentence: zero
          ? `D${row} on line ${line} holds no cutter, but ${program.name} leaves the cutter's diameter to the control: the path would cut deep by a radius.`
          : `D${row} on line ${line} holds a cutter, but the path of ${program.name} is compensated for it already: it would stand off by a radius.`,
        remedy: zero
          ? `Key the cutter's size into the geometry of row ${row}.`
          : `Clear the geometry of row ${row}; only its wear is used.`,
      },
    ];
  });
}

/** A D row that holds another cutter than the one that is there: that of the tool before, or of before it was reground. */
function otherCutter(
  at: Pick<Finding, 'code' | 'tool' | 'line'>,
  row: number,
  held: Length | null | undefined,
  loaded: LoadedTool | undefined,
  machine: ReadinessQuestion['machine'],
): Finding[] {
  if (!loaded?.diameter || held === null || held === undefined || !machine.cutter) return [];
  const across = nanometres(machine.cutter === 'radius' ? held * 2 : held);
  const apart = Math.abs(across - loaded.diameter);
  if (apart <= APART) return [];
  const show = (length: Length) => formatWithUnit(length, machine.unit);
  return [
    {
      ...at,
      weight: apart > CUTTER_SHARE * loaded.diameter ? 'stop' : 'look',
      sentence: `D${row} on line ${at.line} holds a cutter of ${show(across)}, but ${loaded.assembly} in ${loaded.place} is ${show(loaded.diameter)} across: each wall would be off by half the difference.`,
      remedy: `Measure the cutter and key it into the geometry of row ${row}; put the record right if that is what is wrong.`,
    },
  ];
}
