import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { TURNED } from '$core/assembly/silhouette';
import { areMixed, edgesNamed, lotsNamed } from '$core/life/alike-edges';
import { PER_SHOWN } from '$core/life/count';
import { EDGE_ENDS, WEAR_SIGNS } from '$core/life/edge-lives';
import { changeCosts, learnLimit, trialOf, usesAMonth, type EdgeCosts } from '$core/life/learnt-limit';
import { atPresentSpeed, speedsRun } from '$core/life/speeds-run';
import { shapeOfSimilar } from '$core/life/weibull';
import { may } from '$core/people/roles';
import { cellNow } from '$server/clock';
import { assemblyById } from '$server/assemblies';
import { edgeCostOf, partsOf } from '$server/builds';
import { pool } from '$server/db';
import { MOST_EDGES, similarEdges, tellEdgeEnd } from '$server/edge-ends';
import { keepLifeCosts, lifeCostsOf } from '$server/life-costs';
import { setLifeLimit } from '$server/lives';
import { speakingEdges } from '$server/speaking-edges';
import { sizeWitnesses } from '$server/wear-witness';
import { actOn, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const found = async (id: string | undefined) =>
  id && /^\d{1,9}$/.test(id) ? assemblyById(pool(), Number(id)) : null;

/** What is asked for on the page, with what stands there to begin with: money in whole units, minutes. */
const ASKED = { edge: 8, minutes: 6, rate: 60, failure: 90 } as const;

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const db = pool();
  const assembly = await found(params.id);
  if (!assembly) error(404, 'There is no such assembly.');
  const { basis } = assembly;
  if (!basis)
    return { assembly, mayAdopt: false, mayTell: false, learnt: null, witnesses: null, speeds: null };
  const known = edgeCostOf(await partsOf(db, assembly.id));
  const kept = assembly.machineId === null ? null : await lifeCostsOf(db, assembly.machineId);
  const usualOf = {
    ...ASKED,
    ...(kept && {
      minutes: kept.changeMinutes,
      rate: kept.hourCents / 100,
      failure: kept.failureCents / 100,
    }),
  };
  const asked = Object.fromEntries(
    Object.entries(usualOf).map(([name, usual]) => {
      const typed = Number((url.searchParams.get(name) ?? '').replace(',', '.'));
      const begin = name === 'edge' && known !== null ? known / 100 : usual;
      return [name, Number.isFinite(typed) && typed > 0 && typed < 1e6 ? typed : begin];
    }),
  ) as Record<keyof typeof ASKED, number>;
  const costs: EdgeCosts = {
    edge: asked.edge * 100,
    changeMinutes: asked.minutes,
    perMinute: (asked.rate * 100) / 60,
    failure: asked.failure * 100,
  };
  const { all, edges: speaking, ...spoke } = await speakingEdges(db, assembly, basis);
  const groups = lotsNamed(all);
  const of = groups.find(({ value }) => value === url.searchParams.get('of'))?.value ?? null;
  const chosen = of ? edgesNamed(all, of) : all;
  const edges = of ? atPresentSpeed(chosen) : speaking;
  const limit = assembly.fullLife!;
  const similar = await similarEdges(db, assembly, basis);
  return {
    assembly,
    mayAdopt: may(locals.person!.role, 'setLives'),
    mayTell: may(locals.person!.role, 'renewTools'),
    asked,
    kept,
    groups,
    of,
    /** Which edges speak where nothing was chosen. */
    spoke,
    /** What was chosen together lasts apart: a limit for all of it is right for none. */
    mixed: of !== null && areMixed(edges),
    witnesses: await sizeWitnesses(db, assembly),
    speeds: speedsRun(chosen, shapeOfSimilar(similar), {
      ...changeCosts(costs, edges),
      minutes: costs.changeMinutes,
      perMinute: costs.perMinute,
    }),
    /** It turns, so that a speed is so many revolutions; else the part does. */
    turns: !TURNED.includes(assembly.kind),
    learnt: {
      ...learnLimit(edges, similar, costs, limit),
      trial: trialOf(edges, limit),
      most: MOST_EDGES,
      edgesSeen: edges,
      edgesKnown: chosen,
      otherSpeed: of ? chosen.length - edges.length : spoke.otherSpeed,
      perMonth: usesAMonth(edges, cellNow()),
    },
  };
};

const cost = (name: string) =>
  z.coerce
    .number({ error: `${name} must be a number.` })
    .positive(`${name} must be above zero.`)
    .max(1e6, `${name} is too large.`);

export const actions: Actions = {
  ended: actOn(
    (event) => found(event.params.id),
    'There is no such assembly.',
    () =>
      z.object({
        id: z.coerce.number().int().positive().max(2_147_483_647),
        was: z.enum(EDGE_ENDS),
        end: z.enum(EDGE_ENDS),
        sign: z.union([z.literal('').transform(() => null), z.enum(WEAR_SIGNS)]).default(null),
      }),
    ({ input, asking }) => tellEdgeEnd(asking, input),
  ),
  keep: actOn(
    (event) => found(event.params.id),
    'There is no such assembly.',
    () =>
      z.object({
        minutes: cost('Minutes of a change'),
        rate: cost('An hour of the machine'),
        failure: cost('A failure'),
      }),
    ({ input, asking, on }) =>
      on.machineId === null
        ? Promise.resolve({ ok: false as const, reason: 'It stands in no machine: costs are kept for one.' })
        : keepLifeCosts(asking, on.machineId, {
            changeMinutes: input.minutes,
            hourCents: Math.round(input.rate * 100),
            failureCents: Math.round(input.failure * 100),
          }),
  ),
  adopt: actOn(
    (event) => found(event.params.id),
    'There is no such assembly.',
    () =>
      z.object({
        limit: z.coerce
          .number({ error: 'The limit must be a number.' })
          .positive('The limit must be above zero.')
          .max(1e9, 'That is no limit.'),
        why: words('Why', 300),
        was: z.coerce.number(),
      }),
    ({ input, asking, on }) => {
      if (!on.basis || on.fullLife !== input.was)
        return Promise.resolve({
          ok: false as const,
          reason: 'Somebody changed its limit meanwhile. Look at it again.',
        });
      return setLifeLimit(asking, {
        assemblyId: on.id,
        basis: on.basis,
        fullLife: Math.round(input.limit * PER_SHOWN[on.basis!]),
        left: null,
        why: input.why,
      });
    },
  ),
};
