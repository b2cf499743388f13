import { error } from '@sveltejs/kit';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { netOf } from '$server/safety-net';
import type { RequestHandler } from './$types';

/** The check of lengths that was written last for a machine, as a program. */
export const GET: RequestHandler = async ({ params }) => {
  const machine = /^\d{1,9}$/.test(params.id) ? await machineById(pool(), Number(params.id)) : null;
  const kept = machine && (await netOf(pool(), machine.id));
  if (!kept) error(404, 'No check of lengths was written for this machine.');
  return new Response(kept.text.replaceAll('\n', '\r\n'), {
    headers: {
      'content-type': 'text/plain; charset=us-ascii',
      'content-disposition': `attachment; filename="O${machine.dialect.net?.program ?? machine.id}.nc"`,
      'cache-control': 'no-store',
    },
  });
};
