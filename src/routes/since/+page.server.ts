import { may } from '$core/people/roles';
import { neighbours, shiftAt } from '$core/shift/calendar';
import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { lastWorked, spokenSince } from '$server/handover';
import { happenedIn } from '$server/happened';
import { oneReading } from '$server/one-reading';
import type { PageServerLoad } from './$types';

const DAY = 86_400_000;
const SHOWN = 200;

/** What happened since somebody was last at work, in words first, then entry by entry. */
export const load: PageServerLoad = async ({ locals }) => {
  const now = cellNow();
  const db = oneReading(pool());
  const person = locals.person!;
  const [cell, left] = await Promise.all([cellOf(db), lastWorked(db, person.id, now)]);
  const from = left ?? new Date(now.getTime() - DAY);
  const shift = shiftAt(now, cell.patterns, cell.timeZone);
  const until = shift
    ? (neighbours(shift, cell.patterns, cell.timeZone).after?.end ?? shift.end)
    : new Date(now.getTime() + DAY);
  const [spoken, happened] = await Promise.all([
    spokenSince(db, cell, from, until, now),
    happenedIn(db, from, now, SHOWN),
  ]);
  return {
    now,
    left,
    from,
    spoken,
    happened,
    mayLookLedger: may(person.role, 'lookLedger'),
  };
};
