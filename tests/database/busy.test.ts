import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { asSuperuser, freshDatabase, type TestDatabase } from '../support/databases.ts';
import { answerOf, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';

/** A process with two lines to its database, and a table that somebody holds: everything that asks for it waits. */
let database: TestDatabase;
let server: RunningServer;
let lead: Visitor;
let holder: pg.Client;

beforeAll(async () => {
  database = await freshDatabase('tin_demo');
  server = await startServer(database.appUrl, {
    POOL_SIZE: '2',
    POOL_WAIT_MS: '1000',
    CONNECT_TIMEOUT_MS: '1000',
  });
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  holder = new pg.Client({ connectionString: database.ownerUrl });
  await holder.connect();
});
afterAll(async () => {
  await holder.end();
  await server.stop();
});

/** Seen as whoever may see what others wait for. */
const waitingForLock = () =>
  asSuperuser(
    async (client) =>
      (
        await client.query<{ waiting: number }>(
          `SELECT count(*)::integer AS waiting FROM pg_stat_activity WHERE datname = $1 AND wait_event_type = 'Lock'`,
          [database.name],
        )
      ).rows[0]!.waiting,
  );

it('a pool in use is not a database that is away: pages wait their turn or are told that the server is busy', async () => {
  await holder.query('BEGIN');
  await holder.query('LOCK TABLE machine IN ACCESS EXCLUSIVE MODE');
  const asked = Array.from({ length: 40 }, () =>
    lead.get('/machines').then(async (a) => [a.status, await a.text()]),
  );
  await until(async () => (await waitingForLock()) === 2);
  // both lines are taken: whoever watches over the process is not told that it is of no use
  expect((await lead.get('/readyz')).status).toBe(200);
  // an act waits for a line of its own, and is refused in a sentence: nothing of it was begun
  const act = await lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text: 'held up' });
  expect(act.status).toBe(503);
  expect(await answerOf(act)).toMatchObject({ error: { code: 'busy', message: 'The server is busy.' } });
  await holder.query('COMMIT');
  const answers = await Promise.all(asked);
  for (const [status, text] of answers) {
    expect([200, 503]).toContain(status);
    expect(text).not.toContain('The database is away');
    if (status === 503) expect(text).toContain('The server is busy');
  }
  expect(answers.some(([status]) => status === 200)).toBe(true);
  // as soon as there is room, all is as it was
  expect((await lead.get('/machines')).status).toBe(200);
  const again = await lead.send('/leaf/2026-11-23/late?/note', {
    kind: 'note',
    machine: '',
    text: 'held up',
  });
  expect(await answerOf(again)).toMatchObject({ type: 'success' });
  const { rows } = await holder.query(
    `SELECT count(*)::integer AS notes FROM leaf_note WHERE text = 'held up'`,
  );
  expect(rows).toEqual([{ notes: 1 }]);
});

it('the data of an open page that were held up are asked for again, and are had', async () => {
  await holder.query('BEGIN');
  await holder.query('LOCK TABLE machine IN ACCESS EXCLUSIVE MODE');
  const asked = Array.from({ length: 4 }, () => lead.get('/machines/__data.json', '*/*'));
  await until(async () => (await waitingForLock()) === 2);
  const late = await lead.get('/machines/__data.json', '*/*');
  // the page that is open waits for an answer that says so, and keeps what stands on it
  expect(late.status).toBe(503);
  expect(Number(late.headers.get('retry-after'))).toBeGreaterThanOrEqual(2);
  await holder.query('COMMIT');
  await Promise.all(asked);
  expect((await lead.get('/machines/__data.json', '*/*')).status).toBe(200);
});
