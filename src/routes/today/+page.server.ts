import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { workNow } from '$server/today';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const cell = await cellOf(pool());
  return { work: await workNow(pool(), cell, cellNow()) };
};
