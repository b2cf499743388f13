import { afterAll, beforeAll, expect, it } from 'vitest';
import { freshDatabase } from '../support/databases.ts';
import { lineTo, type Line } from '../support/line.ts';
import { answerOf, PINS, startServer, until, Visitor, type RunningServer } from '../support/server.ts';

/** A network that swallows what is sent, as a firewall that forgot a line does: nobody is refused, and nobody is answered. */
let line: Line;
let server: RunningServer;
let lead: Visitor;
beforeAll(async () => {
  const url = new URL((await freshDatabase('tin_demo')).appUrl);
  line = await lineTo(url.hostname, Number(url.port));
  url.hostname = '127.0.0.1';
  url.port = String(line.port);
  server = await startServer(url.href, { STATEMENT_TIMEOUT_MS: '2000' });
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
});
afterAll(async () => {
  await server.stop('SIGKILL');
  await line.cut();
});

const note = (text: string, key: string) =>
  lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text, key });
const kept = async (text: string) =>
  (await (await lead.get('/ledger/csv')).text()).split(`Note: ${text}`).length - 1;

it('lines to the database that swallow what is sent: everybody is answered long before the network gives up, and an act that is sent again is done once', async () => {
  // several lines are in use
  await Promise.all(Array.from({ length: 8 }, () => lead.get('/machines')));
  line.hush();
  const key = crypto.randomUUID();
  const answers = await Promise.all([
    note('into silence', key),
    ...Array.from({ length: 6 }, () => lead.get('/corrections')),
  ]);
  for (const answer of answers) expect([200, 503]).toContain(answer.status);
  expect(answers.some(({ status }) => status === 503)).toBe(true);
  // new lines are as they should be: it goes on by itself
  await until(async () => (await lead.get('/machines')).status === 200, 30_000);
  await until(async () => {
    const again = await note('into silence', key);
    return again.status === 200 && (await answerOf(again)).type === 'success';
  }, 30_000);
  expect(await kept('into silence')).toBe(1);
}, 120_000);
