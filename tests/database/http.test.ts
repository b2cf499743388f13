import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { gunzipSync } from 'node:zlib';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { ACCESS } from '../../src/core/people/access.ts';
import { may, ROLES } from '../../src/core/people/roles.ts';
import { closePool } from '../../src/server/db.ts';
import { ownPath } from '../../src/routes/own-path.ts';
import { asSuperuser } from '../support/databases.ts';
import {
  answerOf,
  ONE_LINE,
  PINS,
  startServer,
  until,
  Visitor,
  type RunningServer,
} from '../support/server.ts';
import { weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let server: RunningServer;
const visitors = new Map<string, Visitor>();
const visitor = (role: string) => visitors.get(role)!;

beforeAll(async () => {
  cell = await weirside();
  server = await startServer(cell.database.appUrl);
  for (const [role, [badge, pin]] of Object.entries(PINS)) {
    const fresh = new Visitor(server.url);
    await fresh.signIn(badge, pin);
    visitors.set(role, fresh);
  }
});
afterAll(async () => {
  await server.stop();
  await closePool();
});

/** What is answered to a form by the length that it says, before any of it is sent. */
function answerByLength(to: string, length: number, headers: Record<string, string>): Promise<number> {
  return new Promise((resolve, reject) => {
    let answered = false;
    const asked = request(
      server.url + to,
      {
        method: 'POST',
        headers: {
          origin: server.url,
          'sec-fetch-site': 'same-origin',
          'content-length': length,
          ...headers,
        },
      },
      (answer) => {
        answered = true;
        resolve(answer.statusCode!);
        asked.destroy();
      },
    ).on('error', (error) => (answered ? undefined : reject(error)));
    asked.flushHeaders();
  });
}

/** Every route of the application, from the folders themselves. */
function routeIds(folder = 'src/routes', id = ''): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) return routeIds(join(folder, entry.name), `${id}/${entry.name}`);
    return ['+page.svelte', '+server.ts', '+page.server.ts'].includes(entry.name) ? [id || '/'] : [];
  });
}
/** Every form act of a page, from its source. */
function formActs(routeId: string): string[] {
  const file = join('src/routes', routeId, '+page.server.ts');
  const text = existsSync(file) ? readFileSync(file, 'utf8') : '';
  const block = /export const actions: Actions = \{\n([\s\S]*?)\n\};/.exec(text)?.[1] ?? '';
  if (/^ {2}\.\.\./m.test(block)) throw new Error(`${routeId}: acts must be named, a spread hides them`);
  return [...block.matchAll(/^ {2}(\w+): /gm)].map((match) => match[1]!);
}
const path = (routeId: string) =>
  routeId.replace('[date]', '2026-11-23').replace('[shift]', 'late').replace('[id]', '1');

