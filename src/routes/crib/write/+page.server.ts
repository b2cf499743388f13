import { error } from '@sveltejs/kit';
import { COLUMNS } from '$core/formats/columns';
import { recordAct, recordToShow } from '../../record';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const record = await recordToShow(
    'components',
    url.searchParams.get('number'),
    url.searchParams.get('like'),
  );
  if (!record) error(404, 'Nothing is on record under this number.');
  return { ...record, columns: COLUMNS.components };
};

export const actions: Actions = {
  record: recordAct('components'),
};
