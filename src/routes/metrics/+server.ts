import { registry } from '$server/metrics';
import { tokenOf } from '$server/api/tokens';
import type { RequestHandler } from './$types';

/** The figures of this process and of the cell, for whoever watches over them: with a token that may read them. */
export const GET: RequestHandler = async ({ request }) => {
  const token = await tokenOf(request.headers.get('authorization'));
  if (!token)
    return new Response('A token is needed, and this is none.\n', {
      status: 401,
      headers: { 'www-authenticate': 'Bearer' },
    });
  if (!token.scopes.includes('figures:read'))
    return new Response(`The token of ${token.name} may not figures:read.\n`, { status: 403 });
  return new Response(await registry.metrics(), {
    headers: { 'content-type': registry.contentType, 'cache-control': 'no-store' },
  });
};
