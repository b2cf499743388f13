import { spanOf } from '../program/extents.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { nanometres } from '../units/length.ts';
import type { Finding, ReadinessQuestion } from './question.ts';

/** A program that goes further across one set-up than the machine travels: wherever the part stands, it cannot be reached (H17). */
export function travelFindings({ machine, program }: ReadinessQuestion): Finding[] {
  const first = program.calls[0];
  if (!first || machine.kind !== 'mill') return [];
  return (['x', 'y'] as const).flatMap((axis): Finding[] => {
    const travel = machine.travel?.[axis] ?? null;
    const span = spanOf(program.calls, axis);
    if (travel === null || span === null || span * 1e6 <= travel) return [];
    const show = (length: number) =>
      formatWithUnit(nanometres(Math.round(length)), machine.unit, { decimals: 1 });
    return [
      {
        weight: 'stop',
        code: 'travel',
        tool: null,
        line: first.line,
        sentence: `${program.name} goes ${show(span * 1e6)} in ${axis.toUpperCase()}; ${machine.name} travels ${show(travel)}.`,
        remedy:
          'It is not for this machine, a work offset changes without being said, or a position has a digit too many.',
      },
    ];
  });
}
