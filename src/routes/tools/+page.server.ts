import { may } from '$core/people/roles';
import { countAssemblies, findAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
  const words = (url.searchParams.get('words') ?? '').slice(0, 100);
  const [tools, total] = await Promise.all([findAssemblies(pool(), words), countAssemblies(pool(), words)]);
  return { words, tools, total, mayWrite: may(locals.person!.role, 'bringInTools') };
};
