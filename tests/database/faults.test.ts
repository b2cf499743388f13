import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ownCluster } from '../support/own-cluster.ts';
import { answerOf, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';

/** A PostgreSQL of this file's own, with fsync on as in the shop, because it is killed here. */
let cluster: Awaited<ReturnType<typeof ownCluster>>;
let server: RunningServer;
let port: number;
let lead: Visitor;

beforeAll(async () => {
  cluster = await ownCluster();
  server = await startServer(cluster.appUrl);
  port = Number(new URL(server.url).port);
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
}, 150_000);
afterAll(async () => {
  await server.stop('SIGKILL');
  cluster.remove();
});

async function asked<R>(sql: string, values: unknown[] = []): Promise<R[]> {
  const client = new pg.Client({ connectionString: cluster.appUrl });
  await client.connect();
  try {
    return (await client.query(sql, values)).rows as R[];
  } finally {
    await client.end();
  }
}

let written = 0;
/** Writes notes one after the other until told to stop; answers with those that were acknowledged. */
function writing() {
  const acknowledged: string[] = [];
  let going = true;
  const worker = async () => {
    while (going) {
      const text = `note ${(written += 1)}`;
      const answer = await lead
        .send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text })
        .then(answerOf)
        .catch(() => null);
      if (answer?.type === 'success') acknowledged.push(text);
      else if (answer === null) await new Promise((resolve) => setTimeout(resolve, 20));
    }
  };
  const workers = Promise.all([worker(), worker(), worker()]);
  return { acknowledged, stop: () => ((going = false), workers) };
}

async function everythingIsThere(acknowledged: string[]) {
  const kept = await asked<{ text: string; entries: number }>(
    `SELECT n.text, (SELECT count(*)::integer FROM ledger l WHERE l.said = 'Note: ' || n.text) AS entries FROM leaf_note n WHERE n.text = ANY($1)`,
    [acknowledged],
  );
  expect(kept.map((note) => note.text).sort()).toEqual([...acknowledged].sort());
  expect(kept.every((note) => note.entries === 1)).toBe(true);
  expect(await asked('SELECT * FROM ledger_disagreement')).toEqual([]);
}

const killPostgres = () =>
  process.kill(Number(readFileSync(join(cluster.data, 'postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL');
async function postgresAgain() {
  await until(() => {
    try {
      cluster.start();
      return true;
    } catch {
      return false;
    }
  }, 30_000);
}

describe('what was acknowledged is kept', () => {
  it('when the server is killed in mid-work', async () => {
    const work = writing();
    await until(() => work.acknowledged.length > 25);
    server.child.kill('SIGKILL');
    await until(() => server.child.signalCode !== null);
    await work.stop();
    await everythingIsThere(work.acknowledged);
    server = await startServer(cluster.appUrl, {}, port);
    expect((await lead.get('/machines')).status).toBe(200);
  });

  it('when PostgreSQL is killed in mid-work; the server lives on, says 503 meanwhile, and recovers by itself', async () => {
    const work = writing();
    await until(() => work.acknowledged.length > 25);
    killPostgres();
    await until(async () => (await lead.get('/machines')).status === 503);
    const away = await lead.get('/machines');
    expect(await away.text()).toContain('The database is away');
    expect(away.headers.get('retry-after')).toBe('3');
    expect((await lead.get('/healthz')).status).toBe(200);
    expect((await lead.get('/readyz')).status).toBe(503);
    const form = await lead.send('/leaf/2026-11-23/late?/note', {
      kind: 'note',
      machine: '',
      text: 'into nothing',
    });
    expect(form.status).toBe(503);
    await postgresAgain();
    await until(async () => (await lead.get('/machines')).status === 200, 15_000);
    await work.stop();
    expect(server.child.exitCode).toBeNull();
    await everythingIsThere(work.acknowledged);
  });

  it('a restart while every connection is idle ends nothing, and live events come back', async () => {
    const control = new AbortController();
    let heard = '';
    const stream = await fetch(`${server.url}/live`, {
      headers: { cookie: lead.cookie },
      signal: control.signal,
    });
    const reading = (async () => {
      for await (const part of stream.body!.pipeThrough(new TextDecoderStream())) heard += part;
    })().catch(() => undefined);
    cluster.stop('fast');
    cluster.start();
    await until(async () => (await lead.get('/machines')).status === 200, 15_000);
    await until(async () => {
      await lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text: 'still there?' });
      return heard.includes('"kind" : "leaf"');
    }, 15_000);
    expect(server.child.exitCode).toBeNull();
    control.abort();
    await reading;
  });
});
