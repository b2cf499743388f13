import { afterAll, beforeAll, expect, it } from 'vitest';
import { hear } from '../support/hearing.ts';
import { lineTo, type Line } from '../support/line.ts';
import { ownCluster } from '../support/own-cluster.ts';
import { answerOf, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';
import { standbyOf } from '../support/standby.ts';

/** A cluster of this file's own, with a streaming replica of it, which is stopped, held up and lost here. */
let cluster: Awaited<ReturnType<typeof ownCluster>>;
let replica: Awaited<ReturnType<typeof standbyOf>>;
let server: RunningServer;
let line: Line;
let lead: Visitor;

beforeAll(async () => {
  cluster = await ownCluster();
  replica = await standbyOf(cluster);
  // as in a plant, whose database has an address that follows it
  line = await lineTo('127.0.0.1', Number(new URL(cluster.appUrl).port));
  const database = new URL(cluster.appUrl);
  database.port = String(line.port);
  server = await startServer(database.href, {
    DATABASE_REPLICA_URL: replica.appUrl,
    REPLICA_ALONE_MS: '1500',
  });
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
}, 150_000);
afterAll(async () => {
  await server.stop('SIGKILL');
  await line.cut();
  replica.remove();
  cluster.remove();
});

const onReplica = <R>(sql: string) => replica.rows<R>(sql);
/** Rows that were read there so far, of the ledger. */
const readThere = async () => {
  await onReplica('SELECT pg_stat_clear_snapshot()');
  const [found] = await onReplica<{ n: number }>(
    `SELECT (coalesce(seq_tup_read, 0) + coalesce(idx_tup_fetch, 0))::float8 AS n FROM pg_stat_user_tables WHERE relname = 'ledger'`,
  );
  return found!.n;
};
let written = 0;
async function note(): Promise<string> {
  const text = `copied ${(written += 1)}`;
  const answer = await lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text });
  expect(await answerOf(answer)).toMatchObject({ type: 'success' });
  return text;
}
const ledger = async () => {
  const answer = await lead.get('/ledger');
  expect(answer.status).toBe(200);
  return answer.text();
};
const csv = async () => (await lead.get('/ledger/csv')).text();
/** A replica that was left alone is tried again after a while. */
const again = () => new Promise((resolve) => setTimeout(resolve, 1700));

it('what lies in the past is read from the replica, and what must be current is not', async () => {
  const text = await note();
  await until(async () => (await onReplica(`SELECT 1 FROM leaf_note WHERE text = '${text}'`)).length === 1);
  // what was told is known a look later
  await new Promise((resolve) => setTimeout(resolve, 2500));
  const before = await readThere();
  expect(await ledger()).toContain(text);
  expect(await csv()).toContain(text);
  await until(async () => (await readThere()) > before + 1000);
  const after = await readThere();
  for (const path of ['/machines/1/now', '/today', '/corrections'])
    expect((await lead.get(path)).status).toBe(200);
  await new Promise((resolve) => setTimeout(resolve, 1500));
  expect(await readThere()).toBeLessThan(after + 10);
});

it('a replica that lags is not believed: whatever was told is on the page', async () => {
  await onReplica('SELECT pg_wal_replay_pause()');
  const text = await note();
  // from when it was told to every page on
  await new Promise((resolve) => setTimeout(resolve, 3000));
  expect(await onReplica(`SELECT 1 FROM leaf_note WHERE text = '${text}'`)).toEqual([]);
  expect(await ledger()).toContain(text);
  expect(await csv()).toContain(text);
  await onReplica('SELECT pg_wal_replay_resume()');
  await until(async () => (await onReplica(`SELECT 1 FROM leaf_note WHERE text = '${text}'`)).length === 1);
  await again();
  const before = await readThere();
  expect(await ledger()).toContain(text);
  await until(async () => (await readThere()) > before);
}, 60_000);

it('a replica that is stopped, killed or comes back troubles nobody', async () => {
  replica.stop();
  const text = await note();
  const asked = await Promise.all(Array.from({ length: 8 }, () => lead.get('/ledger')));
  expect(asked.map(({ status }) => status)).toEqual(Array.from({ length: 8 }, () => 200));
  await until(async () => (await ledger()).includes(text), 10_000);
  replica.start();
  await until(async () => (await onReplica(`SELECT 1 FROM leaf_note WHERE text = '${text}'`)).length === 1);
  await again();
  expect(await ledger()).toContain(text);
}, 120_000);

it('a replica that was made a database of its own is not believed; where it takes the place of the first, pages ask for all they show', async () => {
  await again();
  replica.promote();
  const text = await note();
  await new Promise((resolve) => setTimeout(resolve, 3000));
  expect(await ledger()).toContain(text);
  expect(await onReplica(`SELECT 1 FROM leaf_note WHERE text = '${text}'`)).toEqual([]);

  // the database is lost, and what was promoted takes its place: the last note is lost with it, for it was never copied
  const first = await hear(lead, server.url, '/live');
  await until(() => first.id().includes('.'), 20_000);
  const heardLast = first.id();
  first.stop();
  const page = await hear(lead, server.url, '/live', heardLast);
  await until(() => page.id() === heardLast, 20_000);
  expect(page.told).not.toContain('{"kind":"back"}');
  await line.cut();
  cluster.stop('immediate');
  line.turnTo(replica.port);
  await line.mend();
  let after = '';
  await until(async () => (after = await note().catch(() => '')) !== '', 60_000);
  expect(await ledger()).toContain(after);
  expect(await ledger()).not.toContain(text);
  // entries have other numbers there, and the newest is past what was heard: an open page asks for all that it shows
  await until(() => page.told.includes('{"kind":"back"}'), 20_000);
  const [last] = await onReplica<{ id: number }>('SELECT max(id)::float8 AS id FROM ledger');
  expect(last!.id).toBeGreaterThan(Number.parseInt(heardLast, 10));
  // and so does one that comes back later, with what it heard on the old line
  const late = await hear(lead, server.url, '/live', heardLast);
  await until(() => late.told.includes('{"kind":"back"}'), 20_000);
  // what is told on the new line is told by its numbers again
  await until(() => late.id().includes('.') && late.id() !== heardLast, 20_000);
  expect(late.id().split('.')[1]).not.toBe(heardLast.split('.')[1]);
  const same = await hear(lead, server.url, '/live', late.id());
  const fresh = await note();
  expect(fresh).not.toBe('');
  await until(() => same.told.includes('{"kind":"leaf","machine":null}'), 20_000);
  expect(same.told).not.toContain('{"kind":"back"}');
  for (const stream of [page, late, same]) stream.stop();
}, 150_000);
