import { error } from '@sveltejs/kit';
import { COLUMNS } from '$core/formats/columns';
import { pool } from '$server/db';
import { openOfDraft } from '$server/imports';
import { recordAct, recordToShow } from '../../record';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
  const [draft, line] = ['draft', 'line'].map((name) => Number(url.searchParams.get(name) ?? NaN));
  if (Number.isInteger(draft) && Number.isInteger(line)) {
    const cells = await openOfDraft(pool(), draft!, locals.person!.id, line!);
    if (!cells) error(404, 'That file is no longer waiting.');
    return { known: false, standsIn: null, cells, columns: COLUMNS.assemblies };
  }
  const record = await recordToShow(
    'assemblies',
    url.searchParams.get('number'),
    url.searchParams.get('like'),
  );
  if (!record) error(404, 'Nothing is on record under this number.');
  return { ...record, columns: COLUMNS.assemblies };
};

export const actions: Actions = {
  record: recordAct('assemblies'),
};
