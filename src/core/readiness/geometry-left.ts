import { capital } from '../words/capital.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { calledRows } from './called-rows.ts';
import type { Finder, Finding } from './question.ts';
import { notItsOwn, type LeftGeometry } from './row-geometry.ts';

/** Geometry that an earlier tool or edge left in a row which the program calls (H1, H8): the tool would cut, or crash, by the difference. */
export const geometryLeft: Finder = ({ tool, calls, loaded }, { rows, machine }) => {
  // a tool that was not measured at all says so itself
  if (!loaded?.left || !loaded.measuredSinceLoading) return [];
  return [...calledRows(calls).lengths].flatMap(([row, line]): Finding[] => {
    if (rows.find((state) => state.row === row)?.zero ?? true) return [];
    const left = loaded.left!.filter((each) => each.row === row);
    return (['before', 'copy', 'putBack', 'again'] as const).flatMap((why): Finding[] => {
      const kinds = left.filter((each) => each.why === why);
      return kinds.length === 0
        ? []
        : [{ code: 'geometryLeft', tool, line, ...told(why, kinds, { tool, row, line }, machine) }];
    });
  });
};

function told(
  why: LeftGeometry['why'],
  left: readonly LeftGeometry[],
  at: { tool: number; row: number; line: number },
  machine: { kind: 'mill' | 'lathe'; unit: 'mm' | 'in' },
): Pick<Finding, 'weight' | 'sentence' | 'remedy'> {
  const what = left.map(({ kind }) => REGISTER_WORDS[kind] ?? kind).join(' and ');
  const row = `Row ${at.row}, which T${at.tool} uses on line ${at.line},`;
  const other = left.find(({ by }) => by)?.by?.row;
  const moved = left
    .flatMap(({ kind, by }) =>
      by && by.moved !== 0
        ? [`${REGISTER_WORDS[kind] ?? kind} by ${formatWithUnit(by.moved, machine.unit, { sign: 'always' })}`]
        : [],
    )
    .join(', ');
  const still = left.every((each) => !notItsOwn(each));
  const measure = `measure T${at.tool} into row ${at.row}`;
  const anew =
    machine.kind === 'lathe' && other !== undefined
      ? `Copy row ${other} to it once more for the second part, or ${measure}.`
      : `${capital(measure)}.`;
  switch (why) {
    case 'before':
      return {
        weight: 'stop',
        sentence: `${row} still holds the ${what} from before T${at.tool} came or its edge was changed${moved ? `; row ${other} was set since: ${moved}` : ''}.`,
        remedy: anew,
      };
    case 'copy':
      return {
        weight: 'stop',
        sentence: `${row} was copied from row ${other}, and row ${other} has moved since: ${moved}.`,
        remedy: anew,
      };
    case 'putBack':
      return {
        weight: still ? 'look' : 'stop',
        sentence: still
          ? `${row} was put back to what was measured, from a table kept earlier; something else was keyed there in between.`
          : `${row} was put back from a table kept earlier: ${moved} from what was recorded since.`,
        remedy: still
          ? `Look which is right, or ${measure}.`
          : `${capital(measure)}, or key what it held before.`,
      };
    case 'again':
      return {
        weight: 'look',
        sentence: `${row} was set for itself, and row ${other} was set once more since: ${moved}.`,
        remedy: `One holder carries both: ${measure} too, unless somebody knows why they came apart.`,
      };
  }
}
