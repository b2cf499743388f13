import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { runningJob } from '$server/jobs';
import { machineById } from '$server/machines';
import { placesOf } from '$server/places';
import { callsOf, featuresOf, programById, programText, setCutterBy } from '$server/programs';
import { readinessOf } from '$server/readiness';
import { verdictOf } from '$core/readiness/check';
import { act } from '../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const db = pool();
  const program = /^\d{1,9}$/.test(params.id) ? await programById(db, Number(params.id)) : null;
  if (!program) error(404, 'There is no such program.');
  const job = await runningJob(db, program.machineId);
  const asked = Number(url.searchParams.get('quantity'));
  const left = job?.programId === program.id ? job.quantity - job.made : 0;
  const quantity = Number.isInteger(asked) && asked > 0 && asked <= 100_000 ? asked : Math.max(1, left || 50);
  const [calls, features, findings, text, machine, places] = await Promise.all([
    callsOf(db, program.id),
    featuresOf(db, program.machineId, program.number),
    readinessOf(db, program, quantity),
    programText(db, program.id),
    machineById(db, program.machineId),
    placesOf(db, program.machineId),
  ]);
  const loaded = new Map(
    places.filter((place) => place.assembly).map((place) => [place.tool!, place.assembly!]),
  );
  return {
    program,
    mayChange: may(locals.person!.role, 'bringInPrograms'),
    machine: machine!,
    quantity,
    findings,
    verdict: verdictOf(findings),
    features,
    calls: calls.map((call) => ({ ...call, assembly: loaded.get(call.tool) ?? null })),
    lines: text.split(/\r?\n/),
  };
};

export const actions: Actions = {
  cutter: act(z.object({ to: z.enum(['cam', 'control']) }), ({ input, asking, event }) =>
    setCutterBy(asking, { programId: Number(event.params.id), to: input.to }),
  ),
};
