import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { shiftByKey } from '$core/shift/calendar';
import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { addEndCheck, dropEndCheck, endChecksOf, tickEndCheck } from '$server/end-checks';
import { act, id, words } from '../../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
  const cell = await cellOf(pool());
  const shift = shiftByKey(params.date, params.shift, cell.patterns, cell.timeZone);
  if (!shift) error(404, 'The calendar has no such shift.');
  const { role } = locals.person!;
  return {
    shift,
    begun: shift.start <= cellNow(),
    machines: await endChecksOf(pool(), shift.key),
    mayTick: may(role, 'signLeaf'),
    mayEdit: may(role, 'editCell'),
  };
};

const lines = z
  .string()
  .regex(/^\d{1,9}( \d{1,9}){0,49}$/, 'Reload the page.')
  .transform((text) => text.split(' ').map(Number));
const short = z.string().trim().max(300, 'At most 300 characters.');

export const actions: Actions = {
  tick: act(
    z.object({ machine: id, check: lines, otherwise: short.default(''), seen: short.default('') }),
    ({ input, asking, event }) =>
      tickEndCheck(
        asking,
        {
          leaf: `${event.params.date}/${event.params.shift}`,
          machineId: input.machine,
          checkIds: input.check,
          otherwise: input.otherwise,
          seen: input.seen,
        },
        cellNow(),
      ),
  ),
  add: act(
    z.object({
      machine: z.union([z.literal('').transform(() => null), id]),
      text: words('The line').pipe(short),
    }),
    ({ input, asking }) => addEndCheck(asking, { machineId: input.machine, text: input.text }),
  ),
  drop: act(z.object({ check: id }), ({ input, asking }) => dropEndCheck(asking, input.check)),
};
