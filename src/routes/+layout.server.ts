import { shiftAt } from '$core/shift/calendar';
import { may } from '$core/people/roles';
import { cellNow, cellRate } from '$server/clock';
import { cellOf } from '$server/cell';
import { openCorrectionCount } from '$server/corrections';
import { pool } from '$server/db';
import { shared } from '$server/shared';
import { MACHINE_COOKIE } from './tablet';
import type { LayoutServerLoad } from './$types';

/** What is the same for everybody who looks at any page just now. */
const everywhere = shared(
  () => 'all',
  async () => ({ cell: await cellOf(pool()), waiting: await openCorrectionCount(pool()) }),
);

export const load: LayoutServerLoad = async ({ locals, cookies }) => {
  const { person, theme, told, line } = locals;
  const now = cellNow();
  if (!person)
    return {
      person,
      theme,
      told,
      line,
      now,
      rate: 1,
      cell: null,
      shift: null,
      waiting: 0,
      mayPeople: false,
      standsAt: null,
    };
  const { cell, waiting } = await everywhere();
  return {
    person,
    theme,
    told,
    line,
    now,
    rate: cellRate(),
    cell: { name: cell.name, timeZone: cell.timeZone },
    shift: shiftAt(now, cell.patterns, cell.timeZone),
    waiting,
    mayPeople: may(person.role, 'managePeople'),
    /** The machine that this tablet stands at. */
    standsAt: Number(cookies.get(MACHINE_COOKIE)) || null,
  };
};
