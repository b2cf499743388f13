import type { ToolCall } from '../program/reading.ts';
import type { Finder, Finding, ReadinessQuestion } from './question.ts';

/** Rows that are not the tool's own, and cuts without a length (H1.5, H8). */
export const rowsFollow: Finder = ({ calls }, question) =>
  calls.flatMap((call) => rowFindings(call, question));

function rowFindings(call: ToolCall, { machine }: ReadinessQuestion): Finding[] {
  const found: Finding[] = [];
  const at = { tool: call.tool, line: call.line };
  if (machine.kind === 'lathe') {
    for (const { row, line } of call.lengthRows)
      if (row !== call.tool)
        found.push({
          ...at,
          line,
          weight: 'look',
          code: 'otherRow',
          sentence: `Station ${call.tool} is called with row ${row} on line ${line}.`,
          remedy: 'Right for a second part on the bar or a second edge; make sure that it is meant.',
        });
    return found;
  }
  if (call.lengthRows.length === 0 && call.cutMilliseconds > 0)
    found.push({
      ...at,
      weight: 'stop',
      code: 'noLengthRow',
      sentence: `T${call.tool} cuts from line ${call.line} on with no length applied.`,
      remedy: 'Give the program back to the programmer: the length call is missing.',
    });
  for (const { row, line } of call.lengthRows)
    if (row !== call.tool && row !== 0)
      found.push({
        ...at,
        line,
        weight: 'stop',
        code: 'rowDoesNotFollow',
        sentence: `T${call.tool} is called on line ${call.line}, but line ${line} applies length row H${row}.`,
        remedy: `Change H${row} to H${call.tool}, or the tool call with it: the length must be the tool's own.`,
      });
  for (const { row, line } of call.radiusRows)
    if (row !== call.tool)
      found.push({
        ...at,
        line,
        weight: 'look',
        code: 'rowDoesNotFollow',
        sentence: `T${call.tool} uses radius row D${row} on line ${line}.`,
        remedy: 'Right only where a second row is meant for a second feature; otherwise change it.',
      });
  return found;
}
