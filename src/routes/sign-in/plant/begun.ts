import { z } from 'zod';
import type { Begun } from '$server/plant-sign-in';

/** Keeps what was begun while the browser is at the provider. It comes back from another site, which a strict cookie would not. */
export const BEGUN_COOKIE = 'tin-plant';
export const begunCookie = () =>
  ({
    path: '/sign-in/plant',
    httpOnly: true,
    sameSite: 'lax',
    secure: process.env.TIN_HTTPS === '1',
    maxAge: 600,
  }) as const;

const schema = z.object({ verifier: z.string(), state: z.string(), nonce: z.string(), to: z.string() });

export function begunOf(cookie: string | undefined): Begun | null {
  try {
    return schema.parse(JSON.parse(cookie ?? ''));
  } catch {
    return null;
  }
}

/** The address that the provider sends the browser back to, as the browser reached this server. */
export function backAddress(request: Request, url: URL): URL {
  const set = process.env.OIDC_REDIRECT;
  const host = request.headers.get('x-forwarded-host') ?? request.headers.get('host') ?? url.host;
  const back = new URL(
    set || `${process.env.TIN_HTTPS === '1' ? 'https' : 'http'}://${host}/sign-in/plant/back`,
  );
  back.search = '';
  return back;
}
