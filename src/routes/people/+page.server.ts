import { z } from 'zod';
import { ROLES } from '$core/people/roles';
import { pool } from '$server/db';
import { addPerson, changePerson, openBadge, people } from '$server/people';
import { plantSettings } from '$server/plant-sign-in';
import { SESSION_COOKIE } from '../../hooks.server';
import { act, id, INCOMPLETE, shownBefore, words } from '../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({
  people: await people(pool()),
  plant: plantSettings()?.name ?? null,
});

const pin = z.string().regex(/^\d{4,12}$/, 'A PIN has 4 to 12 digits.');
const role = z.enum(ROLES);

export const actions: Actions = {
  add: act(
    z.object({
      badge: z.string().regex(/^\d{3,12}$/, 'A badge number has 3 to 12 digits.'),
      name: words('The name', 80),
      role,
      pin,
    }),
    ({ input, asking }) => addPerson(asking, input),
  ),
  change: act(
    z.object({
      person: id,
      role,
      active: z.string().optional(),
      pin: z.union([z.literal(''), pin]),
      plantNumber: z.string().trim().max(200).optional(),
      shown: shownBefore.pipe(
        z.object({ role, active: z.boolean(), plantNumber: z.string().optional() }, { error: INCOMPLETE }),
      ),
    }),
    ({ input, asking, event }) =>
      changePerson(
        asking,
        {
          id: input.person,
          shown: input.shown,
          typed: { role: input.role, active: input.active === 'on', plantNumber: input.plantNumber },
          pin: input.pin,
        },
        event.cookies.get(SESSION_COOKIE) ?? null,
      ),
  ),
  open: act(z.object({ person: id }), ({ input, asking }) => openBadge(asking, input.person)),
};
