import { createHash } from 'node:crypto';
import { ENDPOINTS, type EndpointName } from '$core/api/contract';
import { WORK } from '$server/api/endpoints';
import { tokenOf } from '$server/api/tokens';
import type { Asking } from '$server/once';
import type { Outcome } from '$server/outcome';
import type { RequestEvent } from '@sveltejs/kit';

const fault = (status: number, message: string, headers: Record<string, string> = {}) =>
  Response.json({ message }, { status, headers });

/** A key of ours from one that somebody chose: of a token, so that two systems cannot meet in one. */
function keyOf(token: number, chosen: string): string {
  const hash = createHash('sha256').update(`${token} ${chosen}`).digest('hex');
  return [8, 4, 4, 4, 12]
    .reduce<{ parts: string[]; at: number }>(
      ({ parts, at }, length) => ({ parts: [...parts, hash.slice(at, at + length)], at: at + length }),
      { parts: [], at: 0 },
    )
    .parts.join('-');
}

async function answer({ request, params, url }: RequestEvent): Promise<Response> {
  const path = `/${params.path}`;
  const method = request.method.toLowerCase();
  const here = Object.entries(ENDPOINTS).filter(([, endpoint]) => endpoint.path === path);
  if (here.length === 0) return fault(404, 'There is nothing here. What there is says /api/openapi.json.');
  const found = here.find(([, endpoint]) => endpoint.method === method);
  if (!found) return fault(405, `This is asked by ${here.map(([, each]) => each.method).join(' or ')}.`);
  const [name, endpoint] = found;
  const token = await tokenOf(request.headers.get('authorization'));
  if (!token) return fault(401, 'A token is needed, and this is none.', { 'www-authenticate': 'Bearer' });
  if (!token.scopes.includes(endpoint.scope))
    return fault(403, `The token of ${token.name} may not ${endpoint.scope}.`);
  const chosen = request.headers.get('idempotency-key') ?? '';
  if (method === 'post' && (chosen.length < 1 || chosen.length > 100))
    return fault(400, 'A write needs an Idempotency-Key of 1 to 100 characters.');
  const sent: unknown =
    method === 'post'
      ? await request.json().catch(() => undefined)
      : Object.fromEntries(url.searchParams.entries());
  if (sent === undefined) return fault(400, 'What was sent is no JSON.');
  if (JSON.stringify(sent).includes('\\u0000'))
    return fault(400, 'It contains a character that is not text.');
  const read = endpoint.takes.strict().safeParse(sent);
  if (!read.success)
    return fault(
      400,
      read.error.issues.map(({ path: at, message }) => `${at.join('.') || 'it'}: ${message}`).join('; '),
    );
  const asking: Asking = { key: keyOf(token.id, chosen), personId: token.personId };
  const work = WORK[name as EndpointName] as (input: unknown, asking: Asking) => Promise<Outcome<object>>;
  const outcome = await work(read.data, asking);
  return outcome.ok ? Response.json(outcome.value) : fault(409, outcome.reason);
}

export const GET = answer;
export const POST = answer;
export const PUT = answer;
export const PATCH = answer;
export const DELETE = answer;
