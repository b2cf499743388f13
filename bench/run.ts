// npm run bench: figures as ratios against a reference in the same run, since the machine's own speed drifts.
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { parseStringSync } from 'gcode-parser';
import { dialectSchema } from '../src/core/program/dialect.ts';
import { readProgram } from '../src/core/program/read-program.ts';
import { openCorrectionCount } from '../src/server/corrections.ts';
import { leafOf } from '../src/server/leaf.ts';
import { machines } from '../src/server/machines.ts';
import { personOf } from '../src/server/people.ts';
import { cellOf } from '../src/server/cell.ts';
import { correcting } from './correcting.ts';
import { explaining } from './explaining.ts';
import { playing } from './playing.ts';
import { polling } from './polling.ts';
import { learning } from './learning.ts';
import { layouts } from './layout.ts';
import { memory } from './memory.ts';
import { listeners } from './listeners.ts';
import { large } from './large.ts';
import { least } from './least.ts';
import { median, percentile, type Row } from './row.ts';
import { rooms } from './room.ts';
import { steady } from './steady.ts';
import { switching } from './switching.ts';
import { closePool, pool, row } from '../src/server/db.ts';
import { findAssemblies } from '../src/server/assemblies.ts';
import { findComponents } from '../src/server/components.ts';
import { draftById, lookAt, takeDraft } from '../src/server/imports.ts';
import { shiftAt } from '../src/core/shift/calendar.ts';
import { asSuperuser, freshDatabase } from '../tests/support/databases.ts';
import { PINS, startServer, Visitor } from '../tests/support/server.ts';

const rows: Row[] = [];

/** Runs both in turn, so that a slow spell of the machine falls on both. */
function inTurn(times: number, one: () => void, other: () => void): [number, number] {
  const took: [number[], number[]] = [[], []];
  for (let i = 0; i < times; i += 1)
    for (const [index, work] of [one, other].entries()) {
      const began = performance.now();
      work();
      took[index]!.push(performance.now() - began);
    }
  return [median(took[0]), median(took[1])];
}

function readingNc(): void {
  const dialect = dialectSchema.parse(
    (JSON.parse(readFileSync('demo/machines/avocet.json', 'utf8')) as { dialect: unknown }).dialect,
  );
  const part = readFileSync('demo/programs/O2310-cover-plate.nc', 'utf8')
    .replaceAll('%', '')
    .replace(/M30/g, '')
    .replace(/O2310/g, '(');
  const text = `O1\n${part.repeat(Math.ceil(16_000_000 / part.length))}\nM30\n`;
  const megabytes = text.length / 1e6;
  let calls = 0;
  let lines = 0;
  let mouldLines = 0;
  const [read, split] = inTurn(
    7,
    () => {
      const result = readProgram(text, dialect);
      calls = result.ok ? result.reading.calls.length : 0;
    },
    () => (lines = text.split('\n').length),
  );
  // a path of a mould: hundreds of thousands of positions under one tool; and the general-purpose parser of the registry on the same
  const path = ['O1', 'T1 M6', 'S9000 M3', 'G43 H1 Z50.', 'F800.'];
  for (let i = 0; i < 250_000; i += 1)
    path.push(
      `G1 X${((i % 997) * 0.137).toFixed(3)} Y${((i % 773) * 0.211).toFixed(3)} Z-${((i % 13) * 0.05).toFixed(3)}`,
    );
  const mould = [...path, 'M30'].join('\n');
  const [whole, parsed] = inTurn(
    5,
    () => void readProgram(mould, dialect),
    () => void parseStringSync(mould),
  );
  const [again, mouldSplit] = inTurn(
    7,
    () => void readProgram(mould, dialect),
    () => (mouldLines = mould.split('\n').length),
  );
  rows.push({
    what: `NC reading, ${(mould.length / 1e6).toFixed(0)} MB of positions`,
    ours: `${(mould.length / 1e3 / whole).toFixed(1)} MB/s`,
    reference: `${(mould.length / 1e3 / parsed).toFixed(1)} MB/s by gcode-parser, which only takes words apart`,
    ratio: `${(parsed / whole).toFixed(1)} × as fast`,
  });
  rows.push({
    what: `NC reading, the same positions, ${mouldLines} lines`,
    ours: `${(mould.length / 1e3 / again).toFixed(1)} MB/s`,
    reference: `${(mould.length / 1e3 / mouldSplit).toFixed(0)} MB/s splitting into lines`,
    ratio: `${((100 * mouldSplit) / again).toFixed(0)} % as fast`,
  });
  rows.push({
    what: `NC reading, ${megabytes.toFixed(0)} MB, ${lines} lines, ${calls} tool calls`,
    ours: `${(megabytes / (read / 1000)).toFixed(1)} MB/s`,
    reference: `${(megabytes / (split / 1000)).toFixed(0)} MB/s splitting into lines`,
    ratio: `${(read / split).toFixed(1)} × the time`,
  });
}

