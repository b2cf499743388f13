import { z } from 'zod';
import { COMPONENT_GROUPS, kindFacts, kindsOfGroup } from '$core/component/kinds';
import { may } from '$core/people/roles';
import {
  belowMinimum,
  countComponents,
  componentById,
  findComponents,
  regrind,
  stockMoved,
  whereUsed,
} from '$server/components';
import { catalogueLookAlikes, mergeComponents, programsAskingFor } from '$server/definitions';
import { pool } from '$server/db';
import { ledgerEntries } from '$server/ledger';
import { cameBack, openOrders, sendToRegrind } from '$server/orders';
import { act, id, lengthIn, whole } from '../action';
import type { Actions, PageServerLoad } from './$types';

/** Entries of a line of the catalogue that stand beside it. */
const HISTORY = 12;

export const load: PageServerLoad = async ({ url, locals }) => {
  const db = pool();
  const words = (url.searchParams.get('words') ?? '').slice(0, 80);
  const group = COMPONENT_GROUPS.find((each) => each === url.searchParams.get('group')) ?? null;
  const kinds = kindsOfGroup(group);
  const short = url.searchParams.get('short') === '1';
  const asked = Number(url.searchParams.get('item'));
  const chosen =
    Number.isInteger(asked) && asked > 0 && asked < 2 ** 31 ? await componentById(db, asked) : null;
  const old = chosen?.regroundFrom ? await componentById(db, chosen.regroundFrom) : null;
  const makes = old ? kindFacts(old.kind).makes : undefined;
  const [components, count, under, used, history, twins, askers, orders] = await Promise.all([
    short ? belowMinimum(db) : findComponents(db, words, kinds),
    short ? 0 : countComponents(db, words, kinds),
    belowMinimum(db),
    chosen ? whereUsed(db, chosen.id) : [],
    chosen ? ledgerEntries(db, { component: chosen.id }, HISTORY + 1) : [],
    url.searchParams.get('twins') === '1' ? catalogueLookAlikes(db, words, kinds) : null,
    old && makes ? programsAskingFor(db, makes, old.dimensions.DC ?? 0) : [],
    chosen ? openOrders(db, chosen.id) : [],
  ]);
  return {
    words,
    group,
    short,
    components,
    total: short ? components.length : count,
    shortCount: under.length,
    chosen,
    used,
    history: history.slice(0, HISTORY),
    older: history.length > HISTORY,
    mayLookLedger: may(locals.person!.role, 'lookLedger'),
    twins,
    old: old && { id: old.id, number: old.number },
    askers,
    orders,
    mayMerge: may(locals.person!.role, 'bringInTools'),
    mayMove: may(locals.person!.role, 'moveStock'),
    mayBuild: may(locals.person!.role, 'buildTools'),
  };
};

const pieces = whole('The number of pieces', 0, 100_000);
const positive = lengthIn('mm');
const sizeIfReground = z.union([z.literal('').transform(() => 0), positive]);

export const actions: Actions = {
  merge: act(z.object({ from: id, into: id }), ({ input, asking }) => mergeComponents(asking, input)),
  move: act(
    z.object({
      component: id,
      before: whole('The stock', 0, 1_000_000),
      move: z.enum(['issued', 'returned', 'bought', 'counted']),
      pieces,
      why: z.string().max(200).default(''),
    }),
    ({ input, asking }) =>
      stockMoved(asking, {
        componentId: input.component,
        before: input.before,
        move: input.move,
        pieces: input.pieces,
        why: input.why,
      }),
  ),
  send: act(
    z.object({
      component: id,
      before: whole('The stock', 0, 1_000_000),
      pieces: whole('The number of pieces', 1, 1000),
      place: z.string().trim().max(80, 'The grinder is longer than 80 characters.').default(''),
    }),
    ({ input, asking }) =>
      sendToRegrind(asking, {
        componentId: input.component,
        before: input.before,
        pieces: input.pieces,
        place: input.place,
      }),
  ),
  back: act(
    z.object({
      order: id,
      came: whole('What came back before', 0, 10_000_000),
      pieces: whole('Reground', 0, 1000),
      same: whole('As they went', 0, 1000),
      scrapped: whole('Scrapped', 0, 1000),
      diameter: sizeIfReground,
      overall: sizeIfReground,
    }),
    ({ input: { order, ...back }, asking }) => cameBack(asking, { orderId: order, ...back }),
  ),
  regrind: act(
    z.object({
      component: id,
      before: whole('The stock', 0, 1_000_000),
      pieces: whole('The number of pieces', 1, 1000),
      diameter: positive,
      overall: positive,
    }),
    ({ input, asking }) =>
      regrind(asking, {
        componentId: input.component,
        before: input.before,
        pieces: input.pieces,
        diameter: input.diameter,
        overall: input.overall,
      }),
  ),
};
