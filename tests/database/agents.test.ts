import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, afterEach, beforeEach, describe, expect, it } from 'vitest';
import { askAgent } from '../../src/server/agents/ask.ts';
import { pollOnce, unheard } from '../../src/server/agents/poll.ts';
import { stateOf } from '../../src/server/agents/states.ts';
import { compareLook, lookAtControl } from '../../src/server/control-looks.ts';
import { bringFromAgent } from '../../src/server/control-roads.ts';
import { bringPocketsFromAgent, pocketLookOf } from '../../src/server/pocket-looks.ts';
import { keepMapping, mappingsOf } from '../../src/server/control-mappings.ts';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { standIn, startServer, until, type RunningServer } from '../support/server.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let agent: ChildProcess | null = null;
const servers: (RunningServer | Server)[] = [];
beforeEach(async () => void (cell = await weirside()));
afterEach(async () => {
  agent?.kill('SIGKILL');
  agent = null;
  for (const server of servers.splice(0))
    if ('stop' in server) await server.stop('SIGKILL');
    else {
      server.closeAllConnections();
      server.close();
    }
  delete process.env.TIN_STAND_IN;
});
afterAll(closePool);

/** The stand-in of the demo, with a table of Avocet's as its record has it. */
async function control(
  buffer = 4096,
  port = 0,
  pockets: Readonly<Record<number, number>> = {},
): Promise<string> {
  const held = await rows<{ row: number; kind: string; value: number }>(
    pool(),
    'SELECT row, kind, value FROM register WHERE machine_id = 1 AND value <> 0',
  );
  const table: Record<string, Record<string, number>> = {};
  for (const { row, kind, value } of held) (table[row] ??= {})[kind] = value / 1e6;
  const stands = await rows<{ tool: number; pocket: number }>(
    pool(),
    'SELECT s.tool, p.number AS pocket FROM placement s JOIN place p ON p.id = s.place_id WHERE s.machine_id = 1 ORDER BY s.tool',
  );
  const cutters = stands.map(({ tool, pocket }) => ({
    tool,
    pocket: pockets[tool] ?? pocket,
    number: `A-${tool}`,
    length: 100,
    basis: null,
    left: null,
    limit: null,
    use: 0,
  }));
  const started = await standIn('control', {
    SIM_PORT: String(port),
    SIM_BUFFER: String(buffer),
    SIM_JOBS: JSON.stringify({
      avocet: { made: 51, cycle: 3_600_000, parts: 1, program: 'O2301', calls: [{ tool: 5, share: 1 }] },
    }),
    SIM_TABLES: JSON.stringify({ avocet: table }),
    SIM_CUTTERS: JSON.stringify({ avocet: cutters }),
  });
  agent = started.child;
  return `http://127.0.0.1:${started.port}`;
}
const post = (url: string) => fetch(url, { method: 'POST' });

