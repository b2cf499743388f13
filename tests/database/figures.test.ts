import { readFileSync } from 'node:fs';
import { parse } from 'yaml';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeToken } from '../../src/server/api/tokens.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { as, done, weirside } from '../support/cell.ts';
import { asSuperuser } from '../support/databases.ts';
import { hear } from '../support/hearing.ts';
import { ONE_LINE, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let server: RunningServer;
let lead: Visitor;
let token: string;

beforeAll(async () => {
  cell = await weirside();
  server = await startServer(cell.database.appUrl);
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  token = done(await makeToken(as(cell.lead), { name: 'Watch', scopes: ['figures:read'] })).token!;
});
afterAll(async () => {
  await server.stop();
  await closePool();
});

const ask = (path: string, headers: Record<string, string> = {}) =>
  fetch(server.url + path, { headers: { ...ONE_LINE, ...headers } });
/** The figures by their names with labels, read by the rules of the text format: a name, labels, a number, or none yet. */
async function figures(): Promise<Map<string, number>> {
  const answer = await ask('/metrics', { authorization: `Bearer ${token}` });
  expect(answer.status).toBe(200);
  expect(answer.headers.get('content-type')).toContain('text/plain');
  const found = new Map<string, number>();
  for (const line of (await answer.text()).split('\n').filter((each) => each && !each.startsWith('#'))) {
    const read = /^([a-zA-Z_:][\w:]*(?:\{.*\})?) ([Nn]a[Nn]|[-+]?(?:Inf|[\d.e+-]+))$/.exec(line);
    expect(read, line).not.toBeNull();
    found.set(read![1]!, Number(read![2]));
  }
  return found;
}

describe('the figures of a server', () => {
  it('are for whoever has a token for them, and for nobody else', async () => {
    expect((await ask('/metrics')).status).toBe(401);
    expect((await ask('/metrics', { cookie: lead.cookie })).status).toBe(401);
    const other = done(await makeToken(as(cell.lead), { name: 'Other', scopes: ['ledger:read'] })).token!;
    expect((await ask('/metrics', { authorization: `Bearer ${other}` })).status).toBe(403);
  });

  it('count what was asked, what of it was SQL, and who listens', async () => {
    const before = await figures();
    const route = 'tin_request_seconds_count{method="GET",route="/machines",status="200"}';
    for (let i = 0; i < 3; i += 1) await (await lead.get('/machines')).text();
    const stream = await hear(lead, server.url);
    await until(async () => (await figures()).get('tin_live_listeners')! > before.get('tin_live_listeners')!);
    stream.stop();
    const after = await figures();
    expect(after.get(route)! - (before.get(route) ?? 0)).toBe(3);
    // each page asks the database at least once
    expect(after.get('tin_sql_seconds_count')! - before.get('tin_sql_seconds_count')!).toBeGreaterThan(3);
    await until(async () => (await figures()).get('tin_live_listeners') === before.get('tin_live_listeners'));
  });

  it('say that the ledger adds up, how old the last backup is, and how far behind another system is', async () => {
    const now = await figures();
    expect(now.get('tin_ledger_disagreements')).toBe(0);
    expect(now.get('tin_backup_age_seconds')).toBeGreaterThan(1e9);
    expect(now.get('tin_webhook_behind_seconds')).toBe(0);
    const owner = (sql: string) => asSuperuser((client) => client.query(sql), cell.database.name);
    await owner(
      `INSERT INTO backup (at, file, bytes, sha256, entry) VALUES (now() - interval '1 hour', 'x', 1, repeat('0', 64), 1)`,
    );
    await owner(
      `INSERT INTO webhook (url, kinds, secret, made_by, told) SELECT 'http://127.0.0.1:9/', ARRAY[kind], 'x', (SELECT min(id) FROM person), id - 1 FROM ledger ORDER BY id DESC LIMIT 1`,
    );
    const then = await figures();
    expect(then.get('tin_backup_age_seconds')).toBeGreaterThanOrEqual(3600);
    expect(then.get('tin_backup_age_seconds')).toBeLessThan(3700);
    expect(then.get('tin_webhook_behind_seconds')).toBeGreaterThan(0);
  });

  it('are all that the rules for waking somebody speak of', async () => {
    const { groups } = parse(readFileSync(new URL('../../docs/alerts.yml', import.meta.url), 'utf8')) as {
      groups: { rules: { alert: string; expr: string; annotations: { do: string } }[] }[];
    };
    const rules = groups.flatMap((group) => group.rules);
    expect(rules.length).toBeGreaterThan(5);
    // whoever is turned away once is counted from then on
    const known = await (await ask('/metrics', { authorization: `Bearer ${token}` })).text();
    for (const { alert, expr, annotations } of rules) {
      expect(annotations.do, alert).toMatch(/\w/);
      const names = expr.match(/\b(?:tin|nodejs|process)_\w+/g)!;
      for (const name of names) expect(known, alert).toContain(name.replace(/_bucket$/, ''));
    }
  });
});

describe('a request', () => {
  it('has an id, its proxy’s where that gave one, which the answer, the page of a fault and the log say', async () => {
    expect((await ask('/healthz')).headers.get('x-request-id')).toMatch(/^[\w-]{8,}$/);
    const id = 'proxy-1234567';
    expect((await ask('/healthz', { 'x-request-id': id })).headers.get('x-request-id')).toBe(id);
    for (const bad of ['short', 'with space in it', '<script>alert(1)</script>'])
      expect((await ask('/healthz', { 'x-request-id': bad })).headers.get('x-request-id')).not.toBe(bad);
    // a fault of our own: a view that the page needs is gone for a moment
    await asSuperuser(
      (client) => client.query('ALTER TABLE machine_state RENAME TO gone'),
      cell.database.name,
    );
    try {
      const answer = await ask('/machines', { cookie: lead.cookie, accept: 'text/html', 'x-request-id': id });
      expect(answer.status).toBe(500);
      expect(await answer.text()).toContain(id);
      // what can still be told is told
      const left = await figures();
      expect(left.has('tin_live_listeners')).toBe(true);
      expect([...left.keys()].some((name) => name.startsWith('tin_poll_age'))).toBe(false);
    } finally {
      await asSuperuser(
        (client) => client.query('ALTER TABLE gone RENAME TO machine_state'),
        cell.database.name,
      );
    }
    expect((await pool().query('SELECT 1 FROM machine_state LIMIT 1')).rowCount).toBeGreaterThanOrEqual(0);
  });
});