describe('the permission table', () => {
  const routes = [...new Set(routeIds())];
  it('names every page, every endpoint and every act there is, and no other', () => {
    const there = routes.flatMap((routeId) => [
      routeId,
      ...formActs(routeId).map((name) => `${routeId}?/${name}`),
    ]);
    expect(Object.keys(ACCESS).sort()).toEqual(there.sort());
  });
  /** Pages that search for seconds: whoever may is shown them once. */
  const DEAR = new Set(['/machines/[id]/jobs', '/machines/[id]/plan']);
  it.each(routes.filter((routeId) => ACCESS[routeId] !== 'anyone'))(
    '%s is shown to whom it is for and to nobody else',
    async (routeId) => {
      const needed = ACCESS[routeId] as Exclude<(typeof ACCESS)[string], 'anyone'>;
      for (const role of ROLES) {
        if (DEAR.has(routeId) && role !== 'lead' && may(role, needed)) continue;
        const accept = routeId === '/live' ? 'text/event-stream' : 'text/html';
        const response = await visitor(role).get(path(routeId), accept);
        void response.body?.cancel();
        expect([role, response.status === 403]).toEqual([role, !may(role, needed)]);
        expect(response.status).toBeLessThan(500);
      }
      const nobody = await new Visitor(server.url).get(path(routeId));
      expect(nobody.status === 303 || nobody.status === 401).toBe(true);
      expect(nobody.headers.get('location') ?? '/sign-in').toContain('/sign-in');
    },
  );
  const acts = Object.entries(ACCESS).filter(([name, needed]) => name.includes('?/') && needed !== 'anyone');
  it.each(acts)('%s is done by whom it is for and by nobody else', async (name, needed) => {
    for (const role of ROLES) {
      const response = await visitor(role).send(path(name), {});
      const allowed = may(role, needed as Exclude<typeof needed, 'anyone'>);
      // those who may are told that the empty form is wrong; those who may not never get that far
      expect([role, response.status === 403]).toEqual([role, !allowed]);
      expect(response.status).toBeLessThan(500);
    }
    expect((await new Visitor(server.url).send(path(name), {})).status).toBe(401);
  });
  /** Asks with any method, as a page of ours does or as a plain form. */
  const ask = (role: string | null, method: string, to: string, headers: Record<string, string> = {}) =>
    fetch(server.url + to, {
      method,
      redirect: 'manual',
      headers: {
        ...ONE_LINE,
        cookie: role === null ? '' : visitor(role).cookie,
        origin: server.url,
        'sec-fetch-site': 'same-origin',
        ...headers,
      },
      ...(method === 'GET' || method === 'HEAD' ? {} : { body: new URLSearchParams({}) }),
    });
  const closed = routes.filter((routeId) => ACCESS[routeId] !== 'anyone' && !routeId.startsWith('/api/'));
  /** Somebody who may, one of those who may not (all of them are tried above, as a page of ours asks), and nobody. */
  const some = (needed: Exclude<(typeof ACCESS)[string], 'anyone'>) => [
    ...(may('lead', needed) ? ['lead'] : []),
    ...ROLES.filter((role) => !may(role, needed)).slice(-1),
    null,
  ];
  it.each(closed)(
    '%s: by every method, and its data by theirs, it is as closed as the page',
    async (routeId) => {
      const needed = ACCESS[routeId] as Exclude<(typeof ACCESS)[string], 'anyone'>;
      const page = existsSync(join('src/routes', routeId, '+page.svelte'));
      for (const role of some(needed)) {
        const allowed = role === 'lead';
        // whoever may see a page is shown it above: here they only try what it does not have
        for (const method of allowed
          ? ['PUT', 'PATCH', 'DELETE']
          : ['HEAD', 'OPTIONS', 'PUT', 'PATCH', 'DELETE', 'POST']) {
          const answer = await ask(role, method, path(routeId), { accept: 'text/html' });
          void answer.body?.cancel();
          const said = `${method} by ${role ?? 'nobody'}: ${answer.status}`;
          if (role === null) expect([303, 401], said).toContain(answer.status);
          else if (!allowed) expect(answer.status, said).toBe(403);
          else expect([400, 403, 404, 405, 415], said).toContain(answer.status);
        }
        if (!page || allowed) continue;
        const data = await ask(role, 'GET', `${path(routeId)}/__data.json`, { accept: 'application/json' });
        const text = await data.text();
        expect([200, 401, 403]).toContain(data.status);
        // nobody is sent to sign in, which is no data
        if (data.status === 200) expect(text).toMatch(/^\{"type":"redirect"/);
      }
    },
  );
  it.each(acts)('%s as a plain form is as closed as by its page', async (name, needed) => {
    for (const role of some(needed as Exclude<typeof needed, 'anyone'>)) {
      const allowed = role === 'lead';
      const answer = await ask(role, 'POST', path(name), {
        accept: 'text/html',
        'content-type': 'application/x-www-form-urlencoded',
      });
      void answer.body?.cancel();
      if (allowed) expect([role, answer.status < 500 && answer.status !== 403]).toEqual([role, true]);
      else expect([role, answer.status]).toEqual([role, role === null ? 401 : 403]);
    }
  });
});

describe('the ledger by time', () => {
  it('takes times as the cell’s wall clock, not as the server’s', async () => {
    const lines = async (query: string) =>
      (await (await visitor('lead').get(`/ledger/csv?${query}`)).text()).trim().split('\r\n').slice(1);
    const last = new Date(/^\d+,([^,]+),/.exec((await lines('kind=placement'))[0]!)![1]!);
    const local = (at: Date) =>
      new Intl.DateTimeFormat('sv-SE', { timeZone: 'Europe/Paris', dateStyle: 'short', timeStyle: 'short' })
        .format(at)
        .replace(' ', 'T');
    const minute = 60_000;
    expect(
      (await lines(`kind=placement&from=${local(new Date(last.getTime() - minute))}`)).length,
    ).toBeGreaterThan(0);
    expect(await lines(`kind=placement&from=${local(new Date(last.getTime() + 2 * minute))}`)).toEqual([]);
  });
});

describe('requests from elsewhere', () => {
  const note = { kind: 'note', machine: '', text: 'from elsewhere' };
  const leaf = '/leaf/2026-11-23/late?/note';
  it('a form posted by another site is refused, whatever it calls itself', async () => {
    for (const headers of [
      { origin: 'http://elsewhere.invalid' },
      { 'sec-fetch-site': 'cross-site' },
      { origin: 'null' },
      { 'content-type': 'text/plain', origin: 'http://elsewhere.invalid' },
    ] as Record<string, string>[])
      expect((await visitor('lead').send(leaf, note, headers)).status).toBe(403);
    expect(await cell.count('FROM leaf_note WHERE text = $1', note.text)).toBe(0);
  });
  it('the same form from a page of ours is taken', async () => {
    const answer = await answerOf(await visitor('lead').send(leaf, note));
    expect(answer.type).toBe('success');
    expect(await cell.count('FROM leaf_note WHERE text = $1', note.text)).toBe(1);
  });
  it('dots in a link back leave no two slashes at its head', () => {
    expect(ownPath('/.//elsewhere.example')).toBe('/elsewhere.example');
    expect(ownPath('/a/..//elsewhere.example/x')).toBe('/elsewhere.example/x');
    expect(ownPath('/leaf/2026-11-01/early?x=1')).toBe('/leaf/2026-11-01/early?x=1');
  });
  it('a link back after signing in cannot lead off this server', async () => {
    for (const to of [
      '//elsewhere.invalid',
      'http://elsewhere.invalid',
      '/\\elsewhere.invalid',
      'javascript:alert(1)',
    ]) {
      const body = await (await new Visitor(server.url).get(`/sign-in?to=${encodeURIComponent(to)}`)).text();
      expect(body).toMatch(/name="to" value="\/"/);
    }
  });
});

describe('headers', () => {
  it('allow no script but our own files, and none inline', async () => {
    const response = await visitor('lead').get('/machines');
    const policy = response.headers.get('content-security-policy')!;
    expect(policy).toMatch(/default-src 'none'/);
    expect(policy).toMatch(/script-src 'self' 'nonce-/);
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
    expect(policy).toMatch(/frame-ancestors 'none'/);
    const nonce = /'nonce-([^']+)'/.exec(policy)![1]!;
    const inline = [...(await response.text()).matchAll(/<script(?![^>]*\bsrc=)([^>]*)>/g)];
    expect(inline.every((match) => match[1]!.includes(`nonce="${nonce}"`))).toBe(true);
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
    expect(response.headers.get('cache-control')).toBe('no-store');
  });
  it('the session is a cookie that no script reads and no other site sends', async () => {
    const response = await new Visitor(server.url).signIn(...PINS.viewer!);
    const cookie = response.headers.getSetCookie().find((line) => line.startsWith('tin-session'))!;
    expect(cookie).toMatch(/HttpOnly/i);
    expect(cookie).toMatch(/SameSite=Strict/i);
    const token = /tin-session=([^;]+)/.exec(cookie)![1]!;
    // kept is what it hashes to, never the token itself
    expect(await cell.count("FROM session WHERE token_hash = convert_to($1, 'UTF8')", token)).toBe(0);
    expect(await cell.count("FROM session WHERE token_hash = sha256(convert_to($1, 'UTF8'))", token)).toBe(1);
  });
});

