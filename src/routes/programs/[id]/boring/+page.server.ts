import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { SHIFTS } from '$core/program/boring-shift';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { boringOf, lookAtTip } from '$server/oriented';
import { programById } from '$server/programs';
import { actOn, id } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const programOf = (text: string) =>
  /^\d{1,9}$/.test(text) ? programById(pool(), Number(text)) : Promise.resolve(null);

export const load: PageServerLoad = async ({ params, locals }) => {
  const program = await programOf(params.id);
  if (!program) error(404, 'There is no such program.');
  const machine = (await machineById(pool(), program.machineId))!;
  return {
    program,
    machine,
    bores: await boringOf(pool(), program, machine),
    mayLook: may(locals.person!.role, 'placeTools'),
  };
};

export const actions: Actions = {
  look: actOn(
    (event) => programOf(event.params.id!),
    'There is no such program.',
    () => z.object({ assembly: id, way: z.enum(SHIFTS, { error: 'Choose which way it points.' }) }),
    ({ input, asking, on }) =>
      lookAtTip(asking, { machineId: on.machineId, assemblyId: input.assembly, way: input.way }),
  ),
};
