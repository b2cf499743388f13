import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { POLICIES } from '$core/correction/policies';
import { may } from '$core/people/roles';
import { pool, row } from '$server/db';
import { surelyCut } from '$server/likely-made';
import { driftPage } from '$server/drift';
import { countedTools } from '$server/counts';
import { partsLeft } from '$core/life/count';
import { perPart } from '$core/shift/job';
import { jobsOf, type Job } from '$server/jobs';
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

/** The last part of the running job that the tool of a size has, whether that is cut, and how many come from the last that was measured of it; null: nobody counts it. */
async function endOfEdge(
  job: Job,
  { tool, machineId }: { tool: number; machineId: number },
): Promise<{ part: number; left: number; over: boolean } | null> {
  const counted = (await countedTools(pool(), job)).find((each) => each.tool === tool);
  if (!counted) return null;
  const lasts = partsLeft(counted.remaining, counted.basis, counted.use, counted.perPart);
  if (!Number.isFinite(lasts)) return null;
  const measured = await row<{ part: number | null }>(
    pool(),
    `SELECT max(r.part) AS part FROM reading r JOIN feature f ON f.id = r.feature_id
     WHERE r.job_id = $1 AND r.doubt IS NULL AND f.machine_id = $2 AND f.tool = $3`,
    [job.id, machineId, tool],
  );
  const part = job.made + lasts;
  const over = counted.flag !== null || part <= (await surelyCut(pool(), machineId, job));
  return { part, over, left: over ? 0 : Math.max(0, part - (measured?.part ?? job.made)) };
}

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
  const risk = RISKS.find((each) => String(each) === url.searchParams.get('risk')) ?? 0.001;
  const job = jobs.find((each) => each.state === 'running' && each.programId === program.id);
  const end = job && feature ? await endOfEdge(job, feature) : null;
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
        driftPage(replica, machine, feature, risk, end?.left ?? null),
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
