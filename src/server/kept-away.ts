import type { FirstPlan } from '../core/correction/first-part-plan.ts';
import type { FirstEvent } from '../core/correction/first-part-state.ts';
import { stillAway, type KeptAway } from '../core/readiness/kept-away.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';

/** Rows of a machine that stand away from the part by an allowance: keyed for a first part that is open or was dropped, and not written since. */
export async function keptAwayOn(db: Db, machineId: number): Promise<KeptAway[]> {
  const found = await keyedLast(db, machineId);
  return found.flatMap(({ plan, events, place, row, kind, program, open }) =>
    stillAway(plan, events).flatMap(({ register, change }) =>
      register + 1 === place ? [{ row, kind, change, program, open }] : [],
    ),
  );
}

const keyedLast = gathered((db, ids: readonly number[]) =>
  rows<{
    of: number;
    plan: FirstPlan;
    events: FirstEvent[];
    /** Of the register in the plan, counted from 1. */
    place: number;
    row: number;
    kind: string;
    program: string;
    open: boolean;
  }>(
    db,
    `SELECT f.machine_id AS "of", f.plan, coalesce((SELECT jsonb_agg(e.event ORDER BY e.n) FROM first_part_event e WHERE e.first_part_id = f.id), '[]') AS events,
            coalesce(n.place, 0)::integer AS place, r.row, r.kind, g.number AS program, o.id IS NOT NULL AS open
     FROM first_part f CROSS JOIN LATERAL unnest(f.registers) WITH ORDINALITY AS n (register, place) JOIN register r ON r.id = n.register
     -- begun anew, it is that one's
     LEFT JOIN first_part o ON o.machine_id = f.machine_id AND o.state = 'open' AND r.id = ANY (o.registers)
     JOIN program g ON g.id = coalesce(o.program_id, f.program_id)
     CROSS JOIN LATERAL (SELECT l.detail FROM ledger l WHERE l.register_id = r.id ORDER BY l.id DESC LIMIT 1) last
     WHERE f.machine_id = ANY($1) AND f.state <> 'done' AND (last.detail ->> 'firstPart')::integer = f.id ORDER BY f.id, n.place`,
    [ids],
  ),
);
