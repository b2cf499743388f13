import type { MachineState } from '../../core/agent/machine-state.ts';
import { row, rows, type Db } from '../db.ts';

/** What is known of a machine's agent. */
export interface Heard {
  machineId: number;
  instance: string | null;
  next: number | null;
  state: MachineState;
  problem: string | null;
  gap: string | null;
  gapAt: Date | null;
  clockOff: number | null;
  seenAt: Date;
}

const HEARD = `SELECT machine_id AS "machineId", instance, next, state, problem, gap, gap_at AS "gapAt", clock_off AS "clockOff", seen_at AS "seenAt"
  FROM machine_state`;

/** What the machines do, as their controls said last; of machines whose control was never asked nothing. */
export const statesOf = (db: Db) => rows<Heard>(db, `${HEARD} ORDER BY machine_id`);
export const stateOf = (db: Db, machineId: number) =>
  row<Heard>(db, `${HEARD} WHERE machine_id = $1`, [machineId]);

/** What every open page is told of a machine. */
export const stateMessage = ({ machineId, state, problem }: Heard): string =>
  JSON.stringify({ kind: 'state', machine: machineId, state, problem });

/** Keeps what was heard; every open page is told where something of it is new to people. */
export async function keepHeard(db: Db, heard: Heard, told: boolean): Promise<void> {
  await db.query(
    `INSERT INTO machine_state (machine_id, instance, next, state, problem, gap, gap_at, clock_off, seen_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     ON CONFLICT (machine_id) DO UPDATE SET instance = excluded.instance, next = excluded.next, state = excluded.state, problem = excluded.problem,
       gap = excluded.gap, gap_at = excluded.gap_at, clock_off = excluded.clock_off, seen_at = excluded.seen_at`,
    [
      heard.machineId,
      heard.instance,
      heard.next,
      JSON.stringify(heard.state),
      heard.problem,
      heard.gap,
      heard.gapAt,
      heard.clockOff,
      heard.seenAt,
    ],
  );
  if (told) await db.query(`SELECT pg_notify('tin', $1)`, [stateMessage(heard)]);
}
