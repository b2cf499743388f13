import { error } from '@sveltejs/kit';
import { pool } from '$server/db';
import { elsewhereOf } from '$server/elsewhere';
import { programById } from '$server/programs';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const program = /^\d{1,9}$/.test(params.id) ? await programById(pool(), Number(params.id)) : null;
  if (!program) error(404, 'There is no such program.');
  return { program, places: await elsewhereOf(pool(), program) };
};
