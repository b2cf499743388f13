import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { oneReading } from '$server/one-reading';
import { shared } from '$server/shared';
import { workNow } from '$server/today';
import type { PageServerLoad } from './$types';

const work = shared(
  () => 'work',
  async () => {
    const db = oneReading(pool());
    return workNow(db, await cellOf(db), cellNow());
  },
);

export const load: PageServerLoad = async () => ({ work: await work() });
