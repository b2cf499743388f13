/** The process is alive. */
export const GET = () =>
  new Response('ok\n', { headers: { 'content-type': 'text/plain', 'cache-control': 'no-store' } });
