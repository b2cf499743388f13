import { mixedMethods } from '../length/transfer.ts';
import type { Finding, ReadinessQuestion } from './question.ts';

/** Lengths of one set-up that were taken in different ways (H7). */
export function mixedLengths({ loaded, program }: ReadinessQuestion, tools: readonly number[]): Finding[] {
  const mixed = mixedMethods(
    loaded.flatMap(({ tool, method }) => (method && tools.includes(tool) ? [{ tool, method }] : [])),
  );
  const first = program.calls[0];
  if (!mixed || !first) return [];
  return [
    {
      weight: 'look',
      code: 'mixedLengths',
      tool: first.tool,
      line: first.line,
      sentence: mixed,
      remedy: 'Measure the odd ones again, the same way as the others.',
    },
  ];
}