/** An agent that answers as it is told. */
async function liar(
  answer: (path: string) => { status?: number; body: string | Buffer } | 'hang',
): Promise<string> {
  const server = createServer((request, response) => {
    const said = answer(request.url ?? '');
    if (said === 'hang') return;
    response.writeHead(said.status ?? 200, { 'content-type': 'application/xml' }).end(said.body);
  }).listen(0, '127.0.0.1');
  await once(server, 'listening');
  servers.push(server);
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

describe('an agent', () => {
  const poll = (url: string, known = unheard(1, new Date())) =>
    pollOnce(
      known,
      (ask) => askAgent(url, ask, 400),
      () => new Date(),
    );

  it('is followed: what the machine does, an alarm, a part, and what a buffer lost', async () => {
    const url = `${await control(8)}/avocet`;
    let heard = await poll(url);
    expect(heard).toMatchObject({
      problem: null,
      gap: null,
      state: { execution: 'ACTIVE', tool: 5, program: 'O2301' },
    });
    await post(`${url}/put?alarm=air%20pressure%20low`);
    heard = await poll(url, heard);
    expect(heard.state.alarms).toMatchObject([{ level: 'Fault', text: 'air pressure low' }]);
    // more was said than the buffer holds, before it was asked again
    for (let i = 0; i < 6; i += 1) {
      await post(`${url}/put?execution=FEED_HOLD`);
      await post(`${url}/put`);
    }
    heard = await poll(url, heard);
    expect(heard.gap).toMatch(/\d+ things that the control said are gone/);
    expect(heard.state).toMatchObject({ execution: 'ACTIVE', alarms: [], parts: 53 });
    // started anew: its sequences begin again, and nothing of before is taken for now
    const port = Number(new URL(url).port);
    agent!.kill('SIGKILL');
    await once(agent!, 'exit');
    const away = await poll(url, heard);
    expect(away).toMatchObject({ problem: 'The agent does not answer.', state: { execution: 'ACTIVE' } });
    await new Promise((resolve) => setTimeout(resolve, 1100));
    await control(8, port);
    heard = await poll(url, away);
    expect(heard).toMatchObject({ problem: null, gap: expect.stringContaining('started anew') as string });
    expect(heard.state.parts).toBe(53);
  });

  it('that is slow, endless, shut or no agent is a sentence, and leaves what was known', async () => {
    const known = { ...unheard(1, new Date()), instance: '1', next: 5 };
    const huge = Buffer.alloc(100_000_000, 'x');
    for (const [answer, reason] of [
      [() => 'hang' as const, /within 0.4 s/],
      [() => ({ body: huge }), /over a megabyte/],
      [() => ({ status: 500, body: 'oops' }), /status 500/],
      [() => ({ body: '<html><body>please sign in</body></html>' }), /not as an agent/],
      [() => ({ body: '<MTConnectStreams><Header' }), /XML/],
    ] as const) {
      const heard = await poll(await liar(answer), known);
      expect(heard.problem).toMatch(reason);
      expect(heard).toMatchObject({ instance: '1', next: 5 });
    }
    expect((await poll('http://127.0.0.1:9', known)).problem).toMatch(/does not answer/);
  });

  it('is asked by one process of several, and by another within seconds when that one dies', async () => {
    const url = await control();
    const { appUrl } = cell.database;
    const first = await startServer(appUrl, { TIN_STAND_IN: url });
    servers.push(first);
    await until(async () => (await stateOf(pool(), 1))?.state.execution === 'ACTIVE');
    const second = await startServer(appUrl, { TIN_STAND_IN: url });
    servers.push(second);
    const holders = () =>
      rows<{ pid: number }>(
        pool(),
        `SELECT DISTINCT pid FROM pg_locks WHERE locktype = 'advisory' AND classid = 7411 AND objid = 1 AND granted
           AND database = (SELECT oid FROM pg_database WHERE datname = current_database())`,
      );
    const [holder] = await holders();
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect(await holders()).toEqual([holder]);
    await first.stop('SIGKILL');
    await until(async () => {
      const now = await holders();
      return now.length === 1 && now[0]!.pid !== holder!.pid;
    });
    await post(`${url}/avocet/put?execution=FEED_HOLD`);
    await until(async () => (await stateOf(pool(), 1))?.state.execution === 'FEED_HOLD');
  });
});

describe('the table of an agent', () => {
  it('is laid beside the record, whole or not at all', async () => {
    const url = await control();
    process.env.TIN_STAND_IN = url;
    done(await bringFromAgent(as(cell.setter), 1));
    const machine = (await machineById(pool(), 1))!;
    const look = (await lookAtControl(pool(), 1, null))!;
    expect((await compareLook(pool(), machine, look)).differences).toEqual([]);
    // with what it did then
    expect(look.state).toMatchObject({ execution: 'ACTIVE', program: 'O2301', tool: 5, parts: 53 });
    expect(look.lives).toEqual([]);
    // somebody keys a row at the control
    const { row, kind, value } = (
      await rows<{ row: number; kind: string; value: number }>(
        pool(),
        `SELECT row, kind, value FROM register WHERE machine_id = 1 AND kind = 'lengthGeometry' AND value <> 0 ORDER BY row LIMIT 1`,
      )
    )[0]!;
    await post(`${url}/avocet/offset?row=${row}&cell=${kind}&value=${-value / 1e6}`);
    done(await bringFromAgent(as(cell.setter), 1));
    const { differences } = await compareLook(pool(), machine, (await lookAtControl(pool(), 1, null))!);
    expect(differences).toHaveLength(1);
    expect(differences[0]).toMatchObject({ register: { row, kind }, explanations: [{ code: 'sign' }] });
    await post(`${url}/avocet/offset?row=${row}&cell=FLUTES&value=4`);
    expect(refused(await bringFromAgent(as(cell.setter), 1))).toMatch(/Nothing was taken[^]*"FLUTES"/);
    expect(refused(await bringFromAgent(as(cell.setter), 2))).toMatch(/Nothing was taken/);
    delete process.env.TIN_STAND_IN;
    expect(refused(await bringFromAgent(as(cell.setter), 1))).toMatch(/no agent/);
  });
});

describe('the pockets of an agent', () => {
  it('are laid beside the record: two that changed places by hand are one tangle', async () => {
    const [one, two] = await rows<{ tool: number; pocket: number }>(
      pool(),
      `SELECT s.tool, p.number AS pocket FROM placement s JOIN place p ON p.id = s.place_id
       WHERE s.machine_id = 1 AND p.kind = 'pocket' ORDER BY s.tool LIMIT 2`,
    );
    process.env.TIN_STAND_IN = await control(64, 0, { [one!.tool]: two!.pocket, [two!.tool]: one!.pocket });
    done(await bringPocketsFromAgent(as(cell.setter), 1));
    const machine = (await machineById(pool(), 1))!;
    const look = (await pocketLookOf(pool(), machine))!;
    expect(look).toMatchObject({ stale: false });
    expect(look.tangles).toHaveLength(1);
    expect(look.tangles[0]).toContain(`T${one!.tool}`);
    // a place that the machine does not have: nothing is taken
    agent!.kill('SIGKILL');
    process.env.TIN_STAND_IN = await control(64, 0, { [one!.tool]: 99 });
    expect(refused(await bringPocketsFromAgent(as(cell.setter), 1))).toBe(
      'Nothing was taken.\nAvocet has no place 99.',
    );
    expect(refused(await bringPocketsFromAgent(as(cell.setter), 2))).toMatch(/no agent/);
  });
});

describe('a layout that is kept', () => {
  const mapping = {
    separator: ';' as const,
    begins: [],
    skip: 1,
    columns: [
      { what: 'row' as const },
      { what: 'register' as const, kind: 'lengthWear', times: 1 as const, turned: false },
    ],
    unit: 'mm' as const,
    decimal: 'comma' as const,
  };
  const keep = (over: Partial<Parameters<typeof keepMapping>[1]> = {}) =>
    keepMapping(as(cell.setter), {
      machineId: 1,
      name: 'weekly export',
      mapping,
      sample: 'No;Wear\n1;-0,010\n2;0\n',
      ...over,
    });

  it('must read its own sample, in registers that the machine has', async () => {
    expect(refused(await keep({ sample: 'No;Wear\n1;-0.010\n' }))).toMatch(/has a point, not a comma/);
    expect(
      refused(
        await keep({
          mapping: {
            ...mapping,
            columns: [mapping.columns[0]!, { ...mapping.columns[1]!, kind: 'xWear' } as never],
          },
        }),
      ),
    ).toMatch(/no such register/);
    expect(done(await keep())).toMatchObject({ rows: 2 });
    // two people keep one name at once: one layout, no fault
    const both = await Promise.all([keep(), keep({ mapping: { ...mapping, skip: 1 } })]);
    expect(both.every(({ ok }) => ok)).toBe(true);
    expect(await mappingsOf(pool(), 1)).toHaveLength(1);
    expect(await mappingsOf(pool(), 2)).toEqual([]);
  });
});
