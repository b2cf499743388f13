import { assembliesByNumber } from '$server/assemblies';
import { kitFor } from '$server/builds';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const db = pool();
  const asked = [...new Set((url.searchParams.get('numbers') ?? '').split(/[\s,;]+/).filter(Boolean))].slice(
    0,
    200,
  );
  const found = await assembliesByNumber(db, asked);
  return {
    asked: asked.join(' '),
    missing: asked.filter((number) => !found.some((each) => each.number === number)),
    lines: await kitFor(
      db,
      found.map((each) => each.id),
    ),
  };
};
