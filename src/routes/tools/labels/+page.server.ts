import { z } from 'zod';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { assembliesByNumber } from '$server/assemblies';
import { codeOf, LABEL_SIZES, recordLabels, unlabelled } from '$server/label';
import { act } from '../../action';
import { numbersAsked } from '../numbers-asked';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
  const asked = numbersAsked(url);
  const [found, without] = await Promise.all([assembliesByNumber(pool(), asked), unlabelled(pool())]);
  return {
    size: LABEL_SIZES.find((each) => each === url.searchParams.get('size')) ?? ('large' as const),
    asked: asked.join(' '),
    missing: asked.filter((number) => !found.some((each) => each.number === number)),
    labels: found.map((shape) => ({ shape, code: codeOf({ kind: 'tool', value: shape.number }) })),
    unlabelled: without.slice(0, 200),
    without: without.length,
    mayBadge: may(locals.person!.role, 'managePeople'),
    mayRecord: may(locals.person!.role, 'buildTools'),
  };
};

export const actions: Actions = {
  printed: act(
    z.object({
      numbers: z
        .string()
        .transform((text) => text.split(' ').filter(Boolean))
        .refine((numbers) => numbers.length > 0 && numbers.length <= 200, 'No label was chosen.'),
    }),
    ({ input, asking }) => recordLabels(asking, input.numbers),
  ),
};
