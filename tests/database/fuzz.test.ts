import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ACCESS } from '../../src/core/people/access.ts';
import { closePool } from '../../src/server/db.ts';
import { asSuperuser } from '../support/databases.ts';
import { seeded } from '../support/seeded.ts';
import { ONE_LINE, PINS, startServer, Visitor, type RunningServer } from '../support/server.ts';
import { weirside } from '../support/cell.ts';

/** How many inputs are made, and from which seed: `FUZZ_INPUTS=1000000 FUZZ_SEED=7` for a night. */
const INPUTS = Number(process.env.FUZZ_INPUTS ?? 1000);
const SEED = Number(process.env.FUZZ_SEED ?? 1);
let cell: Awaited<ReturnType<typeof weirside>>;
let server: RunningServer;
let lead: Visitor;
beforeAll(async () => {
  cell = await weirside();
  server = await startServer(cell.database.appUrl);
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
});
afterAll(async () => {
  await server.stop();
  await closePool();
});

const chance = seeded(SEED);
const one = <T>(all: readonly T[]): T => all[Math.floor(chance() * all.length)]!;
const whole = (most: number) => Math.floor(chance() * most);

/** Values that somebody types, a scanner sends or an attacker makes up. */
const STRANGE = [
  '',
  ' ',
  '0',
  '-0',
  '-1',
  '1',
  '2',
  '3',
  '007',
  '1e3',
  '1e309',
  '-1e-309',
  'NaN',
  'Infinity',
  '0x10',
  '2147483647',
  '2147483648',
  '9007199254740993',
  '99999999999999999999',
  '1.5',
  '1,5',
  '−0.010',
  '+0.02',
  '1.2.3',
  '1.2345678901234567890',
  '12.7mm',
  '0.5in',
  '3thou',
  '1+2*(3',
  '1/0',
  '((((((((((1))))))))))',
  'on',
  'true',
  'null',
  'undefined',
  '[]',
  '{}',
  '{"tools":[],"out":[]}',
  '{"__proto__":{"a":1}}',
  '__proto__',
  'constructor',
  '<script>alert(1)</script>',
  `'; DROP TABLE ledger; --`,
  '%00',
  'a\u0000b',
  '\u202e\u0301',
  '٣٤٥',
  '🛠'.repeat(50),
  'x'.repeat(5000),
  '../../etc/passwd',
  '2026-11-23',
  '2026-02-30',
  '0000-00-00',
  '24:00',
  '12:60',
  '9:30',
  'T5',
  'O1402',
  'A-101',
  '\r\nSet-Cookie: a=b',
  '=1+1',
  '\uD800',
  '-',
  '.',
  ';',
  '1;2;3',
  '1;;2',
  'wear',
  'lead',
  'mill',
  'start',
  'finish',
  'typed',
] as const;
const value = () =>
  chance() < 0.85
    ? one(STRANGE)
    : Array.from({ length: 1 + whole(40) }, () =>
        String.fromCodePoint(1 + whole(chance() < 0.8 ? 126 : 0xd000)),
      ).join('');

const acts = Object.entries(ACCESS)
  .filter(([name, needed]) => name.includes('?/') && needed !== 'anyone')
  // who signs in and who may do what stays, or nobody is left to try the rest
  .filter(([name]) => !/^\/people|^\/connections|sign-in/.test(name));
/** Names of fields that a page's source speaks of: those that are given are looked at further. */
const fields = new Map<string, string[]>();
function fieldsOf(route: string): string[] {
  let known = fields.get(route);
  if (!known) {
    const file = join('src/routes', route, '+page.server.ts');
    const text = existsSync(file) ? readFileSync(file, 'utf8') : '';
    known = [...new Set([...text.matchAll(/\b([a-z][A-Za-z]{1,24})\b\s*:/g)].map(([, name]) => name!))];
    known.push(
      'why',
      'text',
      'first',
      'unsure',
      'job',
      'machine',
      'shown.1',
      'again.1',
      'wanted',
      'row.1',
      'confirm0',
    );
    fields.set(route, known);
  }
  return known;
}
const place = (route: string) =>
  route
    .replace('[date]', '2026-11-23')
    .replace('[shift]', 'late')
    .replace('[id]', String(1 + whole(6)));

async function standsStill() {
  expect(server.child.exitCode).toBeNull();
  expect((await lead.get('/machines')).status).toBe(200);
  const wrong = await asSuperuser(
    async (client) => (await client.query('SELECT * FROM ledger_disagreement')).rows as unknown[],
    cell.database.name,
  );
  expect(wrong).toEqual([]);
}

