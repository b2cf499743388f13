import { error } from '@sveltejs/kit';
import { cellNow } from '$server/clock';
import { stateOf } from '$server/agents/states';
import { differingControls } from '$server/control-differing';
import { pool } from '$server/db';
import { machineById, shapeOf } from '$server/machines';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ params }) => {
  const machine = /^\d{1,9}$/.test(params.id) ? await machineById(pool(), Number(params.id)) : null;
  if (!machine) error(404, 'There is no such machine.');
  const [heard, [differs]] = await Promise.all([
    stateOf(pool(), machine.id),
    differingControls(pool(), machine.id),
  ]);
  return { machine, shape: shapeOf(machine), heard, differing: differs?.differing ?? 0, asked: cellNow() };
};
