import { pool } from '$server/db';
import { switchingFor } from '$server/switching';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, url }) => {
  const { machine } = await parent();
  const chosen = url.searchParams.getAll('program').map(Number);
  const most = Number(url.searchParams.get('places'));
  return {
    chosen,
    ...(await switchingFor(
      pool(),
      machine,
      chosen,
      Number.isInteger(most) && most > 0 ? most : null,
      url.searchParams.get('sisters') === 'yes',
    )),
  };
};
