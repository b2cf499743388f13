import { error } from '@sveltejs/kit';
import { cellNow } from '$server/clock';
import { recordText } from '$server/control-looks';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import type { RequestHandler } from './$types';

/** The record of a machine's offsets as a text in its own words, to keep, or to put back. */
export const GET: RequestHandler = async ({ params }) => {
  const machine = await machineById(pool(), Number(params.id));
  if (!machine) error(404, 'There is no such machine.');
  const now = cellNow();
  const { text } = await recordText(pool(), machine, now);
  const name = machine.name.replace(/[^A-Za-z0-9]+/g, '-').toLowerCase();
  return new Response(text, {
    headers: {
      'content-type': 'text/plain; charset=utf-8',
      'content-disposition': `attachment; filename="${name}-offsets-${now.toISOString().slice(0, 10)}.nc"`,
    },
  });
};
