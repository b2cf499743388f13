import type { ToolCall } from '../program/reading.ts';
import type { Finder, Finding } from './question.ts';

/**
 * Life counting in the program that is not what the tool does (H11): a tool counted by holes whose commands count other holes than are
 * made, or count twice. A program that counts nothing anywhere is counted by the record.
 */
export const lifeCounted: Finder = ({ calls, loaded }, { program }) =>
  loaded?.life?.basis === 'holes' ? holesCounted(calls, program.calls) : [];

/** The same for whatever stands under the call. */
export function holesCounted(calls: readonly ToolCall[], all: readonly ToolCall[]): Finding[] {
  const first = calls[0]!;
  const holes = calls.reduce((sum, call) => sum + call.holes, 0);
  const commands = calls.flatMap((call) => call.lifeCounts);
  const counted = commands.reduce((sum, { quantity }) => sum + quantity, 0);
  if (counted === holes || !all.some((call) => call.lifeCounts.length > 0)) return [];
  const line = commands.at(-1)?.line ?? first.line;
  const made = `T${first.tool} makes ${holes} ${holes === 1 ? 'hole' : 'holes'}`;
  const [sentence, remedy] =
    commands.length === 0
      ? [
          `${made} and the program does not count them.`,
          'Put the counting command into the program, as its other tools have it: this one would never expire on the control.',
        ]
      : counted === 2 * holes
        ? [
            `${made} and the program counts ${counted}, by line ${line}: they are counted twice.`,
            'Take one of the counting commands out.',
          ]
        : [
            `${made} and the program counts ${counted}, by line ${line}.`,
            'Correct the quantity: the counter on the control would expire at another part than the record says.',
          ];
  return [{ weight: 'look', code: 'lifeCount', tool: first.tool, line, sentence, remedy }];
}
