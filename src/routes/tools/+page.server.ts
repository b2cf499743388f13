import { findAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const words = (url.searchParams.get('words') ?? '').slice(0, 100);
  return { words, tools: await findAssemblies(pool(), words) };
};
