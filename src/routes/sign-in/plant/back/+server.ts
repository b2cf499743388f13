import { redirect } from '@sveltejs/kit';
import { openSession, refused } from '$server/people';
import { cameFromPlant, plantSettings } from '$server/plant-sign-in';
import { backAddress, BEGUN_COOKIE, begunCookie, begunOf } from '../begun';
import { machineOf, takeUp } from '../../session';
import { ownPath } from '../../../own-path';
import type { RequestHandler } from './$types';

/** Takes whoever comes back from the plant's sign-in. */
export const GET: RequestHandler = async ({ request, url, cookies, getClientAddress }) => {
  const begun = begunOf(cookies.get(BEGUN_COOKIE));
  cookies.delete(BEGUN_COOKIE, begunCookie());
  if (!begun || !plantSettings()) redirect(303, '/sign-in?plant=refused');
  const here = backAddress(request, url);
  here.search = url.search;
  const came = await cameFromPlant(here, begun);
  const address = getClientAddress();
  if (!came.ok) {
    if (came.why === 'unknown')
      await refused({
        personId: null,
        address,
        what: `The plant’s sign-in knows ${came.number}, and nobody here has that number.`,
      });
    redirect(303, `/sign-in?plant=${came.why}`);
  }
  await takeUp(
    cookies,
    await openSession(came.person, { address, tablet: null }, machineOf(cookies), 'plant'),
  );
  // the browser sends a strict cookie only where a page of ours leads: this is one, and goes on at once
  const to = ownPath(begun.to).replace(/[<>"&]/g, (sign) => `&#${sign.charCodeAt(0)};`);
  return new Response(
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta http-equiv="refresh" content="0;url=${to}"><title>Signed in</title><link rel="stylesheet" href="/away.css"></head><body><main><h1>Signed in</h1><p><a href="${to}">Go on</a></p></main></body></html>`,
    {
      headers: {
        'content-type': 'text/html; charset=utf-8',
        'content-security-policy': "default-src 'none'; style-src 'self'",
      },
    },
  );
};
