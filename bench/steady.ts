/** Whether a process stays as it is: its memory over many requests, with live streams open all the while. */
import { readFileSync } from 'node:fs';
import { hear } from '../tests/support/hearing.ts';
import { freshDatabase } from '../tests/support/databases.ts';
import { PINS, startServer, Visitor } from '../tests/support/server.ts';
import type { Row } from './row.ts';

const REQUESTS = Number(process.env.STEADY_REQUESTS ?? 100_000);
const [STREAMS, AT_ONCE] = [50, 16];
const PAGES = [
  '/machines/1/now',
  '/machines/3/key',
  '/corrections',
  '/machines/4',
  '/tools',
  '/crib',
  '/gauges',
  '/find?q=drill',
];
/** What is written now and then, so that every stream is told something. */
const WRITES_EVERY = 500;

const megabytes = (pid: number) =>
  Number(/^VmRSS:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

export async function steady(): Promise<Row[]> {
  const server = await startServer((await freshDatabase('tin_demo')).appUrl);
  const lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  const streams = await Promise.all(Array.from({ length: STREAMS }, () => hear(lead, server.url)));
  const began = performance.now();
  const looks: number[] = [];
  let asked = 0;
  let other = 0;
  const worker = async () => {
    for (;;) {
      const i = asked;
      if (i >= REQUESTS) return;
      asked += 1;
      if (i % WRITES_EVERY === 0) {
        await (
          await lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text: `steady ${i}` })
        ).text();
        looks.push(megabytes(server.child.pid!));
      }
      const answer = await lead.get(PAGES[i % PAGES.length]!);
      await answer.text();
      if (answer.status !== 200) other += 1;
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  const seconds = (performance.now() - began) / 1000;
  const told = Math.min(...streams.map((each) => each.told.length));
  const over = streams.filter((each) => each.over()).length;
  for (const each of streams) each.stop();
  await server.stop();
  // the first tenth is for what is made once
  const mean = (from: number, to: number) => {
    const part = looks.slice(Math.floor(looks.length * from), Math.ceil(looks.length * to));
    return part.reduce((sum, each) => sum + each, 0) / part.length;
  };
  const [early, late] = [mean(0.1, 0.3), mean(0.8, 1)];
  return [
    {
      what: `${REQUESTS} requests in ${seconds.toFixed(0)} s with ${STREAMS} live streams open (${over} of them ended, each told at least ${told} times), ${other} not answered by 200: memory in the last fifth`,
      ours: `${late.toFixed(0)} MB, at most ${Math.max(...looks).toFixed(0)}`,
      reference: `${early.toFixed(0)} MB from the first tenth to three tenths`,
      ratio: `${(late / early).toFixed(2)} ×`,
    },
  ];
}
