/** Open pages of a plant: how soon all hear an entry, and how soon those that show it have it. */
import { concerns, type Told } from '../src/lib/live/concerns.ts';
import { PACE, refresher } from '../src/lib/live/refresher.ts';
import { closePool, pool, row } from '../src/server/db.ts';
import { freshDatabase } from '../tests/support/databases.ts';
import { hear } from '../tests/support/hearing.ts';
import { answerOf, PINS, startServer, until, Visitor } from '../tests/support/server.ts';
import { median, percentile, type Row } from './row.ts';

const PAGES = 500;
/** What is open in a plant: mostly the machines' own pages, some of the cell's. */
const OPEN = [
  '/machines/{}/now',
  '/machines/{}/now',
  '/machines/{}',
  '/machines/{}/numbers',
  '/machines',
  '/today',
];

interface Page {
  path: string;
  route: string;
  machine: number | null;
}

export async function listeners(): Promise<Row[]> {
  await closePool();
  const database = await freshDatabase('tin_demo');
  const server = await startServer(database.appUrl, { STATEMENT_TIMEOUT_MS: '60000' });
  const lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  const leaf = (await lead.get('/leaf')).headers.get('location')!;
  const pages = Array.from({ length: PAGES }, (_, i): Page => {
    if (i % 10 === 0) return { path: leaf, route: '/leaf/[date]/[shift]', machine: null };
    const machine = (i % 6) + 1;
    const shape = OPEN[i % OPEN.length]!;
    return {
      path: shape.replace('{}', String(machine)),
      route: shape.replace('{}', '[id]'),
      machine: shape.includes('{}') ? machine : null,
    };
  });
  const load = async ({ path }: Page) => {
    const answer = await lead.get(`${path}/__data.json`, '*/*');
    await answer.arrayBuffer();
    return answer.status;
  };
  for (const page of pages.slice(0, 30)) await load(page);

  let heardAt: number[] = [];
  let hadAt: number[] = [];
  const statuses = new Map<number, number>();
  let busy = 0;
  const streams = await Promise.all(
    pages.map(async (page) => {
      const stream = await hear(lead, server.url);
      const again = refresher(async () => {
        busy += 1;
        const status = await load(page);
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        hadAt.push(performance.now());
        busy -= 1;
      }, PACE);
      stream.onTold = (line) => {
        const told = JSON.parse(line) as Told;
        if (told.kind === ('state' as never)) return;
        heardAt.push(performance.now());
        if (concerns(told, page.route, page.machine)) again.tell();
      };
      return { ...stream, again };
    }),
  );
  // what they hear when they begin
  await until(() => streams.every(({ told }) => told.length > 0));
  const still = async () => {
    let last = -1;
    await until(async () => {
      const before = last;
      last = hadAt.length;
      await new Promise((resolve) => setTimeout(resolve, 1500));
      return busy === 0 && before === last;
    }, 120_000);
  };
  await still();
  const rows: Row[] = [];
  const measured = async (what: string, happen: () => Promise<unknown>) => {
    [heardAt, hadAt] = [[], []];
    statuses.clear();
    const began = performance.now();
    const done = await happen();
    if ((done as { type?: string }).type !== 'success') throw new Error(`${what}: ${JSON.stringify(done)}`);
    await until(() => heardAt.length >= PAGES, 60_000);
    await still();
    const said = [...statuses].map(([status, count]) => `${count} × ${status}`).join(', ');
    rows.push({
      what: `${what}, ${PAGES} open pages of one process: ${hadAt.length} ask again (${said || 'none'})`,
      ours: `heard by all ${(Math.max(...heardAt) - began).toFixed(0)} ms after it was sent, half have it after ${hadAt.length > 0 ? (median(hadAt) - began).toFixed(0) : 0} ms, all after ${hadAt.length > 0 ? (Math.max(...hadAt) - began).toFixed(0) : 0} ms`,
      reference: '',
      ratio: '',
    });
    return hadAt.length > 0 ? Math.max(...hadAt) - began : 0;
  };
  await measured('A note on the leaf', async () =>
    answerOf(await lead.send(`${leaf}?/note`, { kind: 'note', machine: '', text: 'bench' })),
  );
  const job = await row<{ id: number; made: number }>(
    pool(),
    `SELECT id, made FROM job WHERE machine_id = 4 AND state = 'running'`,
  );
  await measured('A part of one machine', async () =>
    answerOf(
      await lead.send('/machines/4/now?/parts', {
        job: String(job!.id),
        before: String(job!.made),
        parts: '1',
        source: '',
      }),
    ),
  );
  const took: number[] = [];
  const began = performance.now();
  await Promise.all(
    pages.map(async (page) => {
      await load(page);
      took.push(performance.now() - began);
    }),
  );
  rows.push({
    what: `As reference, every one of ${PAGES} asks for everything at once`,
    ours: '',
    reference: `half after ${median(took).toFixed(0)} ms, 95 of 100 after ${percentile(took, 0.95).toFixed(0)} ms, all after ${Math.max(...took).toFixed(0)} ms`,
    ratio: '',
  });
  streams.forEach(({ stop, again }) => {
    again.stop();
    stop();
  });
  await server.stop();
  return rows;
}
