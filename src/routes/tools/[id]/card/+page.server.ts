import { error } from '@sveltejs/kit';
import { buildSteps } from '$core/holding/build-steps';
import { stackFacts } from '$core/assembly/stack';
import { assemblyById } from '$server/assemblies';
import { partsOf, stackOf } from '$server/builds';
import { pool } from '$server/db';
import { codeOf } from '$server/label';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const db = pool();
  const assembly = /^\d{1,9}$/.test(params.id) ? await assemblyById(db, Number(params.id)) : null;
  if (!assembly) error(404, 'There is no such assembly.');
  const parts = await partsOf(db, assembly.id);
  const stack = stackOf(parts, assembly.stickOut);
  if (!stack)
    error(404, `The pieces of ${assembly.number} are not on record: there is no build card for it.`);
  return {
    assembly,
    parts,
    steps: buildSteps(stack),
    nominal: stackFacts(stack).gaugeLength,
    code: codeOf({ kind: 'tool', value: assembly.number }),
  };
};
