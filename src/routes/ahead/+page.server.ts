import { cellNow } from '$server/clock';
import { aheadOf, expectedOf, shelvesAhead } from '$server/ahead';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { oneReading } from '$server/one-reading';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const db = oneReading(pool());
  const ahead = await aheadOf(db, await cellOf(db), cellNow());
  return {
    ...ahead,
    shelves: await shelvesAhead(db, ahead.edges),
    expected: await expectedOf(db, ahead.edges),
  };
};
