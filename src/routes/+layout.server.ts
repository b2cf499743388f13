import { shiftAt } from '$core/shift/calendar';
import { may } from '$core/people/roles';
import { cellNow, cellRate } from '$server/clock';
import { cellOf } from '$server/cell';
import { openCorrectionCount } from '$server/corrections';
import { pool } from '$server/db';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => {
  const { person, theme, told } = locals;
  const now = cellNow();
  if (!person)
    return { person, theme, told, now, rate: 1, cell: null, shift: null, waiting: 0, mayPeople: false };
  const cell = await cellOf(pool());
  return {
    person,
    theme,
    told,
    now,
    rate: cellRate(),
    cell: { name: cell.name, timeZone: cell.timeZone },
    shift: shiftAt(now, cell.patterns, cell.timeZone),
    waiting: await openCorrectionCount(pool()),
    mayPeople: may(person.role, 'managePeople'),
  };
};
