import { error } from '@sveltejs/kit';
import { cellNow } from '$server/clock';
import { stateOf } from '$server/agents/states';
import { differingControls } from '$server/control-differing';
import { pool } from '$server/db';
import { machineById, shapeOf } from '$server/machines';
import { shared } from '$server/shared';
import type { LayoutServerLoad } from './$types';

/** A machine and what its control says; null: there is none. */
const machineHere = shared(
  (id: number) => id,
  async (id) => {
    const machine = await machineById(pool(), id);
    if (!machine) return null;
    const [heard, [differs]] = await Promise.all([
      stateOf(pool(), machine.id),
      differingControls(pool(), machine.id),
    ]);
    return { machine, shape: shapeOf(machine), heard, differing: differs?.differing ?? 0, asked: cellNow() };
  },
);

export const load: LayoutServerLoad = async ({ params }) => {
  const here = /^\d{1,9}$/.test(params.id) ? await machineHere(Number(params.id)) : null;
  if (!here) error(404, 'There is no such machine.');
  return here;
};
