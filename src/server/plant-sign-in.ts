import * as oidc from 'openid-client';
import { cellNow } from './clock.ts';
import { pool, row } from './db.ts';
import { log } from './log.ts';
import type { Person } from '../core/people/roles.ts';

/** Signing in by the plant's identity provider (OpenID Connect, authorization code with PKCE), where one is set. */
interface Settings {
  issuer: URL;
  clientId: string;
  secret: string | undefined;
  /** Which of its claims is the person's number there. */
  claim: string;
  /** What the button calls it. */
  name: string;
}

/** What is set; null: people sign in with badge and PIN only. */
export function plantSettings(env: NodeJS.ProcessEnv = process.env): Settings | null {
  const { OIDC_ISSUER, OIDC_CLIENT_ID, OIDC_CLIENT_SECRET, OIDC_CLAIM, OIDC_NAME } = env;
  if (!OIDC_ISSUER || !OIDC_CLIENT_ID || !URL.canParse(OIDC_ISSUER)) return null;
  return {
    issuer: new URL(OIDC_ISSUER),
    clientId: OIDC_CLIENT_ID,
    secret: OIDC_CLIENT_SECRET || undefined,
    claim: OIDC_CLAIM || 'sub',
    name: OIDC_NAME || 'the plant',
  };
}

/** How long the provider is waited for, seconds. */
const PATIENCE = 8;
const LOOPBACK = new Set(['127.0.0.1', '[::1]', 'localhost']);
let known: Promise<oidc.Configuration> | null = null;

/** What the provider says of itself; asked once, and again where it did not answer. */
function configuration(settings: Settings): Promise<oidc.Configuration> {
  known ??= oidc
    .discovery(
      settings.issuer,
      settings.clientId,
      settings.secret,
      settings.secret === undefined ? oidc.None() : oidc.ClientSecretPost(settings.secret),
      {
        timeout: PATIENCE,
        // plain http is for a provider on this machine alone
        execute:
          settings.issuer.protocol === 'http:' && LOOPBACK.has(settings.issuer.hostname)
            ? [oidc.allowInsecureRequests]
            : [],
      },
    )
    .catch((error: unknown) => {
      known = null;
      throw error;
    });
  return known;
}

/** What the browser keeps between going to the provider and coming back: nobody else can go on with it. */
export interface Begun {
  verifier: string;
  state: string;
  nonce: string;
  to: string;
}

/** Where to send the browser; null: the provider does not answer. */
export async function beginAtPlant(back: string, to: string): Promise<{ url: URL; begun: Begun } | null> {
  const settings = plantSettings();
  if (!settings) return null;
  try {
    const config = await configuration(settings);
    const begun = {
      verifier: oidc.randomPKCECodeVerifier(),
      state: oidc.randomState(),
      nonce: oidc.randomNonce(),
      to,
    };
    const url = oidc.buildAuthorizationUrl(config, {
      redirect_uri: back,
      scope: 'openid profile',
      code_challenge: await oidc.calculatePKCECodeChallenge(begun.verifier),
      code_challenge_method: 'S256',
      state: begun.state,
      nonce: begun.nonce,
    });
    return { url, begun };
  } catch (error) {
    log.warn({ reason: (error as Error).message }, 'the plant’s sign-in does not answer');
    return null;
  }
}

export type CameBack =
  | { ok: true; person: Person }
  /** Nobody here has that number; or what came back is not what was asked for, or the provider does not answer. */
  | { ok: false; why: 'unknown'; number: string }
  | { ok: false; why: 'refused' };

/** Who came back from the provider. */
export async function cameFromPlant(here: URL, begun: Begun): Promise<CameBack> {
  const settings = plantSettings()!;
  let number: unknown;
  try {
    const tokens = await oidc.authorizationCodeGrant(await configuration(settings), here, {
      pkceCodeVerifier: begun.verifier,
      expectedState: begun.state,
      expectedNonce: begun.nonce,
      idTokenExpected: true,
    });
    number = tokens.claims()?.[settings.claim];
  } catch (error) {
    log.warn({ reason: (error as Error).message, at: cellNow() }, 'the plant’s sign-in was refused');
    return { ok: false, why: 'refused' };
  }
  if (typeof number !== 'string' || number === '') return { ok: false, why: 'refused' };
  const person = await row<Person>(
    pool(),
    'SELECT id, badge, name, role FROM person WHERE plant_number = $1 AND active',
    [number],
  );
  return person ? { ok: true, person } : { ok: false, why: 'unknown', number: number.slice(0, 200) };
}
