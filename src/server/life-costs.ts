import { entry } from '../core/ledger/entry.ts';
import { row, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { heldMachine } from './machines.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

/** What a change and a failure cost on a machine: minutes, and money in hundredths. */
export interface LifeCosts {
  changeMinutes: number;
  hourCents: number;
  failureCents: number;
}

/** The costs that were kept for a machine; null: none were. */
export const lifeCostsOf = (db: Db, machineId: number) =>
  row<LifeCosts & { person: string; at: Date }>(
    db,
    `SELECT c.change_minutes AS "changeMinutes", c.hour_cents AS "hourCents", c.failure_cents AS "failureCents", p.name AS person, c.at
     FROM life_cost c JOIN person p ON p.id = c.person_id WHERE c.machine_id = $1`,
    [machineId],
  );

/** Keeps what a change and a failure cost on a machine, for every tool in it. */
export const keepLifeCosts = (asking: Asking, machineId: number, costs: LifeCosts) =>
  once(asking, 'keepLifeCosts', { machineId, ...costs }, async (db) => {
    const machine = await heldMachine(db, machineId);
    await askBeforeTakingOver(db, asking, ['machine', 'lifeCosts', { machineId }]);
    await db.query(
      `INSERT INTO life_cost (machine_id, change_minutes, hour_cents, failure_cents, person_id) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT (machine_id) DO UPDATE SET change_minutes = $2, hour_cents = $3, failure_cents = $4, person_id = $5, at = tin_now()`,
      [machineId, costs.changeMinutes, costs.hourCents, costs.failureCents, asking.personId],
    );
    const money = (cents: number) => (cents / 100).toFixed(2);
    await append(
      db,
      entry.machine('lifeCosts', {
        personId: asking.personId,
        machineId,
        said: `On ${machine.name} an hour costs ${money(costs.hourCents)}, a planned change takes ${costs.changeMinutes} minutes, a failure costs ${money(costs.failureCents)} beside.`,
        detail: costs,
      }),
    );
  });
