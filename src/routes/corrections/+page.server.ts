import { openCorrections, recentCorrections } from '$server/corrections';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({
  open: await openCorrections(pool()),
  closed: await recentCorrections(pool()),
});
