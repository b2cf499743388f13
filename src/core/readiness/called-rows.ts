import type { ToolCall } from '../program/reading.ts';

/** Rows that a tool is called with, each with the last line that names it: those of its length, and on a mill those of its cutter. */
export function calledRows(calls: readonly ToolCall[]) {
  const named = (which: 'lengthRows' | 'radiusRows') =>
    new Map(calls.flatMap((call) => call[which].map(({ row, line }) => [row, line] as const)));
  const [lengths, cutters] = [named('lengthRows'), named('radiusRows')];
  return {
    lengths,
    all: new Map([...lengths, ...cutters]),
    /** The line that calls a register of a row; undefined: none does. */
    lineOf: ({ row, kind }: { row: number; kind: string }) =>
      (kind.startsWith('cutter') ? cutters : lengths).get(row),
  };
}
