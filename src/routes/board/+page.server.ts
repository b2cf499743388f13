import { board } from '$server/board';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ machines: await board(pool()) });
