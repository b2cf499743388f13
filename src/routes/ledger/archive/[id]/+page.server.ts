import { error } from '@sveltejs/kit';
import { archivedById, fileOf, found, HEADINGS } from '$server/archive';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

/** Lines that a page shows; what more there is, is counted, and in the file. */
const SHOWN = 200;

export const load: PageServerLoad = async ({ params, url }) => {
  const archived = await archivedById(pool(), Number(params.id));
  if (!archived) error(404, 'There is no such month in the archive.');
  const columns = HEADINGS[archived.kind].filter((name) => name !== 'row');
  const asked = Object.fromEntries(columns.map((name) => [name, url.searchParams.get(name) ?? '']));
  const file = await fileOf(archived);
  const lines = typeof file === 'string' ? null : await found(file.path, asked, SHOWN);
  return { archived, columns, asked, lines, unread: typeof file === 'string' ? file : null };
};
