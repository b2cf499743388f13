import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { asked } from './asked.ts';
import { backupAge, historyBehind } from './backups.ts';
import { addressOf } from './control-link.ts';
import { linesInUse, onStatement, onWrittenAlone, pool, rows } from './db.ts';
import { pages } from './gate.ts';
import { lastChecked } from './ledger.ts';
import { listening } from './live.ts';

/** Figures of this process and of the cell, in the open text format (OpenMetrics' forerunner, text 0.0.4). */
export const registry = new Registry();
collectDefaultMetrics({ register: registry });
const seconds = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 20];

const requests = new Histogram({
  name: 'tin_request_seconds',
  help: 'From the first byte asked to the answer, by route.',
  labelNames: ['method', 'route', 'status'] as const,
  buckets: seconds,
  registers: [registry],
});
const statements = new Histogram({
  name: 'tin_sql_seconds',
  help: 'One statement, from being sent to its rows; waiting for a free line is not in it.',
  buckets: seconds,
  registers: [registry],
});
const turnedAway = new Counter({
  name: 'tin_turned_away_total',
  help: 'Requests that were told to come again, by why.',
  labelNames: ['why'] as const,
  registers: [registry],
});
const writtenAlone = new Counter({
  name: 'tin_written_alone_total',
  help: 'Acts that no standby confirmed, though one was to have them.',
  registers: [registry],
});

/** A figure that is read when somebody asks for it. */
const asks = (
  name: string,
  help: string,
  read: (gauge: Gauge) => void | Promise<void>,
  labelNames: string[] = [],
) =>
  new Gauge({
    name,
    help,
    labelNames,
    registers: [registry],
    async collect() {
      // what cannot be read just now is left out, and the rest is told
      await Promise.resolve(read(this)).catch(() => this.reset());
    },
  });

asks(
  'tin_pool_lines',
  'Lines to the database of this process, by what they do.',
  (gauge) => {
    const { used, idle, waited } = linesInUse();
    gauge.set({ state: 'used' }, used);
    gauge.set({ state: 'idle' }, idle);
    gauge.set({ state: 'waited_for' }, waited);
  },
  ['state'],
);
asks(
  'tin_pages',
  'Pages that are being made, and that wait for their turn.',
  (gauge) => {
    gauge.set({ state: 'made' }, pages.inside());
    gauge.set({ state: 'waiting' }, pages.waiting());
  },
  ['state'],
);
asks('tin_live_listeners', 'Open pages that hear what happens.', (gauge) => gauge.set(listening()));
asks(
  'tin_poll_age_seconds',
  'Since the control of a machine was heard last.',
  async (gauge) => {
    gauge.reset();
    const machines = await rows<{ name: string; controlAddress: string | null; age: number }>(
      pool(),
      `SELECT m.name, m.control_address AS "controlAddress", extract(epoch FROM tin_now() - s.seen_at)::float8 AS age FROM machine_state s JOIN machine m ON m.id = s.machine_id`,
    );
    // one that is no longer asked is not waited for
    for (const machine of machines.filter((each) => addressOf(each) !== null))
      gauge.set({ machine: machine.name }, Math.max(0, machine.age));
  },
  ['machine'],
);
asks(
  'tin_ledger_disagreements',
  'Registers and counters that are not the sum of their entries: nought, or stop.',
  async (gauge) => {
    const checked = await lastChecked(pool());
    if (checked) gauge.set(checked.wrong);
  },
);
asks(
  'tin_webhook_behind_seconds',
  'How long the oldest entry waits that another system is still to be told.',
  async (gauge) => {
    const [found] = await rows<{ behind: number }>(
      pool(),
      `SELECT coalesce(max(extract(epoch FROM tin_now() - l.at)), 0)::float8 AS behind
     FROM webhook w
     CROSS JOIN LATERAL (SELECT at FROM ledger WHERE id > w.told AND kind = ANY (w.kinds) ORDER BY id LIMIT 1) l
     WHERE w.ended_at IS NULL`,
    );
    gauge.set(Math.max(0, found!.behind));
  },
);
asks(
  'tin_backup_age_seconds',
  'Since the last backup was made; where there was none, since 1970.',
  async (gauge) => gauge.set(await backupAge(pool())),
);
asks(
  'tin_history_behind_seconds',
  'For how long changes could not be written to the history that one can go back in; nought where they can, or where none is kept.',
  async (gauge) => gauge.set(await historyBehind(pool())),
);

// of the process, and of the request that asked it
onWrittenAlone(() => writtenAlone.inc());
onStatement((milliseconds) => {
  statements.observe(milliseconds / 1000);
  const request = asked();
  if (!request) return;
  request.statements += 1;
  request.sql += milliseconds;
});

export function answered(method: string, route: string | null, status: number, milliseconds: number): void {
  requests.observe({ method, route: route ?? 'none', status: String(status) }, milliseconds / 1000);
}

export const toldToComeAgain = (why: string): void => turnedAway.inc({ why });