interface Statement {
  text: string;
  values: unknown[];
}

/** The statements that a piece of work sends to the database, in order. */
async function statementsOf(work: () => Promise<unknown>): Promise<Statement[]> {
  const shared = pool();
  const plain = shared.query.bind(shared) as (text: string, values?: unknown[]) => Promise<pg.QueryResult>;
  const sent: Statement[] = [];
  shared.query = ((text: string, values: unknown[] = []) => {
    sent.push({ text, values });
    return plain(text, values);
  }) as typeof shared.query;
  await work();
  shared.query = plain as typeof shared.query;
  return sent;
}

/** A leaf over HTTP from a running server, against the sum of the times of the very SQL statements behind it. */
async function leafRequest(): Promise<void> {
  const database = await freshDatabase('tin_demo');
  const server = await startServer(database.appUrl);
  const lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  const cell = await cellOf(pool());
  const shift = shiftAt(new Date(), cell.patterns, cell.timeZone)!;
  const [date, name] = shift.key.split('/') as [string, string];
  const sent = await statementsOf(async () => {
    await personOf('the session');
    await cellOf(pool());
    await openCorrectionCount(pool());
    await leafOf(date, name, new Date());
    await machines(pool());
  });
  const requests: number[] = [];
  const statements: number[] = [];
  for (let i = 0; i < 60; i += 1) {
    let began = performance.now();
    await (await lead.get(`/leaf/${shift.key}`)).text();
    requests.push(performance.now() - began);
    const client = await pool().connect();
    began = performance.now();
    for (const { text, values } of sent) await client.query(text, values);
    statements.push(performance.now() - began);
    client.release();
  }
  const [request, queries] = [median(requests.slice(10)), median(statements.slice(10))];
  rows.push({
    what: 'a leaf: request to last byte, median of 50',
    ours: `${request.toFixed(1)} ms (95th percentile ${percentile(requests.slice(10), 0.95).toFixed(1)})`,
    reference: `${queries.toFixed(1)} ms, its ${sent.length} SQL statements one after the other`,
    ratio: `${(request / queries).toFixed(2)} ×`,
  });
  await server.stop();
}

/** A cell of fifty thousand assemblies and two hundred thousand components. */
const LARGE = `
INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth)
SELECT 'Q-' || i, (ARRAY['End mill','Drill','Tap','Reamer','Ball mill'])[1 + i % 5] || ' ' || (i % 240) / 10.0 || ' ' || (ARRAY['rough','finish','long','short'])[1 + i % 4],
  (ARRAY['endMill','drill','tap','reamer','ballMill'])[1 + i % 5], 'steep 40', 'collet chuck ' || i % 32, (i % 240 + 1) * 100000, 0, 40000000, 120000000, 40000000, 4
FROM generate_series(1, 50000) i;
INSERT INTO component (number, name, kind, dimensions, shelf)
SELECT 'P-' || i, (ARRAY['End mill','Drill','Collet','Insert','Holder'])[1 + i % 5] || ' ' || (i % 240) / 10.0, (ARRAY['endMillSharp','drillStub','collet','insert','sideLock'])[1 + i % 5],
  jsonb_build_object('DC', (i % 240 + 1) * 100000), 'S' || i % 90
FROM generate_series(1, 200000) i;
`;

const QUESTIONS = [
  'q-4711',
  'drill 6.8',
  'end mill 12',
  'tap',
  'reamer 8 long',
  'ball',
  'mill 3.2 finish',
  'q-9',
  'chuck 16 rough',
  'zzz',
];

