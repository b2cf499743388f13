import { countAssemblies, findAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const words = (url.searchParams.get('words') ?? '').slice(0, 100);
  const [tools, total] = await Promise.all([findAssemblies(pool(), words), countAssemblies(pool(), words)]);
  return { words, tools, total };
};
