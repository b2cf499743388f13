import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { SESSION_COOKIE } from '../../hooks.server';
import { readCode } from '$core/scan/code';
import { ownPath } from '../own-path';
import { knowTablet, signIn, signOut } from '$server/people';
import { MACHINE_COOKIE } from '../tablet';
import { TABLET_COOKIE } from './tablet';
import type { Actions, PageServerLoad } from './$types';

const RECENT_COOKIE = 'tin-recent';
const recentSchema = z.array(z.object({ badge: z.string().max(12), name: z.string().max(80) })).max(8);

/** Who signed in on this tablet lately, for a quick switch: a name to tap, then the PIN. */
function recentOf(cookie: string | undefined) {
  try {
    return recentSchema.parse(JSON.parse(cookie ?? '[]'));
  } catch {
    return [];
  }
}

export const load: PageServerLoad = ({ cookies, url, locals }) => ({
  recent: recentOf(cookies.get(RECENT_COOKIE)),
  to: ownPath(url.searchParams.get('to')),
  present: locals.person?.name ?? null,
  badge: /^\d{3,12}$/.exec(url.searchParams.get('badge') ?? '')?.[0] ?? '',
});

const enterSchema = z.object({
  badge: z
    .string()
    .trim()
    // a badge with a code of ours
    .transform((text) => readCode(text)?.value ?? text)
    .pipe(z.string().regex(/^\d{3,12}$/)),
  pin: z.string().regex(/^\d{4,12}$/),
  to: z.string().optional(),
});

export const actions: Actions = {
  enter: async ({ request, cookies, getClientAddress }) => {
    const form = Object.fromEntries(await request.formData());
    const parsed = enterSchema.safeParse(form);
    if (!parsed.success)
      return fail(400, {
        problem: 'A badge number has 3 to 12 digits, a PIN 4 to 12.',
        badge: String(form.badge ?? ''),
      });
    const { badge, pin, to } = parsed.data;
    const tablet = cookies.get(TABLET_COOKIE) ?? null;
    const machine = /^\d{1,9}$/.exec(cookies.get(MACHINE_COOKIE) ?? '')?.[0];
    const signed = await signIn(
      badge,
      pin,
      { address: getClientAddress(), tablet },
      machine ? Number(machine) : null,
    );
    if (!signed.ok) return fail(401, { problem: signed.reason, badge });
    const old = cookies.get(SESSION_COOKIE);
    if (old) await signOut(old);
    const options = {
      path: '/',
      httpOnly: true,
      sameSite: 'strict',
      secure: process.env.TIN_HTTPS === '1',
    } as const;
    cookies.set(SESSION_COOKIE, signed.value.token, { ...options, maxAge: 12 * 3600 });
    // known from now on: the next try from here is not taken for a stranger's
    if (tablet === null) {
      const secret = crypto.randomUUID() + crypto.randomUUID();
      cookies.set(TABLET_COOKIE, secret, { ...options, maxAge: 365 * 86_400 });
      await knowTablet(badge, getClientAddress(), secret);
    }
    const { name } = signed.value.person;
    const recent = [
      { badge, name },
      ...recentOf(cookies.get(RECENT_COOKIE)).filter((each) => each.badge !== badge),
    ].slice(0, 6);
    cookies.set(RECENT_COOKIE, JSON.stringify(recent), { ...options, maxAge: 30 * 86_400 });
    redirect(303, ownPath(to));
  },
  leave: async ({ cookies }) => {
    const token = cookies.get(SESSION_COOKIE);
    if (token) await signOut(token);
    cookies.delete(SESSION_COOKIE, { path: '/' });
    redirect(303, '/sign-in');
  },
};
