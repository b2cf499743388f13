import { error } from '@sveltejs/kit';
import { cellNow } from '$server/clock';
import { stateOf } from '$server/agents/states';
import { pool } from '$server/db';
import { machineById, shapeOf } from '$server/machines';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ params }) => {
  const machine = /^\d{1,9}$/.test(params.id) ? await machineById(pool(), Number(params.id)) : null;
  if (!machine) error(404, 'There is no such machine.');
  return { machine, shape: shapeOf(machine), heard: await stateOf(pool(), machine.id), asked: cellNow() };
};