describe('signing in', () => {
  // what this address got wrong in other tests closes it for some seconds
  beforeEach(() => cell.asOwner((db) => db.query('DELETE FROM sign_in_attempt')));
  it('five wrong PINs close a badge for a while, even for the right PIN, and no other badge', async () => {
    for (let i = 0; i < 5; i += 1)
      expect((await answerOf(await new Visitor(server.url).signIn('1007', '0000'))).status).toBe(401);
    const right = await answerOf(await new Visitor(server.url).signIn('1007', '1590'));
    expect(right.data).toMatch(/Too many wrong PINs/);
    expect((await answerOf(await new Visitor(server.url).signIn(...PINS.setter!))).type).toBe('redirect');
  });
  it('a wrong badge and a wrong PIN get the same answer', async () => {
    const [wrongBadge, wrongPin] = await Promise.all([
      new Visitor(server.url).signIn('9999', '1234'),
      new Visitor(server.url).signIn('1006', '1234'),
    ]);
    const said = async (response: Response) => JSON.stringify(await answerOf(response));
    const [badge, pin] = [await said(wrongBadge), await said(wrongPin)];
    expect(badge).toContain('Badge and PIN do not match.');
    expect(badge.replaceAll('9999', 'the badge')).toBe(pin.replaceAll('1006', 'the badge'));
  });
});

