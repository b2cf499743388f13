// npm run bench: figures as ratios against a reference in the same run, since the machine's own speed drifts.
import { readFileSync } from 'node:fs';
import pg from 'pg';
import { dialectSchema } from '../src/core/program/dialect.ts';
import { readProgram } from '../src/core/program/read-program.ts';
import { openCorrectionCount } from '../src/server/corrections.ts';
import { leafOf } from '../src/server/leaf.ts';
import { machines } from '../src/server/machines.ts';
import { personOf } from '../src/server/people.ts';
import { cellOf } from '../src/server/cell.ts';
import { closePool, pool } from '../src/server/db.ts';
import { shiftAt } from '../src/core/shift/calendar.ts';
import { freshDatabase } from '../tests/support/databases.ts';
import { PINS, startServer, Visitor } from '../tests/support/server.ts';

const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const percentile = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]!;
const rows: Record<string, string>[] = [];

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
  const [read, split] = inTurn(
    7,
    () => {
      const result = readProgram(text, dialect);
      calls = result.ok ? result.reading.calls.length : 0;
    },
    () => (lines = text.split('\n').length),
  );
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
  await lead.signIn(...PINS.lead!);
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

readingNc();
await leafRequest();
await closePool();
for (const { what, ours, reference, ratio } of rows)
  console.log(`${what}\n    ours       ${ours}\n    reference  ${reference}\n    ratio      ${ratio}\n`);
process.exit(0);
