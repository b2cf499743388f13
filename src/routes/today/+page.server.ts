import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { shared } from '$server/shared';
import { workNow } from '$server/today';
import type { PageServerLoad } from './$types';

const work = shared(
  () => 'work',
  async () => workNow(pool(), await cellOf(pool()), cellNow()),
);

export const load: PageServerLoad = async () => ({ work: await work() });
