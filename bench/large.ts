/** Pages on a cell of a plant's size: how long they take beside their own SQL, how much they send, and how much is read for them. */
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { connectionSettings } from '../src/server/db.ts';
import { asSuperuser, freshDatabase } from '../tests/support/databases.ts';
import { PINS, startServer, Visitor } from '../tests/support/server.ts';
import { fill, type Size } from './large-cell.ts';
import { median, percentile, type Row } from './row.ts';

/** PLANT_SHARE=0.05 for a quick look. PLANT_YEARS=5 for five times the past behind the same cell: five million readings, ten million entries. */
const SHARE = Number(process.env.PLANT_SHARE ?? 1);
const YEARS = Number(process.env.PLANT_YEARS ?? 1);
const PLANT: Size = {
  machines: 42,
  pasts: Math.ceil(29 * SHARE * YEARS),
  assemblies: 50_000 * SHARE,
  components: 200_000 * SHARE,
  programs: 2000 * SHARE,
  readings: 1_000_000 * SHARE * YEARS,
};
const PAGES = [
  '/leaf',
  '/today',
  '/machines',
  '/machines/1',
  '/machines/1/now',
  '/machines/1/load',
  '/machines/1/control',
  '/machines/across',
  '/tools',
  '/crib',
  '/programs',
  '/programs/1/tools',
  '/corrections',
  '/since',
  '/ahead',
  '/ledger',
  '/people',
];
const TIMES = 12;
/** Work that is the same whatever a page asks and however large the cell is: beside it growth shows that a page's own statements hide. */
const FIXED = 'SELECT sum(i::bigint * i % 7) FROM generate_series(1, 300000) i';

/** Bytes went out as numbers. */
const bytesAgain = (_: string, value: unknown): unknown =>
  typeof value === 'object' && value !== null && 'type' in value && value.type === 'Buffer' && 'data' in value
    ? Buffer.from(value.data as number[])
    : value;

interface Sent {
  text: string;
  values: unknown[];
}
interface Plan {
  'Shared Hit Blocks': number;
  'Shared Read Blocks': number;
}

export async function large(size: Size = PLANT): Promise<Row[]> {
  const database = await freshDatabase('tin_demo');
  const began = performance.now();
  await asSuperuser((client) => fill(client, size), database.name);
  const filled = ((performance.now() - began) / 1000).toFixed(0);
  const folder = mkdtempSync(join(tmpdir(), 'tin-spy-'));
  const file = join(folder, 'sent.jsonl');
  writeFileSync(file, '');
  const server = await startServer(database.appUrl, {
    NODE_OPTIONS: `--import ${join(import.meta.dirname, 'spy.mjs')}`,
    TIN_SPY: file,
  });
  const lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  const client = new pg.Client(connectionSettings());
  await client.connect();
  const rows: Row[] = [];
  for (const named of PAGES) {
    let path = named;
    await (await lead.get(path)).text();
    writeFileSync(file, '');
    let first = await lead.get(path);
    // the leaf of the shift that is on
    const on = first.headers.get('location');
    if (on) {
      path = on;
      writeFileSync(file, '');
      first = await lead.get(path);
    }
    const bytes = (await first.text()).length;
    const sent = readFileSync(file, 'utf8')
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line, bytesAgain) as Sent)
      .filter(({ text }) => /^\s*(SELECT|WITH)/.test(text));
    let blocks = 0;
    let worst = { blocks: -1, text: '' };
    for (const { text, values } of sent) {
      const { rows: plan } = await client.query<{ 'QUERY PLAN': { Plan: Plan }[] }>(
        `EXPLAIN (ANALYZE, BUFFERS, FORMAT JSON) ${text}`,
        values,
      );
      const top = plan[0]!['QUERY PLAN'][0]!.Plan;
      const own = top['Shared Hit Blocks'] + top['Shared Read Blocks'];
      blocks += own;
      if (own > worst.blocks) worst = { blocks: own, text: text.replace(/\s+/g, ' ').slice(0, 100) };
    }
    const took: number[] = [];
    const bare: number[] = [];
    const fixed: number[] = [];
    for (let i = 0; i < TIMES; i += 1) {
      let start = performance.now();
      await (await lead.get(path)).text();
      took.push(performance.now() - start);
      start = performance.now();
      for (const { text, values } of sent) await client.query(text, values);
      bare.push(performance.now() - start);
      start = performance.now();
      await client.query(FIXED);
      fixed.push(performance.now() - start);
    }
    rows.push({
      what: `${path} of ${size.machines} machines${named === PAGES[0] ? ` (filled in ${filled} s)` : ''}: status ${first.status}, ${(bytes / 1000).toFixed(0)} kB, ${sent.length} statements, ${blocks} blocks read, ${worst.blocks} of them by "${worst.text} …"`,
      ours: `${median(took).toFixed(0)} ms, 95th percentile ${percentile(took, 0.95).toFixed(0)}`,
      reference: `${median(bare).toFixed(0)} ms, its statements one after the other; ${median(fixed).toFixed(0)} ms, a sum over three hundred thousand numbers`,
      ratio: `${(median(took) / median(bare)).toFixed(2)} × its statements, ${(median(took) / median(fixed)).toFixed(2)} × the sum`,
    });
  }
  await client.end();
  await server.stop();
  if (existsSync(folder)) rmSync(folder, { recursive: true });
  return rows;
}