describe('files', () => {
  const upload = async (
    role: string,
    name: string,
    text: string | Uint8Array,
    fields: Record<string, string> = {},
    path = '/programs?/bringIn',
  ) => {
    const form = new FormData();
    form.set('key', crypto.randomUUID());
    form.set('file', new File([text as BlobPart], name));
    for (const [field, value] of Object.entries(fields)) form.set(field, value);
    const response = await fetch(`${server.url}${path}`, {
      method: 'POST',
      body: form,
      headers: {
        cookie: visitor(role).cookie,
        origin: server.url,
        accept: 'application/json',
        'x-sveltekit-action': 'true',
      },
    });
    return response.status === 413 ? { type: 'failure', status: 413, data: '' } : answerOf(response);
  };
  it('a program is read; the same text again is refused; a changed one is a new revision', async () => {
    const text = readFileSync('demo/programs/O2310-cover-plate.nc', 'utf8');
    const machine = String(await cell.machine('Avocet'));
    expect((await upload('setter', 'O2310.nc', text, { machine })).data).toMatch(/exactly this text/);
    const changed = await upload(
      'setter',
      'O2310.nc',
      text.replace('G43 H4 Z50. M8\nZ', 'G43 H14 Z50. M8\nZ').replace('S800', 'S810'),
      { machine },
    );
    expect(changed.data).toMatch(/revision 2/);
  });
  it('what is not NC text, what is binary, and what is empty is refused with a sentence', async () => {
    const machine = String(await cell.machine('Avocet'));
    expect(
      (await upload('setter', 'letter.nc', 'Dear all,\nthanks & see <you> = soon?\n', { machine })).data,
    ).toMatch(/not NC text/);
    expect(
      (await upload('setter', 'zip.nc', new Uint8Array([80, 75, 3, 4, 0, 0, 1]), { machine })).data,
    ).toMatch(/packed/);
    expect(
      (await upload('setter', 'tool.exe', new Uint8Array([127, 69, 76, 70, 1, 2, 3, 4, 5, 6]), { machine }))
        .data,
    ).toMatch(/binary/);
    expect((await upload('setter', 'empty.nc', '', { machine })).data).toMatch(/not empty/);
    expect((await upload('setter', 'lost.nc', 'O1\nT1 M6\nM30')).data).toMatch(/Choose the machine/);
  });
  it('a list of assemblies is sent to where it is looked at first; a fault is named there with its line and column, and none is kept', async () => {
    const heading = 'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter';
    const list = `${heading}\nZ-1,Drill,drill,steep 40,8,40,120,32\nZ-2,Drill,drill,steep 40,eight,40,120,32\n`;
    expect((await upload('crib', 'tools.csv', list)).data).toMatch(/bring it in under Tools/);
    expect((await upload('crib', 'tools.csv', list, {}, '/tools/import?/look')).data).toMatch(
      /Line 3, diameter/,
    );
    expect(await cell.count(`FROM assembly WHERE number LIKE 'Z-%'`)).toBe(0);
  });
  it('an inspector brings in a measuring plan, and no program', async () => {
    const plan = readFileSync('demo/plans/O2310-cover-plate.csv', 'utf8');
    const program = String(await cell.program('O2310'));
    // it is looked at first, and taken by an act of its own
    expect((await upload('inspector', 'plan.csv', plan, { program })).data).toMatch(/"Plate length".*"same"/);
    expect(
      (await upload('inspector', 'plan.csv', plan.replace(',1,1,', ',77,77,'), { program })).data,
    ).toMatch(/T77, which the program does not call/);
    const take = (text: string) =>
      visitor('inspector').send('/programs?/takePlan', { program, text }).then(answerOf);
    expect((await take(plan)).data).toMatch(/4 features were taken/);
    expect((await take(plan.replace(',1,1,', ',77,77,'))).data).toMatch(
      /T77, which the program does not call/,
    );
    expect((await upload('inspector', 'x.nc', 'O1\nT1 M6\nM30')).data).toMatch(/NC program/);
    expect(await upload('viewer', 'plan.csv', plan, { program })).toMatchObject({ role: 'viewer' });
  });
  it('an empty cell is filled by files alone: machine, assemblies, program', async () => {
    const machineFile = JSON.parse(readFileSync('demo/machines/bittern.json', 'utf8')) as Record<
      string,
      unknown
    >;
    expect((await upload('lead', 'm.json', JSON.stringify({ ...machineFile, name: 'Godwit' }))).data).toMatch(
      /Godwit was added/,
    );
    expect((await upload('lead', 'm.json', JSON.stringify({ ...machineFile, name: 'Godwit' }))).data).toMatch(
      /Godwit/,
    );
    expect(
      (await upload('lead', 'm.json', JSON.stringify({ ...machineFile, name: 'Ruff', expiry: 'never' })))
        .data,
    ).toMatch(/expiry/);
    const machine = String(await cell.machine('Godwit'));
    expect(
      (await upload('setter', 'p.nc', 'O77 (TRIAL)\nT1 M6\nG43 H1 Z2.\nG1 Z-1. F10.\nM30', { machine })).data,
    ).toMatch(/O0077 TRIAL was read: 1 tool,/);
    expect(await cell.count('FROM register WHERE machine_id = $1', Number(machine))).toBe(100 * 4);
    expect(await cell.count('FROM place WHERE machine_id = $1', Number(machine))).toBe(21);
  });
  it('a role brings in its own kinds of file only', async () => {
    expect((await upload('crib', 'x.nc', 'O1\nT1 M6\nM30')).data).toMatch(/NC program/);
  });
  it('a file over the limit is refused and the server goes on', async () => {
    const status = await answerByLength('/programs?/bringIn', 135 * 1024 * 1024, {
      cookie: visitor('lead').cookie,
      'content-type': 'multipart/form-data; boundary=part',
    });
    expect(status).toBe(413);
    expect((await visitor('lead').get('/machines')).status).toBe(200);
  });
});

