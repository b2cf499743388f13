import { pool } from '$server/db';
import { machinesAtAGlance, placesOf } from '$server/machines';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const glances = await machinesAtAGlance();
  return {
    machines: await Promise.all(
      glances.map(async (machine) => ({ ...machine, standing: await placesOf(pool(), machine.id) })),
    ),
  };
};