describe('made-up input', () => {
  it(`${INPUTS} forms of every act are answered with a sentence, and every sum still holds`, async () => {
    const wrong: string[] = [];
    for (let i = 0; i < INPUTS; i += 1) {
      const [name] = acts[i % acts.length]!;
      const [route, act] = name.split('?/') as [string, string];
      const form: Record<string, string> = {};
      for (const field of fieldsOf(route)) if (chance() < 0.7) form[field] = value();
      for (let more = whole(3); more > 0; more -= 1) form[value().slice(0, 60) || 'x'] = value();
      const answer = await lead.send(`${place(route)}?/${act}`, form);
      const text = await answer.text();
      if (answer.status >= 500 || text.includes('Something went wrong'))
        wrong.push(
          `input ${i} of seed ${SEED}, ${name}: ${answer.status} ${text.slice(0, 200)} to ${JSON.stringify(form).slice(0, 1500)}`,
        );
    }
    expect(wrong).toEqual([]);
    await standsStill();
  }, 600_000);

  it(`${INPUTS} addresses are answered`, async () => {
    const routes = Object.keys(ACCESS).filter(
      (name) =>
        !name.includes('?') &&
        !['/live', '/machines/[id]/sheet/gauges', '/machines/[id]/plan', '/machines/[id]/jobs'].includes(
          name,
        ),
    );
    const names = [
      'id',
      'program',
      'tool',
      'from',
      'to',
      'kind',
      'machine',
      'feature',
      'before',
      'after',
      'q',
      'page',
      'rows',
      'block',
      'numbers',
      'month',
      'words',
      'line',
      'register',
      'risk',
      'to',
    ];
    const wrong: string[] = [];
    for (let i = 0; i < INPUTS / 4; i += 1) {
      const query = new URLSearchParams(Array.from({ length: 1 + whole(3) }, () => [one(names), value()]));
      const path = `${place(one(routes)).replace(
        /\[[^\]]*\]/g,
        encodeURIComponent(
          value()
            .slice(0, 40)
            .replace(/[\uD800-\uDFFF]/g, ''),
        ) || 'x',
      )}?${query.toString()}`;
      const answer = await fetch(server.url + path, {
        headers: {
          ...ONE_LINE,
          cookie: lead.cookie,
          accept: chance() < 0.5 ? 'text/html' : 'application/json',
        },
        redirect: 'manual',
      });
      const text = await answer.text();
      if (answer.status >= 500) wrong.push(`${i} of seed ${SEED}, ${path}: ${text.slice(0, 200)}`);
    }
    expect(wrong).toEqual([]);
    await standsStill();
  }, 600_000);

  it('files that are cut, mixed up or made up are read or refused', async () => {
    const bases = [
      'number,name,kind,diameter\nA-900,Drill 8,drill,8\n',
      '{"assemblies":[{"number":"A-900"}]}',
      '<?xml version="1.0"?><CuttingToolArchetype/>',
      '%\nO7150 (FUZZ)\nG21\nT1 M6\nG43 H1 Z5.\nG1 X1. F100\nM30\n%',
      'PK\u0003\u0004',
    ];
    for (let i = 0; i < INPUTS / 10; i += 1) {
      let bytes = Buffer.from(one(bases));
      for (let change = whole(12); change > 0; change -= 1) {
        const at = whole(bytes.length + 1);
        const how = whole(4);
        if (how === 0)
          bytes = Buffer.concat([bytes.subarray(0, at), Buffer.from([whole(256)]), bytes.subarray(at)]);
        else if (how === 1) bytes = bytes.subarray(0, at);
        else if (how === 2) bytes = Buffer.concat([bytes, bytes.subarray(0, at)]).subarray(0, 20_000);
        else bytes = Buffer.concat([bytes.subarray(0, at), Buffer.from(value()), bytes.subarray(at)]);
      }
      for (const [path, field, name] of [
        ['/tools/import?/look', 'file', one(['a.csv', 'a.json', 'a.xml', 'a.xlsx', 'a'])],
        ['/programs?/bringIn', 'file', 'O7150.nc'],
      ] as const) {
        const form = new FormData();
        form.set('key', crypto.randomUUID());
        form.set('kind', one(['assemblies', 'components', 'x']));
        form.set('machine', String(1 + whole(6)));
        form.set(field, new Blob([new Uint8Array(bytes)]), name);
        const body = await new Response(form).blob();
        const answer = await fetch(server.url + path, {
          method: 'POST',
          headers: {
            ...ONE_LINE,
            cookie: lead.cookie,
            origin: server.url,
            'sec-fetch-site': 'same-origin',
            accept: 'application/json',
            'x-sveltekit-action': 'true',
            'content-type': body.type,
          },
          body,
        });
        const text = await answer.text();
        expect(
          answer.status,
          `${i} of seed ${SEED}, ${path}: ${text.slice(0, 300)} to ${bytes.toString('hex').slice(0, 400)}`,
        ).toBeLessThan(500);
        expect(text).not.toContain('Something went wrong');
      }
      // what was looked at is shown
      const [draft] = await asSuperuser(
        async (client) =>
          (await client.query<{ id: number }>('SELECT max(id)::integer AS id FROM import_draft')).rows,
        cell.database.name,
      );
      if (draft?.id) {
        const shown = await lead.get(`/tools/import?draft=${draft.id}`);
        expect(shown.status, `the look of ${i} of seed ${SEED}`).toBeLessThan(500);
        void shown.body?.cancel();
      }
    }
    await standsStill();
  }, 600_000);
});
