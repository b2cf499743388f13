import { databaseState } from '$server/db';

const SAID = {
  ready: 'ready\n',
  away: 'the database is away\n',
  behind: 'the database is older than this program: npm run upgrade\n',
} as const;

/** The process can serve: the database answers and stands on what this build needs. */
export const GET = async () => {
  const state = await databaseState();
  return new Response(SAID[state], {
    status: state === 'ready' ? 200 : 503,
    headers: { 'content-type': 'text/plain', 'cache-control': 'no-store' },
  });
};