describe('live', () => {
  it('what one person writes, another page hears within a second, on another server process too', async () => {
    const second = await startServer(cell.database.appUrl);
    const control = new AbortController();
    let heard = '';
    const stream = await fetch(`${second.url}/live`, {
      headers: { cookie: visitor('operator').cookie },
      signal: control.signal,
    });
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    const reading = (async () => {
      for (;;) {
        const { done, value } = await reader.read();
        if (done) return;
        heard += value;
      }
    })().catch(() => undefined);
    await until(() => heard.includes('back') || heard.includes('retry'));
    await until(async () => {
      await visitor('lead').send('/leaf/2026-11-23/late?/note', {
        kind: 'note',
        machine: '',
        text: 'heard?',
      });
      return heard.includes('"kind" : "leaf"');
    }, 5_000);
    control.abort();
    await reading;
    await second.stop();
  });
});

describe('leaving', () => {
  it('somebody who was made inactive is out at once', async () => {
    const crib = new Visitor(server.url);
    await crib.enter(...PINS.crib!);
    expect((await crib.get('/machines')).status).toBe(200);
    await visitor('lead').send('/people?/change', {
      person: String(cell.crib.id),
      role: 'crib',
      pin: '',
      shown: JSON.stringify({ role: 'crib', active: true }),
    });
    expect((await crib.get('/machines')).status).toBe(303);
  });
});

