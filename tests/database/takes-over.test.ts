import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { lineTo, type Line } from '../support/line.ts';
import { ownCluster } from '../support/own-cluster.ts';
import { answerOf, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';
import { standbyOf } from '../support/standby.ts';

/** A database that waits for a standby before it acknowledges, and is then lost in mid-work. */
let cluster: Awaited<ReturnType<typeof ownCluster>>;
let standby: Awaited<ReturnType<typeof standbyOf>>;
/** The way of the application to the database, and that on which it is copied. */
let line: Line;
let copies: Line;
let server: RunningServer;
let lead: Visitor;
/** For whoever may read the figures of the server. */
let token: string;

beforeAll(async () => {
  cluster = await ownCluster();
  copies = await lineTo('127.0.0.1', Number(new URL(cluster.appUrl).port));
  standby = await standbyOf(cluster, { name: 'one', over: copies });
  line = await lineTo('127.0.0.1', Number(new URL(cluster.appUrl).port));
  const database = new URL(cluster.appUrl);
  database.port = String(line.port);
  server = await startServer(database.href, { STANDBY_WAIT_MS: '3000', LOG_LEVEL: 'silent' });
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  const { data } = await answerOf(
    await lead.send('/connections?/token', { name: 'Watch', scopes: 'figures:read' }),
  );
  token = /tin_[\w-]+/.exec(data)![0];
}, 150_000);
afterAll(async () => {
  await server.stop('SIGKILL');
  await line.cut();
  await copies.cut();
  standby.remove();
  cluster.remove();
});

async function onFirst(sql: string): Promise<object[]> {
  const client = new pg.Client({ connectionString: cluster.superUrl });
  await client.connect();
  try {
    return (await client.query<object>(sql)).rows;
  } finally {
    await client.end();
  }
}
async function waitsFor(names: string): Promise<void> {
  await onFirst(`ALTER SYSTEM SET synchronous_standby_names = '${names}'`);
  await onFirst('SELECT pg_reload_conf()');
}
/** Until the standby is one whose word is waited for. */
const confirms = () =>
  until(async () => {
    const found = await onFirst(
      `SELECT 1 FROM pg_stat_replication WHERE sync_state = 'quorum' AND state = 'streaming'`,
    );
    return found.length === 1;
  });
const note = (text: string, key: string) =>
  lead
    .send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text, key })
    .then(answerOf)
    .catch(() => null);
const kept = async (texts: readonly string[]) =>
  standby.rows<{ text: string; entries: number }>(
    `SELECT n.text, (SELECT count(*)::integer FROM ledger l WHERE l.said = 'Note: ' || n.text) AS entries FROM leaf_note n WHERE n.text = ANY($1)`,
    [texts],
  );
/** Acts that stand in the database alone, as the server tells whoever may read its figures. */
async function writtenAlone(): Promise<number> {
  const answer = await fetch(`${server.url}/metrics`, { headers: { authorization: `Bearer ${token}` } });
  return Number(/^tin_written_alone_total (\d+)$/m.exec(await answer.text())![1]);
}

it('while the standby is away acts are done all the same, a little later, and it is told that they stand here alone', async () => {
  await waitsFor('ANY 1 (one)');
  await confirms();
  const before = await writtenAlone();
  expect(await note('with a standby', randomUUID())).toMatchObject({ type: 'success' });
  expect(await writtenAlone()).toBe(before);
  standby.stop();
  expect(await note('without', randomUUID())).toMatchObject({ type: 'success' });
  expect(await writtenAlone()).toBe(before + 1);
  standby.start();
  await confirms();
  expect(await note('with one again', randomUUID())).toMatchObject({ type: 'success' });
  expect(await writtenAlone()).toBe(before + 1);
  // what it had not confirmed came to it when it was back
  expect((await kept(['with a standby', 'without', 'with one again'])).map(({ entries }) => entries)).toEqual(
    [1, 1, 1],
  );
}, 60_000);

it('what was acknowledged is in the standby that takes over, once, and what was in doubt is sent again and done once', async () => {
  await waitsFor('ANY 1 (one)');
  await confirms();
  const acknowledged = new Map<string, string>();
  const inDoubt = new Map<string, string>();
  let going = true;
  const worker = async (who: number) => {
    for (let i = 0; going; i += 1) {
      const [text, key] = [`lost or kept ${who}.${i}`, randomUUID()];
      const answer = await note(text, key);
      (answer?.type === 'success' ? acknowledged : inDoubt).set(text, key);
      if (answer?.type !== 'success') await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };
  const work = Promise.all([1, 2, 3, 4].map(worker));
  await until(() => acknowledged.size > 60, 60_000);
  // what is copied is lost on its way: nothing is acknowledged that the standby has not got
  copies.hush();
  await new Promise((resolve) => setTimeout(resolve, 700));
  // its machine burns: nothing is written to any line any more, and nothing of what it had is to be had
  cluster.stop('immediate');
  await line.cut();
  going = false;
  await work;
  expect(inDoubt.size).toBeGreaterThan(0);
  standby.promote();
  line.turnTo(standby.port);
  await line.mend();
  const found = await kept([...acknowledged.keys()]);
  expect(found.map(({ text }) => text).sort()).toEqual([...acknowledged.keys()].sort());
  expect(found.filter(({ entries }) => entries !== 1)).toEqual([]);
  // a device sends what it had no answer to, under the key that it had
  await until(async () => (await lead.get('/machines')).status === 200, 60_000);
  for (const [text, key] of inDoubt) expect(await note(text, key)).toMatchObject({ type: 'success' });
  const again = await kept([...inDoubt.keys()]);
  expect(again).toHaveLength(inDoubt.size);
  expect(again.filter(({ entries }) => entries !== 1)).toEqual([]);
  expect(await standby.rows('SELECT * FROM ledger_disagreement')).toEqual([]);
}, 150_000);
