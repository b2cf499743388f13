import { error } from '@sveltejs/kit';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { past } from '$server/replica';
import { programById } from '$server/programs';
import { readingTable } from '$server/reading-table';
import type { RequestHandler } from './$types';

/** The readings of a program's parts as CSV, all or those of a month (`?month=2026-11`). */
export const GET: RequestHandler = async ({ params, url, locals }) => {
  const program = await programById(pool(), Number(params.id));
  if (!program) error(404, 'There is no such program.');
  const month = url.searchParams.get('month');
  if (month !== null && !/^\d{4}-(0[1-9]|1[0-2])$/.test(month)) error(400, 'A month is written as 2026-11.');
  const { timeZone } = await cellOf(pool());
  return new Response(await past(locals.told, (replica) => readingTable(replica, program, month, timeZone)), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="readings-${program.id}${month === null ? '' : `-${month}`}.csv"`,
      'cache-control': 'no-store',
    },
  });
};