/** Find-as-you-type over HTTP, against the bare SQL of finding one number. */
async function finding(): Promise<void> {
  const database = await freshDatabase('tin_demo');
  await asSuperuser((client) => client.query(LARGE), database.name);
  await asSuperuser((client) => client.query('VACUUM ANALYZE'), database.name);
  const server = await startServer(database.appUrl);
  const lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  for (const [what, path, find] of [
    ['tools (50 000)', '/tools/rows', (words: string) => findAssemblies(pool(), words)],
    ['components (200 000)', '/crib/rows', (words: string) => findComponents(pool(), words, [])],
  ] as const) {
    const asked: number[] = [];
    const bare: number[] = [];
    for (let i = 0; i < 220; i += 1) {
      const words = QUESTIONS[i % QUESTIONS.length]!;
      let began = performance.now();
      await (await lead.get(`${path}?words=${encodeURIComponent(words)}`, 'application/json')).text();
      asked.push(performance.now() - began);
      const [statement] = i < QUESTIONS.length ? await statementsOf(() => find(words)) : [null];
      if (statement) kept.set(`${path} ${words}`, statement);
      const { text, values } = kept.get(`${path} ${words}`)!;
      const client = await pool().connect();
      began = performance.now();
      await client.query(text, values);
      bare.push(performance.now() - began);
      client.release();
    }
    const [ours, reference] = [percentile(asked.slice(20), 0.95), percentile(bare.slice(20), 0.95)];
    rows.push({
      what: `find as you type, ${what}: 95th percentile of 200 over ten questions`,
      ours: `${ours.toFixed(1)} ms at the server, request to last byte (median ${median(asked.slice(20)).toFixed(1)})`,
      reference: `${reference.toFixed(1)} ms, its bare SQL`,
      ratio: `${(ours / reference).toFixed(2)} ×`,
    });
  }
  await server.stop();
}
const kept = new Map<string, Statement>();

/** Fifty thousand assemblies from a file, with every entry that says so, against a bare COPY of the same rows. */
async function importing(): Promise<void> {
  await closePool();
  await freshDatabase('tin_demo');
  const heading = 'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter';
  const lines = Array.from(
    { length: 50_000 },
    (_, i) => `I-${i},End mill ${i % 30},endMill,steep 40,10,36,118.5,50`,
  );
  const content = `${heading}\n${lines.join('\n')}\n`;
  const crib = (await row<{ id: number }>(pool(), "SELECT id FROM person WHERE role = 'crib'", []))!.id;
  const asking = () => ({ key: randomUUID(), personId: crib });
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20);
  const began = performance.now();
  const draft = await lookAt(asking(), { fileName: 'many.csv', content });
  if (!draft.ok) throw new Error(draft.reason);
  await takeDraft(asking(), draft.value.id);
  while ((await draftById(pool(), draft.value.id))!.state === 'running')
    await new Promise((done) => setTimeout(done, 50));
  const ours = performance.now() - began;
  clearInterval(watch);
  const { state } = (await draftById(pool(), draft.value.id))!;
  const client = await pool().connect();
  await client.query(
    'CREATE TEMP TABLE bare (number text, name text, kind text, interface text, d float, s float, g float, h float)',
  );
  const start = performance.now();
  const copy = client.query(copyFrom('COPY bare FROM STDIN WITH (FORMAT csv, HEADER)'));
  await pipeline(Readable.from([content]), copy);
  const reference = performance.now() - start;
  client.release();
  rows.push({
    what: `import of 50 000 assemblies, looked at and taken (${state}), ${((most - before) / 1e6).toFixed(0)} MB more memory at most`,
    ours: `${(ours / 1000).toFixed(1)} s, one ledger entry each`,
    reference: `${(reference / 1000).toFixed(2)} s, a bare COPY into a table without keys`,
    ratio: `${(ours / reference).toFixed(0)} × the time`,
  });
}

const ALL = {
  reading: readingNc,
  leaf: leafRequest,
  finding,
  importing,
  correcting: () => void rows.push(...correcting()),
  explaining: () => void rows.push(...explaining()),
  polling: async () => void rows.push(...(await polling())),
  listeners: async () => void rows.push(...(await listeners())),
  playing: async () => void rows.push(...(await playing())),
  memory: () => void rows.push(...memory()),
  learning: () => void rows.push(...learning()),
  room: () => void rows.push(...rooms()),
  switching: () => void rows.push(...switching()),
  layout: async () => void rows.push(...(await layouts())),
  // minutes: only where they are asked for
  '--least': () => void rows.push(...least()),
  '--steady': async () => void rows.push(...(await steady())),
  '--large': async () => void rows.push(...(await large())),
} as const;
const wanted = process.argv.slice(2);
for (const [name, measure] of Object.entries(ALL))
  if (wanted.length === 0 ? !name.startsWith('--') : wanted.includes(name)) await measure();
await closePool();
for (const { what, ours, reference, ratio } of rows)
  console.log(`${what}\n    ours       ${ours}\n    reference  ${reference}\n    ratio      ${ratio}\n`);
process.exit(0);
