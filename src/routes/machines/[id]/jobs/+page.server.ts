import { pool } from '$server/db';
import { programsAsked, switchingFor } from '$server/switching';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, url }) => {
  const { machine } = await parent();
  const chosen = await programsAsked(pool(), machine.id, url.searchParams);
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
