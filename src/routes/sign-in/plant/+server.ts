import { redirect } from '@sveltejs/kit';
import { beginAtPlant } from '$server/plant-sign-in';
import { ownPath } from '../../own-path';
import { backAddress, BEGUN_COOKIE, begunCookie } from './begun';
import type { RequestHandler } from './$types';

/** Sends the browser to the plant's sign-in. */
export const GET: RequestHandler = async ({ request, url, cookies }) => {
  const begun = await beginAtPlant(backAddress(request, url).href, ownPath(url.searchParams.get('to')));
  if (!begun) redirect(303, '/sign-in?plant=away');
  cookies.set(BEGUN_COOKIE, JSON.stringify(begun.begun), begunCookie());
  redirect(303, begun.url.href);
};
