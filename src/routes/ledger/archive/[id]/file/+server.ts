import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { error } from '@sveltejs/kit';
import { archivedById, fileOf } from '$server/archive';
import { pool } from '$server/db';
import { unreadWords } from '../../words';
import type { RequestHandler } from './$types';

/** A month of the archive, as it is kept: CSV, packed by gzip. */
export const GET: RequestHandler = async ({ params }) => {
  const archived = await archivedById(pool(), Number(params.id));
  if (!archived) error(404, 'There is no such month in the archive.');
  const file = await fileOf(archived);
  if (typeof file === 'string') error(410, unreadWords(file, archived.file));
  return new Response(Readable.toWeb(createReadStream(file.path)) as ReadableStream, {
    headers: {
      'content-type': 'application/gzip',
      'content-length': String(archived.bytes),
      'content-disposition': `attachment; filename="${archived.file}"`,
      'cache-control': 'no-store',
    },
  });
};
