import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { SESSION_COOKIE } from '../../hooks.server';
import { readCode } from '$core/scan/code';
import { ownPath } from '../own-path';
import { knowTablet, signIn, signOut } from '$server/people';
import { plantSettings } from '$server/plant-sign-in';
import { cookieOptions, machineOf, takeUp } from './session';
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

const CAME_BACK: Readonly<Record<string, string>> = {
  away: 'The plant’s sign-in does not answer. Use badge and PIN.',
  refused: 'The plant’s sign-in did not let you in. Try again, or use badge and PIN.',
  unknown:
    'The plant knows you, but nobody here has your number. The cell lead enters it under People; until then use badge and PIN.',
};

export const load: PageServerLoad = ({ cookies, url, locals }) => ({
  plant: plantSettings()?.name ?? null,
  cameBack: CAME_BACK[url.searchParams.get('plant') ?? ''] ?? null,
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
    const signed = await signIn(badge, pin, { address: getClientAddress(), tablet }, machineOf(cookies));
    if (!signed.ok) return fail(401, { problem: signed.reason, badge });
    await takeUp(cookies, signed.value.token);
    const options = cookieOptions();
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
