import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { machinesAtAGlance } from '$server/machines';
import { placesOf } from '$server/places';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
  const glances = await machinesAtAGlance();
  return {
    mayAdd: may(locals.person!.role, 'bringInMachines'),
    machines: await Promise.all(
      glances.map(async (machine) => ({ ...machine, standing: await placesOf(pool(), machine.id) })),
    ),
  };
};
