import { calledRows } from './called-rows.ts';
import type { Finder, Finding } from './question.ts';

/**
 * A lathe's row that is called with nose radius compensation and holds no radius, or no direction of its tip (H8): the control would take the tip
 * for sharp, and every taper and radius would come out off by the nose.
 */
export const noseRow: Finder = ({ tool, calls }, { machine, program, rows }) => {
  if (machine.kind !== 'lathe') return [];
  const compensated = calls.filter(({ usesRadiusCompensation }) => usesRadiusCompensation);
  return [...calledRows(compensated).lengths].flatMap(([row, line]): Finding[] => {
    const state = rows.find((each) => each.row === row);
    if (row === 0 || state?.nose === undefined || state.nose === null) return [];
    const at = { code: 'noseRow' as const, tool, line };
    if (state.nose === 0)
      return [
        {
          ...at,
          weight: 'stop',
          sentence: `Row ${row}, which T${tool} uses with nose radius compensation, holds no nose radius: tapers and radii of ${program.name} would be cut wrong by the nose.`,
          remedy: `Key the nose radius and the tip direction of the insert into row ${row}.`,
        },
      ];
    return state.tip === 0
      ? [
          {
            ...at,
            weight: 'look',
            sentence: `Row ${row}, which T${tool} uses with nose radius compensation, holds no tip direction: that is right only where ${program.name} is written for the middle of the nose.`,
            remedy: `Key the tip direction of the insert into row ${row}, as the control’s book numbers it.`,
          },
        ]
      : [];
  });
};
