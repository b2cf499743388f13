import { pool } from '$server/db';
import { machinesAtAGlance } from '$server/machines';
import { placesOf } from '$server/places';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const glances = await machinesAtAGlance();
  return {
    machines: await Promise.all(
      glances.map(async (machine) => ({ ...machine, standing: await placesOf(pool(), machine.id) })),
    ),
  };
};
