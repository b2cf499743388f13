import { error, json } from '@sveltejs/kit';
import { looseAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import type { RequestHandler } from './$types';

/** Assemblies that fit this machine and stand nowhere, by words of their number or name. */
export const GET: RequestHandler = async ({ params, url }) => {
  const machine = await machineById(pool(), Number(params.id));
  if (!machine) error(404, 'There is no such machine.');
  return json(
    await looseAssemblies(pool(), machine.interface, (url.searchParams.get('words') ?? '').slice(0, 100)),
  );
};
