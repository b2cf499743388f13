import { pool } from '$server/db';
import { assembliesByNumber } from '$server/assemblies';
import { codeOf } from '$server/label';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const asked = [...new Set((url.searchParams.get('numbers') ?? '').split(/[\s,;]+/).filter(Boolean))].slice(
    0,
    200,
  );
  const found = await assembliesByNumber(pool(), asked);
  return {
    asked: asked.join(' '),
    missing: asked.filter((number) => !found.some((each) => each.number === number)),
    labels: found.map((shape) => ({ shape, code: codeOf(shape.number) })),
  };
};
