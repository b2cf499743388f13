import { error } from '@sveltejs/kit';
import { pool } from '$server/db';
import { programById } from '$server/programs';
import { planTable } from '$server/reading-table';
import type { RequestHandler } from './$types';

/** A program's measuring plan as CSV, as it is brought in. */
export const GET: RequestHandler = async ({ params }) => {
  const program = await programById(pool(), Number(params.id));
  if (!program) error(404, 'There is no such program.');
  return new Response(await planTable(pool(), program), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="plan-${program.id}.csv"`,
      'cache-control': 'no-store',
    },
  });
};
