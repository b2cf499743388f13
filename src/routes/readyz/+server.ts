import { databaseAnswers } from '$server/db';

/** The process can serve: the database answers and is migrated. */
export const GET = async () => {
  const ready = await databaseAnswers();
  return new Response(ready ? 'ready\n' : 'the database is away\n', {
    status: ready ? 200 : 503,
    headers: { 'content-type': 'text/plain', 'cache-control': 'no-store' },
  });
};