describe('what no page of ours sends', () => {
  const raw = (path: string, init: RequestInit) =>
    fetch(server.url + path, {
      redirect: 'manual',
      ...init,
      headers: { origin: server.url, 'sec-fetch-site': 'same-origin', ...init.headers },
    });
  const form = { 'content-type': 'application/x-www-form-urlencoded' };
  it('a form of a million fields, or a field of megabytes, is not read, signed in or not', async () => {
    const fields = Array.from({ length: 200_000 }, (_, i) => `a${i}=1`).join('&');
    for (const length of [fields.length, 5_000_000, 39 * 1024 * 1024]) {
      expect(await answerByLength('/sign-in?/enter', length, form)).toBe(413);
      expect(
        await answerByLength('/corrections/1?/approve', length, { ...form, cookie: visitor('lead').cookie }),
      ).toBe(413);
    }
    await until(async () => (await fetch(`${server.url}/healthz`).catch(() => null))?.ok === true);
  });
  it('ids that no record has, NUL bytes and forms in pieces are told so, and are no faults of ours', async () => {
    const lead = visitor('lead');
    expect((await lead.get('/machines/99999999999999999999')).status).toBe(404);
    expect((await lead.get('/tools/2147483648')).status).toBe(404);
    expect((await lead.get('/find?words=%00')).status).toBe(404);
    const stray = await answerOf(
      await lead.send('/machines/1?/takeOut', { place: '1', assembly: '1', why: 'a\0b' }),
    );
    expect(stray).toMatchObject({ type: 'failure', status: 400 });
    expect(stray.data).toContain('not text');
    // a form that does not say what its page showed
    const half = await answerOf(
      await lead.send('/machines/1/numbers?/transfer', { to: '2', 'shown.1': '1.25' }),
    );
    expect(half.data).toContain('T1: the form does not say what its row held');
    const broken = await raw('/machines/1?/takeOut', {
      method: 'POST',
      headers: { cookie: lead.cookie, accept: 'application/json', 'content-type': 'multipart/form-data' },
      body: 'no boundary',
    });
    expect(broken.status).toBeLessThan(500);
  });
  it('a form made for one person is not signed by the one who signed in meanwhile; its input is kept', async () => {
    const setter = visitor('setter');
    const answer = await answerOf(
      await setter.send('/machines/1?/takeOut', { place: '1', assembly: '1', madeFor: '999' }),
    );
    expect(answer).toMatchObject({ type: 'failure', status: 409 });
    expect(answer.data).toContain('opened by somebody else');
  });
  it('a device asks which of the forms that it keeps are recorded: those that were done, and no other', async () => {
    const [done, refused, never] = [randomUUID(), randomUUID(), randomUUID()];
    const note = (key: string, text: string) =>
      visitor('setter').send('/leaf/2026-11-23/late?/note', { key, kind: 'note', machine: '', text });
    expect((await answerOf(await note(done, 'is in'))).type).toBe('success');
    expect((await answerOf(await note(refused, ''))).type).toBe('failure');
    // whoever took the device over asks for it too
    const asked = await visitor('operator').get(`/sent?key=${done}&key=${refused}&key=${never}`);
    expect(await asked.json()).toEqual([done]);
    expect(await (await visitor('operator').get('/sent')).json()).toEqual([]);
    for (const wrong of ['key=7', `key=${done}'--`, Array(101).fill(`key=${done}`).join('&')])
      expect((await visitor('operator').get(`/sent?${wrong}`)).status).toBe(400);
  });
  it.each([
    [
      'a full disk',
      `RAISE EXCEPTION 'could not extend file' USING ERRCODE = '53100'`,
      'The disk of the database is full',
    ],
    ['a statement that takes too long', 'PERFORM pg_sleep(30)', 'The database took too long and stopped'],
  ])('%s is said in words, and the server goes on', async (_, fault, words) => {
    const text = `written into ${words}`;
    const asOwner = (sql: string) => asSuperuser((client) => client.query(sql), cell.database.name);
    await asOwner(`CREATE FUNCTION at_fault() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN ${fault}; RETURN NEW; END $$;
      CREATE TRIGGER at_fault BEFORE INSERT ON leaf_note FOR EACH ROW EXECUTE FUNCTION at_fault();`);
    const own = await startServer(cell.database.appUrl, { STATEMENT_TIMEOUT_MS: '800' });
    try {
      const lead = new Visitor(own.url);
      await lead.enter(...PINS.lead!);
      const note = () => lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text });
      const told = await answerOf(await note());
      expect(told.status).toBeLessThan(500);
      expect(told.data).toContain(words);
      await asOwner('DROP TRIGGER at_fault ON leaf_note');
      expect((await answerOf(await note())).type).toBe('success');
    } finally {
      await own.stop();
      await asOwner('DROP FUNCTION at_fault CASCADE');
    }
  });
  it('the live stream says what it is without being opened, and ends for whoever signs out', async () => {
    const operator = new Visitor(server.url);
    await operator.enter(...PINS.operator!);
    const head = await fetch(`${server.url}/live`, { method: 'HEAD', headers: { cookie: operator.cookie } });
    expect([head.status, head.headers.get('content-type')]).toEqual([200, 'text/event-stream']);
    const stream = await operator.get('/live', 'text/event-stream');
    const reader = stream.body!.getReader();
    await reader.read();
    await operator.send('/sign-in?/leave', {});
    const ended = await Promise.race([
      (async () => {
        for (;;) if ((await reader.read()).done) return true;
      })(),
      new Promise((resolve) => setTimeout(() => resolve(false), 5_000)),
    ]);
    expect(ended).toBe(true);
  });
});

