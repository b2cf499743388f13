import { redirect } from '@sveltejs/kit';
import { shiftAt } from '$core/shift/calendar';
import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import type { PageServerLoad } from './$types';

/** The leaf of the shift that runs now. */
export const load: PageServerLoad = async () => {
  const cell = await cellOf(pool());
  const shift = shiftAt(cellNow(), cell.patterns, cell.timeZone);
  redirect(303, shift ? `/leaf/${shift.key}` : '/machines');
};
