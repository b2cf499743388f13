import { databaseIsAway, databaseIsBusy } from './db.ts';
import { Busy } from './gate.ts';
import { toldToComeAgain } from './metrics.ts';

/** What every answer says to a browser. */
export const HEADERS: Record<string, string> = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=()',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
};

/** Why an answer comes later, and what to say of it. */
export const LATER = {
  away: {
    message: 'The database is away.',
    title: 'The database is away',
    words: 'Nothing that was confirmed is lost.',
  },
  busy: {
    message: 'The server is busy.',
    title: 'The server is busy',
    words: 'More is asked of it at once than it can answer. Nothing that was confirmed is lost.',
  },
} as const;
export type Trouble = keyof typeof LATER;

/** What stands behind an error where it will be over in a moment; null: something else does. */
export function troubleOf(error: unknown): Trouble | null {
  if (databaseIsAway(error)) return 'away';
  return error instanceof Busy || databaseIsBusy(error) ? 'busy' : null;
}

/** Those who were sent away come back, and not all at the same moment. */
const again = (trouble: Trouble) => (trouble === 'away' ? 3 : 2 + Math.floor(Math.random() * 4));

const laterPage = (
  { title, words }: (typeof LATER)[Trouble],
  seconds: number,
) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="refresh" content="${seconds}"><title>${title}</title><link rel="stylesheet" href="/away.css"></head>
<body><main><h1>${title}</h1><p>${words} This page tries again every few seconds and goes on by itself.</p></main></body></html>`;

export function later(request: Request, trouble: Trouble): Response {
  const seconds = again(trouble);
  toldToComeAgain(trouble);
  const wantsPage = request.headers.get('accept')?.includes('text/html');
  const headers = {
    ...HEADERS,
    'retry-after': String(seconds),
    'cache-control': 'no-store',
    'content-security-policy': "default-src 'none'; style-src 'self'",
  };
  if (wantsPage)
    return new Response(laterPage(LATER[trouble], seconds), {
      status: 503,
      headers: { ...headers, 'content-type': 'text/html; charset=utf-8' },
    });
  const fault = { message: LATER[trouble].message, code: trouble };
  // a form's own answer has the framework's shape for a fault, or its page would take it for an answer
  const asked = request.headers.get('x-sveltekit-action') === 'true';
  return Response.json(asked ? { type: 'error', error: fault } : fault, { status: 503, headers });
}