describe('what is sent pressed', () => {
  /** An answer as it goes over the line, and what it is when unpacked. */
  const over = (path: string, accept: string) =>
    new Promise<{ encoding: string | undefined; sent: number; text: string }>((resolve, reject) => {
      const asked = request(
        server.url + path,
        { headers: { 'accept-encoding': accept, accept: 'text/html', cookie: visitor('viewer').cookie } },
        (answer) => {
          const pieces: Buffer[] = [];
          answer.on('data', (piece: Buffer) => pieces.push(piece));
          answer.on('end', () => {
            const all = Buffer.concat(pieces);
            const encoding = answer.headers['content-encoding'];
            resolve({
              encoding,
              sent: all.length,
              text: (encoding === 'gzip' ? gunzipSync(all) : all).toString(),
            });
          });
        },
      );
      asked.on('error', reject);
      asked.end();
    });

  it('a page is sent pressed to whoever reads that, and plain to whoever does not', async () => {
    const [pressed, plain] = [await over('/machines', 'gzip, br'), await over('/machines', 'identity')];
    expect(pressed.encoding).toBe('gzip');
    expect(plain.encoding).toBeUndefined();
    expect(pressed.text).toContain('Avocet');
    expect(plain.text).toContain('Avocet');
    expect(pressed.sent).toBeLessThan(plain.sent / 2);
  });
});
