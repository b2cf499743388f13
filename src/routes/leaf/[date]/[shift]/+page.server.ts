import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { neighbours } from '$core/shift/calendar';
import { notLeftWell } from '$core/shift/end-check';
import { cellNow } from '$server/clock';
import { statesOf } from '$server/agents/states';
import { beginning } from '$server/beginning';
import { pool } from '$server/db';
import { endChecksOf } from '$server/end-checks';
import { leafOf, signLeaf } from '$server/leaf';
import { answerNote, writeNote } from '$server/leaf-notes';
import { machines } from '$server/machines';
import { oneReading } from '$server/one-reading';
import { shared } from '$server/shared';
import { checkPin } from '$server/people';
import { TABLET_COOKIE } from '../../../sign-in/tablet';
import { act, id, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const leafKey = ({ date, shift }: Partial<Record<string, string>>) => `${date}/${shift}`;

/** What stands on a leaf for everybody; many tablets show the same one, and ask for it at the same moment. */
const leafNow = shared(leafKey, async ({ date, shift }: { date: string; shift: string }) => {
  const now = cellNow();
  const db = oneReading(pool());
  const found = await leafOf(date, shift, now, db);
  if (!found) return null;
  const { cell, leaf } = found;
  return {
    leaf,
    now,
    ...neighbours(leaf.shift, cell.patterns, cell.timeZone),
    machines: (await machines(db)).map(({ id: machineId, name, unit }) => ({
      id: machineId,
      name,
      unit,
    })),
    states: leaf.standing === 'present' ? await statesOf(db) : [],
    /** Machines that are not left as the list asks, and all. */
    end: { open: notLeftWell(await endChecksOf(db, leaf.shift.key)).map(({ name }) => name) },
  };
});

export const load: PageServerLoad = async ({ params, locals }) => {
  const found = await leafNow(params);
  if (!found) error(404, 'The calendar has no such shift.');
  const { role } = locals.person!;
  return {
    ...found,
    beginning: found.leaf.standing === 'present' && role === 'lead' ? await beginning(pool()) : null,
    mayWrite: may(role, 'writeNotes'),
    maySign: may(role, 'signLeaf'),
    mayLookLedger: may(role, 'lookLedger'),
  };
};

const noteSchema = z.object({
  kind: z.enum(['note', 'question', 'promise']),
  machine: z.union([z.literal('').transform(() => null), id]),
  text: words('The text'),
});
const signSchema = z.object({
  side: z.enum(['leaving', 'coming']),
  badge: z.string().regex(/^\d{3,12}$/, 'Type the badge number.'),
  pin: z.string().regex(/^\d{4,12}$/, 'Type the PIN.'),
});
export const actions: Actions = {
  note: act(noteSchema, ({ input, asking, event }) =>
    writeNote(asking, {
      leaf: leafKey(event.params),
      kind: input.kind,
      machineId: input.machine,
      text: input.text,
    }),
  ),
  answer: act(z.object({ note: id, text: words('The answer') }), ({ input, asking }) =>
    answerNote(asking, input.note, input.text),
  ),
  sign: act(signSchema, async ({ input, asking, event }) => {
    const signer = await checkPin(input.badge, input.pin, {
      address: event.getClientAddress(),
      tablet: event.cookies.get(TABLET_COOKIE) ?? null,
    });
    if (!signer.ok) return signer;
    if (!may(signer.value.role, 'signLeaf'))
      return { ok: false, reason: `${signer.value.name} may not sign leaves.` };
    return signLeaf(asking, signer.value, leafKey(event.params), input.side, cellNow());
  }),
};
