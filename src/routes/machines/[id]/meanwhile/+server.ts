import { json } from '@sveltejs/kit';
import { pool } from '$server/db';
import { ledgerEntries } from '$server/ledger';
import type { RequestHandler } from './$types';

const SHOWN = 8;

/** What was entered for a machine after an entry, newest first: for whoever typed something that arrives late. */
export const GET: RequestHandler = async ({ params, url }) => {
  const after = Number(/^\d{1,15}$/.exec(url.searchParams.get('after') ?? '')?.[0] ?? 0);
  const found = await ledgerEntries(pool(), { machine: Number(params.id), after, told: 'thing' }, SHOWN + 1);
  return json({
    more: found.length > SHOWN,
    entries: found.slice(0, SHOWN).map(({ id, at, person, said }) => ({ id, at, person, said })),
  });
};
