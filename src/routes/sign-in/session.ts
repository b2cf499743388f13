import type { Cookies } from '@sveltejs/kit';
import { SESSION_COOKIE } from '../../hooks.server';
import { signOut } from '$server/people';
import { MACHINE_COOKIE } from '../tablet';

/** How a cookie of ours is kept. */
export const cookieOptions = () =>
  ({ path: '/', httpOnly: true, sameSite: 'strict', secure: process.env.TIN_HTTPS === '1' }) as const;

/** The machine that this tablet stands at; null: none yet. */
export function machineOf(cookies: Cookies): number | null {
  const machine = /^\d{1,9}$/.exec(cookies.get(MACHINE_COOKIE) ?? '')?.[0];
  return machine ? Number(machine) : null;
}

/** Takes a session up on this tablet; whoever was signed in here is out. */
export async function takeUp(cookies: Cookies, token: string): Promise<void> {
  const old = cookies.get(SESSION_COOKIE);
  if (old) await signOut(old);
  cookies.set(SESSION_COOKIE, token, { ...cookieOptions(), maxAge: 12 * 3600 });
}
