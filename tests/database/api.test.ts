import { execFile } from 'node:child_process';
import { createHmac } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Scope } from '../../src/core/api/contract.ts';
import { SCOPE_NAMES } from '../../src/core/api/contract.ts';
import { settled } from '../../src/server/api/settled.ts';
import { endToken, makeToken } from '../../src/server/api/tokens.ts';
import { makeWebhook, tellOne, webhooks } from '../../src/server/api/webhooks.ts';
import { closePool, pool, row, rows } from '../../src/server/db.ts';
import { writeNote } from '../../src/server/leaf-notes.ts';
import { ONE_LINE, startServer, until, type RunningServer } from '../support/server.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let serving: Promise<RunningServer> | null = null;
let receiver: Server | null = null;
beforeEach(async () => void (cell = await weirside()));
afterEach(async () => {
  await (await serving)?.stop('SIGKILL');
  serving = null;
  receiver?.closeAllConnections();
  receiver?.close();
  receiver = null;
});
afterAll(closePool);

const tokenFor = async (scopes: Scope[] = [...SCOPE_NAMES]) =>
  done(await makeToken(as(cell.lead), { name: `System ${Math.random()}`, scopes })).token!;
async function ask(
  token: string | null,
  path: string,
  body?: object | string,
  key: string = crypto.randomUUID(),
): Promise<{ status: number; said: Record<string, unknown> & { items?: Record<string, unknown>[] } }> {
  // several that ask at once ask one
  const server = await (serving ??= startServer(cell.database.appUrl));
  const answer = await fetch(`${server.url}/api/v1${path}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: {
      ...ONE_LINE,
      ...(token ? { authorization: `Bearer ${token}` } : {}),
      ...(body === undefined ? {} : { 'content-type': 'application/json', 'idempotency-key': key }),
    },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  return { status: answer.status, said: (await answer.json()) as never };
}
const reading = (over: object = {}) => ({
  machine: 'Avocet',
  program: 'O2301',
  feature: 'Body height',
  part: 51,
  value: '36.004',
  unit: 'mm',
  ...over,
});

describe('another system', () => {
  it('without a token, with one that ended, or one that may not, is told so', async () => {
    expect((await ask(null, '/forecast')).status).toBe(401);
    expect((await ask('tin_0123456789012345678901234567', '/forecast')).status).toBe(401);
    const token = await tokenFor(['forecast:read']);
    expect((await ask(token, '/forecast')).status).toBe(200);
    expect((await ask(token, '/ledger')).said.message).toMatch(/may not ledger:read/);
    expect((await ask(token, '/readings', reading())).status).toBe(403);
    const { id } = (await row<{ id: number }>(pool(), 'SELECT max(id) AS id FROM api_token'))!;
    done(await endToken(as(cell.lead), id));
    expect((await ask(token, '/forecast')).status).toBe(401);
    // the one who stands behind it cannot sign in
    const behind = await rows<{ active: boolean; hash: string }>(
      pool(),
      'SELECT p.active, p.pin_hash AS hash FROM person p JOIN api_token t ON t.person_id = p.id',
    );
    expect(behind).toEqual([{ active: false, hash: 'none' }]);
  });

  it('what it cannot say is refused in a sentence, and nothing is written', async () => {
    const token = await tokenFor();
    const before = await cell.count('FROM ledger');
    for (const [body, status, message] of [
      ['{', 400, /no JSON/],
      [[], 400, /expected object/i],
      [reading({ value: 36.004 }), 400, /value/],
      [reading({ value: '36,004' }), 400, /decimal text/],
      [reading({ unit: 'cm' }), 400, /unit/],
      [reading({ colour: 'red' }), 400, /colour/],
      [reading({ machine: 'Avocet\u0000' }), 400, /not text/],
      [reading({ machine: 'Nowhere' }), 409, /no machine Nowhere/],
      [reading({ program: 'O1' }), 409, /no program O1/],
      [reading({ feature: 'Length' }), 409, /no size "Length"/],
      [reading({ machine: 'Curlew', program: 'O1421', feature: 'Flange face' }), 409, /does not run/],
    ] as const) {
      const { status: got, said } = await ask(token, '/readings', body);
      expect([got, said.message], JSON.stringify(body)).toEqual([status, expect.stringMatching(message)]);
    }
    expect((await ask(token, '/readings', reading(), '')).said.message).toMatch(/Idempotency-Key/);
    expect((await ask(token, '/nothing')).status).toBe(404);
    expect((await ask(token, '/parts')).status).toBe(405);
    expect((await ask(token, '/tools')).status).toBe(400);
    expect((await ask(token, '/tables', { machine: 'Avocet', text: 'x'.repeat(1_100_000) })).status).toBe(
      413,
    );
    expect(await cell.count('FROM ledger')).toBe(before);
  });

  it('sends a reading that counts as one that was typed, once however often it comes', async () => {
    const token = await tokenFor();
    const key = 'cmm 0001';
    const all = await Promise.all(Array.from({ length: 5 }, () => ask(token, '/readings', reading(), key)));
    expect(new Set(all.map(({ said }) => said.reading)).size).toBe(1);
    expect(all[0]!.said).toMatchObject({ verdict: 'leave', partOut: false });
    const [kept] = await rows<{ name: string; n: number }>(
      pool(),
      `SELECT p.name, count(*)::integer AS n FROM reading r JOIN person p ON p.id = r.person_id JOIN api_token t ON t.person_id = p.id GROUP BY p.name`,
    );
    expect(kept).toMatchObject({ n: 1, name: expect.stringMatching(/^System/) as string });
    expect((await ask(token, '/readings', reading({ part: 50 }), key)).status).toBe(409);
    // another system's key of the same text is another key
    const other = await tokenFor();
    expect((await ask(other, '/readings', reading({ part: 50 }), key)).status).toBe(200);
    // a measuring machine sends what it measured an hour ago, and what it measured of the job before
    const ago = (hours: number) => new Date(Date.now() - hours * 3_600_000).toISOString();
    const earlier = await ask(token, '/readings', reading({ part: 49, measuredAt: ago(1) }));
    const [at] = await rows<{ hours: number }>(
      pool(),
      'SELECT extract(epoch FROM tin_now() - at)::float8 / 3600 AS hours FROM reading WHERE id = $1',
      [earlier.said.reading],
    );
    expect(at!.hours).toBeCloseTo(1, 1);
    const former = await ask(token, '/readings', reading({ part: 48, measuredAt: ago(24 * 400) }));
    expect([former.status, former.said.message]).toEqual([409, expect.stringMatching(/before this job/)]);
    expect((await ask(token, '/readings', reading({ part: 48, measuredAt: 'yesterday' }))).status).toBe(400);
    const wide = await ask(token, '/readings', reading({ value: '3.6004' }));
    expect(wide.said).toMatchObject({ reading: null, verdict: 'measureAgain' });
  });

  it('counts parts by their total: two that count at once count them once', async () => {
    const token = await tokenFor();
    const send = (count: number) => ask(token, '/parts', { machine: 'avocet', program: 'o2301', count });
    const both = await Promise.all([send(54), send(54)]);
    expect(both.map(({ said }) => said.recorded).sort()).toEqual([0, 3]);
    expect((await send(54)).said).toMatchObject({ before: 54, recorded: 0 });
    expect((await send(50)).said.message).toMatch(/54 parts of O2301 already/);
  });

  it('reads tools, registers, corrections, what runs out, and sends a table', async () => {
    const token = await tokenFor();
    const tools = (await ask(token, '/tools?machine=Avocet')).said.items!;
    expect(tools.length).toBe(13);
    const registers = await ask(token, '/registers?machine=Curlew');
    expect(registers.said.unit).toBe('in');
    const held = await rows<{ value: number }>(
      pool(),
      `SELECT value FROM register WHERE machine_id = 3 AND value <> 0 AND kind <> 'tipDirection' ORDER BY row, id`,
    );
    // exact: the decimal text comes to the very nanometres
    const lengths = registers.said.items!.filter(({ kind }) => kind !== 'tipDirection');
    expect(lengths.map(({ value }) => Math.round(Number(value) * 25_400_000))).toEqual(
      held.map(({ value }) => value),
    );
    expect(registers.said.items).toContainEqual(
      expect.objectContaining({ kind: 'tipDirection', value: '3' }),
    );
    expect((await ask(token, '/corrections')).said.items!.map(({ state }) => state)).toContain('approved');
    expect((await ask(token, '/forecast')).said.items![0]).toMatchObject({
      machine: 'Bittern',
      flag: 'broken',
      byNow: false,
    });
    const table = await ask(token, '/tables', {
      machine: 'Avocet',
      text: 'G90 G10 L10 P2 R99.5',
      part: true,
    });
    expect(table.said).toMatchObject({ differ: 1 });
    expect((await ask(token, '/tables', { machine: 'Avocet', text: '1;2', layout: 'none' })).status).toBe(
      409,
    );
    expect((await ask(token, '/machines')).said.items).toHaveLength(6);
  });

  it('the example of the documentation runs as it stands there', async () => {
    const token = await tokenFor();
    await ask(token, '/forecast');
    const code = /```js\n([^]*?)```/.exec(readFileSync('docs/api.md', 'utf8'))![1]!;
    const file = join(mkdtempSync(join(tmpdir(), 'tin-')), 'client.mjs');
    writeFileSync(file, code);
    const { url } = await serving!;
    const run = async () => (await promisify(execFile)(process.execPath, [file, url, token])).stdout;
    // what others of this cluster still have under way holds the end of the ledger back: the example comes to it at its next run
    let said = await run();
    for (let runs = 1; runs < 20 && !said.includes('36.004'); runs += 1) said = await run();
    expect(said).toMatch(/^Bittern T7 runs out after 0 parts\n/);
    expect(said).toMatch(/\d+ Body height of part 51 measured 36\.004 mm\./);
  });

  it('the description names every way in and what it takes', async () => {
    await ask(null, '/forecast');
    const described = (await (
      await fetch(`${(await serving!).url}/api/openapi.json`, { headers: ONE_LINE })
    ).json()) as {
      openapi: string;
      paths: Record<string, Record<string, { requestBody?: object; parameters: { name: string }[] }>>;
    };
    expect(described.openapi).toBe('3.1.0');
    expect(Object.keys(described.paths).sort()).toEqual([
      '/corrections',
      '/forecast',
      '/ledger',
      '/machines',
      '/parts',
      '/readings',
      '/registers',
      '/tables',
      '/tools',
    ]);
    expect(described.paths['/readings']!.post!.requestBody).toMatchObject({
      content: {
        'application/json': {
          schema: { required: ['machine', 'program', 'feature', 'part', 'value', 'unit'] },
        },
      },
    });
    expect(described.paths['/ledger']!.get!.parameters.map(({ name }) => name)).toEqual([
      'after',
      'limit',
      'kind',
    ]);
  });
});

describe('following the ledger', () => {
  it('by pages shows every entry once, while people write', async () => {
    const token = await tokenFor(['ledger:read']);
    await ask(token, '/ledger');
    const writers = Promise.all(
      [cell.lead, cell.setter, cell.operator].map(async (person, w) => {
        for (let i = 0; i < 25; i += 1)
          done(
            await writeNote(as(person), {
              leaf: '2026-01-01/early',
              kind: 'note',
              machineId: null,
              text: `${w}.${i}`,
            }),
          );
      }),
    );
    const seen: number[] = [];
    let after = 0;
    const follow = async () => {
      const { said } = await ask(token, `/ledger?after=${after}&limit=200`);
      seen.push(...said.items!.map(({ id }) => id as number));
      after = said.next as number;
    };
    let all: number[] | null = null;
    const finished = writers.then(
      async () =>
        (all = (await rows<{ id: number }>(pool(), 'SELECT id FROM ledger ORDER BY id')).map(({ id }) => id)),
    );
    // what other databases of this server have open may hold the last entries back for a while
    await until(async () => {
      await follow();
      return all !== null && seen.length >= all.length;
    });
    await finished;
    await follow();
    expect(seen).toEqual(all);
  });
});

describe('being told', () => {
  it('comes in order, signed, again until it is taken, over a restart', async () => {
    const heard: { body: string; headers: IncomingHttpHeaders }[] = [];
    let good = true;
    receiver = createServer((request, response) => {
      let body = '';
      request.on('data', (part) => (body += String(part)));
      request.on('end', () => {
        if (good) heard.push({ body, headers: request.headers });
        response.writeHead(good ? 204 : 503).end();
      });
    }).listen(0, '127.0.0.1');
    await once(receiver, 'listening');
    const url = `http://127.0.0.1:${(receiver.address() as AddressInfo).port}/in`;
    const { secret } = done(await makeWebhook(as(cell.lead), { url, kinds: ['leaf'] }));
    const note = async (text: string) =>
      done(await writeNote(as(cell.lead), { leaf: '2026-01-01/early', kind: 'note', machineId: null, text }));
    await note('one');
    await note('two');
    const tellAll = async () => {
      const { high } = (await row<{ high: number }>(pool(), 'SELECT max(id) AS high FROM ledger'))!;
      await until(async () => (await settled(pool())) >= high);
      while (await tellOne(high));
    };
    await tellAll();
    const said = () => heard.map(({ body }) => (JSON.parse(body) as { said: string }).said);
    expect(said()).toEqual(['Note: one', 'Note: two']);
    const { body, headers } = heard[0]!;
    const [, time, sum] = /^t=(\d+),v1=([0-9a-f]{64})$/.exec(String(headers['tin-signature']))!;
    expect(createHmac('sha256', secret!).update(`${time}.${body}`).digest('hex')).toBe(sum);
    good = false;
    await note('three');
    await tellAll();
    expect((await webhooks(pool()))[0]).toMatchObject({ tries: 1, problem: 'It answered with status 503.' });
    // it is not tried again at once, and not lost: a server that is started later tells it
    await tellAll();
    expect((await webhooks(pool()))[0]).toMatchObject({ tries: 1 });
    good = true;
    await (serving = startServer(cell.database.appUrl));
    await until(() => heard.length === 3);
    expect(said().at(-1)).toBe('Note: three');
    // heard first, written down after
    await until(async () => (await webhooks(pool()))[0]?.tries === 0);
    expect((await webhooks(pool()))[0]).toMatchObject({ tries: 0, problem: null });
    // two processes tell one entry once
    const second = await startServer(cell.database.appUrl);
    for (let i = 0; i < 5; i += 1) await note(`${i}`);
    await until(() => heard.length >= 8);
    await new Promise((resolve) => setTimeout(resolve, 1200));
    await second.stop('SIGKILL');
    expect(said().slice(3)).toEqual(['Note: 0', 'Note: 1', 'Note: 2', 'Note: 3', 'Note: 4']);
  });
});
