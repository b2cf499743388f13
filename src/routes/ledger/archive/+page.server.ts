import { archivedMonths } from '$server/archive';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ months: await archivedMonths(pool()) });
