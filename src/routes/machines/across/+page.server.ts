import { acrossMachines, expectedTwice } from '$server/across';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const family = url.searchParams
    .getAll('machine')
    .map(Number)
    .filter((id) => Number.isInteger(id) && id > 0);
  return { ...(await acrossMachines(pool(), family)), twice: await expectedTwice(pool()) };
};
