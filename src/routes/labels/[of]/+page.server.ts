import { error } from '@sveltejs/kit';
import { may } from '$core/people/roles';
import { findComponents } from '$server/components';
import { pool } from '$server/db';
import {
  badgeLabels,
  codeOf,
  componentLabels,
  LABEL_SIZES,
  orderLabels,
  pocketLabels,
  type LabelOf,
} from '$server/label';
import { machines } from '$server/machines';
import { numbersAsked } from '../../tools/numbers-asked';
import type { PageServerLoad } from './$types';

/** Components that are offered where none was named. */
const OFFERED = 200;

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const db = pool();
  const of = KINDS.find((each) => each === params.of);
  if (!of) error(404, 'There is no such page.');
  const mayBadge = may(locals.person!.role, 'managePeople');
  if (of === 'person' && !mayBadge) error(403, 'Badges are printed by whoever says who may do what.');
  const asked = of === 'component' ? numbersAsked(url) : [];
  const all = of === 'pocket' ? await machines(db) : [];
  const machine = all.find(({ id }) => String(id) === url.searchParams.get('machine')) ?? all[0];
  const labels: Record<(typeof KINDS)[number], () => Promise<LabelOf[]>> = {
    component: () => componentLabels(db, asked),
    pocket: () => (machine ? pocketLabels(db, machine.id) : Promise.resolve([])),
    order: () => orderLabels(db),
    person: () => badgeLabels(db),
  };
  const made = await labels[of]();
  const offered = of === 'component' && asked.length === 0 ? await findComponents(db, '', [], OFFERED) : [];
  return {
    of,
    mayBadge,
    size: LABEL_SIZES.find((each) => each === url.searchParams.get('size')) ?? ('small' as const),
    asked: asked.join(' '),
    missing: asked.filter((number) => !made.some((each) => each.number === number)),
    labels: made.map((label) => ({ ...label, code: codeOf(label.code) })),
    machine: machine?.id ?? null,
    machines: all.map(({ id, name }) => ({ id, name })),
    offered: offered.map(({ id, number, name, shelf }) => ({ id, number, name, shelf })),
  };
};

const KINDS = ['component', 'pocket', 'order', 'person'] as const;
