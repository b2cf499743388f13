import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { POLICIES } from '$core/correction/policies';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { endOfEdge } from '$server/edge-at-end';
import { driftPage } from '$server/drift';
import { perPart } from '$core/shift/job';
import { jobsOf } from '$server/jobs';
import { machineById } from '$server/machines';
import { adoptSchool, featureById, featuresOf, programById } from '$server/programs';
import { past } from '$server/replica';
import { Refused, type Outcome } from '$server/outcome';
import { work } from '$server/worker';
import { act, id } from '../../../action';
import type { LabShown } from './lab-shown';
import type { Actions, PageServerLoad } from './$types';

/** Chances of a bad part between two readings that may be chosen. */
const RISKS = [0.01, 0.001, 0.0001];
/** Made-up runs of the lab, parts of each, and how long it may take, seconds. */
const [RUNS, PARTS, PATIENCE] = [30, 200, 60];

const refusal = (reason: string) => ({ ok: false as const, reason });
const machineOf = async (programId: number) => (await machineById(pool(), programId))!;

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const db = pool();
  const program = /^\d{1,9}$/.test(params.id) ? await programById(db, Number(params.id)) : null;
  if (!program) error(404, 'There is no such program.');
  const [machine, features, jobs] = await Promise.all([
    machineOf(program.machineId),
    featuresOf(db, program.machineId, program.number),
    jobsOf(db, program.machineId),
  ]);
  const asked = Number(url.searchParams.get('feature'));
  const feature = features.find((each) => each.id === asked) ?? features[0] ?? null;
  const place = /^\d{1,2}$/.test(url.searchParams.get('place') ?? '')
    ? Number(url.searchParams.get('place'))
    : null;
  const risk = RISKS.find((each) => String(each) === url.searchParams.get('risk')) ?? 0.001;
  const job = jobs.find((each) => each.state === 'running' && each.programId === program.id);
  const end = job && feature ? await endOfEdge(db, job, feature) : null;
  return {
    program,
    /** The last part that its edge has; null: it has none left. */
    endsWith: end?.over ? null : (end?.part ?? null),
    machine,
    features: features.map(({ id: featureId, name }) => ({ id: featureId, name })),
    feature,
    risk,
    risks: RISKS,
    page:
      feature &&
      (await past(locals.told, async (replica) =>
        driftPage(replica, machine, feature, risk, end?.left ?? null, place),
      )),
    perPart: job ? perPart(job) : null,
    mayAdopt: may(locals.person!.role, 'bringInPlans'),
  };
};

export const actions: Actions = {
  /** Every school on the feature's own past, and on made-up parts like its own. */
  lab: act(z.object({ feature: id }), async ({ input }): Promise<Outcome<LabShown>> => {
    const feature = await featureById(pool(), input.feature);
    if (!feature) return refusal('That feature no longer exists.');
    const page = await driftPage(pool(), await machineOf(feature.machineId), feature, RISKS[1]!, null);
    if (!page?.lab) return refusal('The lab tries sizes that answer to one row of their own.');
    const { size, process, history } = page.lab;
    try {
      const [past, made] = await Promise.all([
        work('replay', [size, history], { seconds: PATIENCE }),
        work('tryPolicies', [size, process, { runs: RUNS, parts: PARTS, inUse: feature.policy }], {
          seconds: PATIENCE,
        }),
      ]);
      return { ok: true, value: { featureId: feature.id, policy: feature.policy, past, ...made } };
    } catch (problem) {
      if (problem instanceof Refused) return refusal(problem.message);
      throw problem;
    }
  }),
  adopt: act(
    z.object({ feature: id, policy: z.enum(POLICIES), was: z.enum(POLICIES) }),
    ({ input, asking }) =>
      adoptSchool(asking, { featureId: input.feature, policy: input.policy, was: input.was }),
  ),
};
