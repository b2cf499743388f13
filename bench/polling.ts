import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { doing } from '../src/core/agent/machine-state.ts';
import { askAgent } from '../src/server/agents/ask.ts';
import { looksOther, pollOnce, unheard } from '../src/server/agents/poll.ts';
import { keepHeard } from '../src/server/agents/states.ts';
import { closePool, pool, rows } from '../src/server/db.ts';
import { freshDatabase } from '../tests/support/databases.ts';
import { median, seeded, type Row } from './row.ts';

const MACHINES = 200;
const SECONDS = 20;

/** Two hundred agents asked each second by one process, with what is new written down: its share of a processor, and how long a change takes to be known. */
export async function polling(): Promise<Row[]> {
  await closePool();
  await freshDatabase('tin_demo');
  const names = Array.from({ length: MACHINES }, (_, i) => `m${i}`);
  const agents = spawn(process.execPath, ['--import', 'tsx', 'sim/control.ts'], {
    env: {
      ...process.env,
      SIM_JOBS: JSON.stringify(
        Object.fromEntries(
          names.map((name) => [
            name,
            {
              made: 0,
              cycle: 60_000,
              parts: 1,
              program: 'O1',
              calls: Array.from({ length: 6 }, (_, n) => ({ tool: n + 1, share: 1 / 6 })),
            },
          ]),
        ),
      ),
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const [line] = (await once(agents.stdout, 'data')) as [Buffer];
  const url = `http://127.0.0.1:${(JSON.parse(String(line)) as { port: number }).port}`;
  const known = await rows<{ id: number }>(pool(), 'SELECT id FROM machine ORDER BY id');
  const held = new Map<number, number>();
  const delays: number[] = [];
  let [over, asked, writes] = [false, 0, 0];
  const each = async (name: string, i: number) => {
    let heard = unheard(known[i % known.length]!.id, new Date());
    // not all in the same moment
    await new Promise((resolve) => setTimeout(resolve, (1000 * i) / MACHINES));
    while (!over) {
      const begun = Date.now();
      const now = await pollOnce(
        heard,
        (ask) => askAgent(`${url}/${name}`, ask, 2000),
        () => new Date(),
      );
      asked += 1;
      const since = held.get(i);
      if (since !== undefined && doing(now.state) === 'waiting') {
        delays.push(Date.now() - since);
        held.delete(i);
        void fetch(`${url}/${name}/put`, { method: 'POST' });
      }
      if (looksOther(heard, now)) {
        writes += 1;
        await keepHeard(pool(), now, true);
      }
      heard = now;
      await new Promise((resolve) => setTimeout(resolve, Math.max(0, 1000 - (Date.now() - begun))));
    }
  };
  const all = Promise.all(names.map(each));
  await new Promise((resolve) => setTimeout(resolve, 2000));
  const next = seeded(3);
  const cpu = process.cpuUsage();
  const began = performance.now();
  const askedBefore = asked;
  while (performance.now() - began < SECONDS * 1000) {
    const i = Math.floor(next() * MACHINES);
    if (!held.has(i)) {
      await fetch(`${url}/m${i}/put?execution=FEED_HOLD`, { method: 'POST' });
      held.set(i, Date.now());
    }
    await new Promise((resolve) => setTimeout(resolve, 60 + 60 * next()));
  }
  const spent = process.cpuUsage(cpu);
  const elapsed = performance.now() - began;
  over = true;
  await all;
  agents.kill();
  const sorted = [...delays].sort((a, b) => a - b);
  const share = (spent.user + spent.system) / 1000 / elapsed;
  return [
    {
      what: `${MACHINES} agents asked each second, one process`,
      ours: `${((asked - askedBefore) / (elapsed / 1000)).toFixed(0)} answers/s, ${(100 * share).toFixed(0)} % of a processor`,
      reference: `${writes} states written and told`,
      ratio: `${((1000 * share) / MACHINES).toFixed(2)} ms of processor an answer`,
    },
    {
      what: 'A held feed is known after',
      ours: `median ${median(delays)} ms, 95 % within ${sorted[Math.floor(sorted.length * 0.95)]} ms`,
      reference: 'asked each 1000 ms',
      ratio: `worst ${sorted.at(-1)} ms of ${delays.length}`,
    },
  ];
}
