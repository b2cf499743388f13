import { parseLength } from '$core/units/parse-length';
import { lengthOf } from '$core/units/length';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { familiesOf, familyParted } from '$server/families';
import type { PageServerLoad } from './$types';

/** What presetting leaves between two tools is no difference: so much unless somebody says otherwise (common practice, no source). */
const WITHIN = '0.5';

export const load: PageServerLoad = async ({ url }) => {
  const db = pool();
  const [families, cell] = await Promise.all([familiesOf(db), cellOf(db)]);
  const number = url.searchParams.get('program');
  const family = families.find((each) => each.number === number) ?? families[0] ?? null;
  const typed = url.searchParams.get('within') ?? WITHIN;
  const read = parseLength(typed, 'mm');
  const within = read.ok && read.value >= 0 ? read.value : null;
  return {
    families,
    family,
    typed,
    fault:
      within === null ? (read.ok ? 'A difference that is allowed is not below zero.' : read.reason) : null,
    partings: family ? await familyParted(db, family, within ?? lengthOf(Number(WITHIN), 'mm')) : [],
    timeZone: cell.timeZone,
  };
};
