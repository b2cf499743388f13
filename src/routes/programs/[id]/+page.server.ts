import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { FEATURE_KINDS } from '$core/inspection/feature';
import { MOMENTS } from '$core/inspection/next-reading';
import { planDoubts } from '$core/inspection/plan-check';
import { may } from '$core/people/roles';
import { readingsInFiles } from '$server/archive';
import { pool } from '$server/db';
import { oneReading } from '$server/one-reading';
import { jobsAhead, runningJob } from '$server/jobs';
import { machineById } from '$server/machines';
import { placesOf } from '$server/places';
import {
  callsOf,
  featuresOf,
  linesOf,
  materials,
  programById,
  setCutterBy,
  setMaterial,
  writeFeature,
} from '$server/programs';
import { codeIsHarmless, settleDoubt, settledOf } from '$server/program-reading';
import { proveProgram, provenAndBefore, waiveFinding } from '$server/proofs';
import { readinessOf } from '$server/readiness';
import { verdictOf } from '$core/readiness/check';
import { act, orEmpty, ticked, whole, words } from '../../action';
import type { Actions, PageServerLoad } from './$types';

/** Lines of a program that are shown at once: a path of a mould has millions. */
const SHOWN = 20_000;

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const db = oneReading(pool());
  const program = /^\d{1,9}$/.test(params.id) ? await programById(db, Number(params.id)) : null;
  if (!program) error(404, 'There is no such program.');
  const from = Number(url.searchParams.get('from'));
  const first = Number.isInteger(from) && from > 1 && from <= program.lines ? from : 1;
  const job = await runningJob(db, program.machineId);
  const asked = Number(url.searchParams.get('quantity'));
  const left = job?.programId === program.id ? job.quantity - job.made : 0;
  const quantity = Number.isInteger(asked) && asked > 0 && asked <= 100_000 ? asked : Math.max(1, left || 50);
  const before = await jobsAhead(db, program);
  const [calls, features, findings, lines, machine, places, known, settled, inFiles] = await Promise.all([
    callsOf(db, program.id),
    featuresOf(db, program.machineId, program.number),
    readinessOf(db, program, quantity, before),
    linesOf(db, program.id, first, SHOWN),
    machineById(db, program.machineId),
    placesOf(db, program.machineId),
    materials(db),
    settledOf(db, program.id),
    readingsInFiles(db),
  ]);
  const loaded = new Map(
    places.filter((place) => place.assembly).map((place) => [place.tool!, place.assembly!]),
  );
  return {
    program,
    mayPlan: may(locals.person!.role, 'bringInPlans'),
    mayChange: may(locals.person!.role, 'bringInPrograms'),
    mayEdit: may(locals.person!.role, 'editMachines'),
    machine: machine!,
    mayProve: may(locals.person!.role, 'runJobs'),
    ...(await provenAndBefore(db, program, machine!)),
    materials: known,
    said: settled.filter(({ variable }) => variable !== null),
    quantity,
    ahead: before.map(({ number, quantity: of, made }) => ({ number, left: Math.max(0, of - made) })),
    findings,
    verdict: verdictOf(findings),
    features,
    doubts: planDoubts(features, calls),
    calls: calls.map((call) => ({ ...call, assembly: loaded.get(call.tool) ?? null })),
    first,
    lines,
    inFiles,
  };
};

/** What may be done on a program's page. */
export const actions: Actions = {
  feature: act(
    z.object({
      id: orEmpty,
      seen: z.string().max(2000).default(''),
      feature: words('The name', 60),
      kind: z.enum(FEATURE_KINDS, { error: 'Choose what is measured.' }),
      nominal: words('The nominal size', 40),
      upper: z.string().max(40).default(''),
      lower: z.string().max(40).default(''),
      tool: z.string().max(8),
      row: z.string().max(8).default(''),
      ...Object.fromEntries(
        [
          'target',
          'other_tool',
          'other_row',
          'policy',
          'dead_band',
          'average_of',
          'operator_limit',
          'rough_tool',
          'rough_row',
          'rough_stock',
          'every',
        ].map((name) => [name, z.string().max(40).default('')]),
      ),
      ...Object.fromEntries(MOMENTS.map((each) => [`also_${each}`, ticked])),
      gauge: z.string().trim().max(60).default(''),
    }),
    ({ input: { id: featureId, seen, ...cells }, asking, event }) =>
      writeFeature(asking, {
        programId: Number(event.params.id),
        cells: {
          ...(cells as Record<string, string>),
          also: MOMENTS.filter((each) => (cells as Record<string, unknown>)[`also_${each}`]).join('+'),
        },
        change: featureId === null ? null : { featureId, seen },
      }),
  ),
  cutter: act(z.object({ to: z.enum(['cam', 'control']) }), ({ input, asking, event }) =>
    setCutterBy(asking, { programId: Number(event.params.id), to: input.to }),
  ),
  settle: act(
    z.object({
      code: z.string().max(40),
      line: z.coerce.number().int().min(0),
      text: z.string().max(600),
      said: words('What it is', 300),
      value: z.string().trim().max(20).default(''),
    }),
    ({ input: { value, ...said }, asking, event }) => {
      const number = value === '' ? null : Number(value.replace(',', '.'));
      return number !== null && !Number.isFinite(number)
        ? Promise.resolve({ ok: false as const, reason: 'Its value must be a number.' })
        : settleDoubt(asking, { programId: Number(event.params.id), ...said, value: number });
    },
  ),
  harmless: act(
    z.object({ code: z.string().regex(/^[GM]\d{1,3}(\.\d)?$/, 'That is no code.') }),
    ({ input, asking, event }) =>
      codeIsHarmless(asking, { programId: Number(event.params.id), code: input.code }),
  ),
  material: act(z.object({ material: words('The material', 60) }), ({ input, asking, event }) =>
    setMaterial(asking, { programId: Number(event.params.id), material: input.material }),
  ),
  prove: act(
    z.object({ proven: ticked, said: words('How it was proven', 300) }),
    ({ input, asking, event }) => proveProgram(asking, { programId: Number(event.params.id), ...input }),
  ),
  waive: act(
    z.object({
      code: z.string().max(40),
      sentence: z.string().min(1).max(1000),
      why: words('Why it may stand', 300),
      days: whole('Days', 1, 366),
    }),
    ({ input, asking, event }) => waiveFinding(asking, { programId: Number(event.params.id), ...input }),
  ),
};
