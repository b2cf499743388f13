import { redirect } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';

/** The old address leads on. */
export const load: PageServerLoad = ({ params, url }) =>
  redirect(308, `/machines/${params.id}/numbers${url.search}`);
