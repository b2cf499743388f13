import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventStream } from '../../src/server/event-stream.ts';
import { asSuperuser, freshDatabase, type TestDatabase } from '../support/databases.ts';
import { hear } from '../support/hearing.ts';
import { answerOf, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';

let database: TestDatabase;
let servers: RunningServer[];
let visitors: Visitor[];
let client: pg.Client;
const BACK = '{"kind":"back"}';
const LEAF = '{"kind":"leaf","machine":null}';

beforeAll(async () => {
  database = await freshDatabase('tin_demo');
  servers = [await startServer(database.appUrl), await startServer(database.appUrl)];
  visitors = await Promise.all(
    servers.map(async (server) => {
      const visitor = new Visitor(server.url);
      await visitor.enter(...PINS.lead!);
      return visitor;
    }),
  );
  client = new pg.Client({ connectionString: database.ownerUrl });
  await client.connect();
});
afterAll(async () => {
  await client.end();
  for (const server of servers) await server.stop();
});

let written = 0;
async function note(by = visitors[0]!, key: string = randomUUID()): Promise<void> {
  const answer = await by.send('/leaf/2026-11-23/late?/note', {
    key,
    kind: 'note',
    machine: '',
    text: `live ${(written += 1)}`,
  });
  expect(await answerOf(answer)).toMatchObject({ type: 'success' });
}
const lastEntry = async () =>
  (await client.query<{ last: number }>('SELECT max(id)::integer AS last FROM ledger')).rows[0]!.last;
/** Up to where a process says that it has told all. */
async function toldUpTo(at: number): Promise<number> {
  const stream = await hear(visitors[at]!, servers[at]!.url);
  await until(() => stream.id() !== '');
  stream.stop();
  return Number(stream.id());
}
/** A stream that has told what was missed: what comes from now on is told once. */
async function heardAll(at: number, path: string, after?: string) {
  const stream = await hear(visitors[at]!, servers[at]!.url, path, after);
  await until(() => stream.id() !== '');
  return stream;
}
const subjects = (told: readonly string[]) => told.filter((line) => !line.startsWith('{"kind":"state"'));

describe('what a page hears', () => {
  it('an entry made on one process is heard on every other', async () => {
    const streams = await Promise.all(servers.map((server, i) => hear(visitors[i]!, server.url)));
    await note();
    for (const { told } of streams) await until(() => told.includes(LEAF));
    // with as much of the key of its act as its own page knows it by, and no more
    const key = randomUUID();
    await note(visitors[0], key);
    for (const { acts } of streams) await until(() => acts.has(key.slice(0, 8)));
    streams.forEach(({ stop }) => stop());
  });

  it('what happened between its data and its stream is told first, each subject once, and nothing else', async () => {
    const before = await lastEntry();
    for (let i = 0; i < 5; i += 1) await note();
    const stream = await hear(visitors[1]!, servers[1]!.url, `/live?from=${before}`);
    await until(() => stream.told.length > 0);
    expect(subjects(stream.told)).toEqual([LEAF]);
    stream.stop();
    const none = await heardAll(1, `/live?from=${await lastEntry()}`);
    await note();
    await until(() => none.told.length > 0);
    expect(subjects(none.told)).toEqual([LEAF]);
    none.stop();
  });

  it('who does not know what was heard last, or says what cannot be, asks for everything', async () => {
    for (const from of ['0', '-4', 'abc', '99999999999', '1; DROP TABLE ledger']) {
      const stream = await hear(visitors[0]!, servers[0]!.url, `/live?from=${encodeURIComponent(from)}`);
      await until(() => stream.told.includes(BACK));
      stream.stop();
    }
  });

  it('a stream that broke off goes on where it was: killed with its process, and taken up at another', async () => {
    await until(async () => (await toldUpTo(1)) >= (await lastEntry()));
    const stream = await heardAll(1, '/live');
    await servers[1]!.stop('SIGKILL');
    await until(stream.over);
    // nothing happened meanwhile: nothing is asked for
    const quiet = await heardAll(0, '/live?from=1', stream.id());
    await note();
    await until(() => quiet.told.includes(LEAF));
    expect(subjects(quiet.told)).toEqual([LEAF]);
    quiet.stop();
    // one entry happened meanwhile: one subject is told
    const late = await hear(visitors[0]!, servers[0]!.url, '/live', stream.id());
    await until(() => late.told.includes(LEAF));
    expect(late.told).not.toContain(BACK);
    late.stop();
    servers[1] = await startServer(database.appUrl, {}, Number(new URL(servers[1]!.url).port));
  });

  it('a process whose line to the database is cut hears what happened meanwhile, entry by entry', async () => {
    await until(async () => (await toldUpTo(1)) >= (await lastEntry()));
    const stream = await heardAll(1, `/live?from=${await lastEntry()}`);
    const heard = stream.told.length;
    // both processes lose their lines at once, and what is written meanwhile rings for nobody
    await asSuperuser((admin) =>
      admin.query(
        `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1 AND pid <> pg_backend_pid() AND query ~ 'LISTEN|pg_snapshot_xmin'`,
        [database.name],
      ),
    );
    await note();
    await until(() => stream.told.length > heard && stream.told.includes(LEAF));
    expect(subjects(stream.told)).not.toContain(BACK);
    stream.stop();
  });

  it('whoever signs out hears nothing more, on any process', async () => {
    const leaving = new Visitor(servers[0]!.url);
    await leaving.enter(...PINS.setter!);
    const other = await hear(leaving, servers[1]!.url);
    await leaving.send('/sign-in?/leave', {});
    await until(other.over);
    await expect(hear(leaving, servers[1]!.url)).rejects.toThrow(/401|303/);
  });

  it('a page that does not read is left behind, and asks for everything when it reads again', async () => {
    let tell = (_: string) => {};
    const { body } = eventStream('no such session', {
      hear: (send) => {
        tell = send;
        return () => {};
      },
      missed: async () => [],
    });
    for (let i = 0; i < 2000; i += 1) tell(`{"kind":"leaf","machine":${i}}`);
    const reader = body!.getReader();
    const decoder = new TextDecoder();
    let text = '';
    while (!text.includes(BACK)) text += decoder.decode((await reader.read()).value);
    expect(text.match(/"kind":"leaf"/g)!.length).toBeLessThan(2000);
    // and hears on
    tell('{"kind":"leaf","machine":7}');
    expect(decoder.decode((await reader.read()).value)).toContain('"machine":7');
    await reader.cancel();
  });
});
