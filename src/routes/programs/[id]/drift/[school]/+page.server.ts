import { error } from '@sveltejs/kit';
import { POLICIES } from '$core/correction/policies';
import { pool } from '$server/db';
import { driftPage } from '$server/drift';
import { machineById } from '$server/machines';
import { featuresOf, programById } from '$server/programs';
import { work } from '$server/worker';
import type { PageServerLoad } from './$types';

/** The chance of a bad part is not asked for here. */
const RISK = 0.001;

/** One school on the past of one size: part by part, what it would have made of it. */
export const load: PageServerLoad = async ({ params, url }) => {
  const db = pool();
  const program = /^\d{1,9}$/.test(params.id) ? await programById(db, Number(params.id)) : null;
  if (!program) error(404, 'There is no such program.');
  const policy = POLICIES.find((each) => each === params.school);
  if (!policy) error(404, 'There is no such school.');
  const [machine, features] = await Promise.all([
    machineById(db, program.machineId),
    featuresOf(db, program.machineId, program.number),
  ]);
  const asked = Number(url.searchParams.get('feature'));
  const feature = features.find((each) => each.id === asked) ?? features[0] ?? null;
  const page = feature && (await driftPage(db, machine!, feature, RISK, null));
  const lab = page?.lab ?? null;
  return {
    program,
    machine: machine!,
    feature,
    policy,
    averageOf: lab?.size.averageOf ?? null,
    deadBand: lab?.size.deadBand ?? null,
    limits: lab && { lower: lab.size.lower, upper: lab.size.upper },
    walked: lab && (await work('walk', [lab.size, lab.history, policy, machine!.unit])),
    points: page?.points ?? [],
  };
};
