import type { ToolCall } from '../program/reading.ts';
import type { Finder, Finding, ReadinessQuestion } from './question.ts';

/** Who knows the cutter's diameter, path or control, against what its D row holds (H7). */
export const cutterRow: Finder = ({ calls }, question) =>
  calls.flatMap((call) => cutterFindings(call, question));

/** Where the path is compensated for the cutter, its D row holds geometry or it does not: never a little of both. */
function cutterFindings(call: ToolCall, { machine, program, rows }: ReadinessQuestion): Finding[] {
  if (machine.kind === 'lathe' || !call.usesRadiusCompensation || !program.cutterBy) return [];
  return call.radiusRows.flatMap(({ row, line }): Finding[] => {
    const zero = rows.find((state) => state.row === row)?.cutterZero;
    if (zero === undefined || zero === (program.cutterBy === 'cam')) return [];
    return [
      {
        weight: 'stop',
        code: 'cutterRow',
        tool: call.tool,
        line,
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
