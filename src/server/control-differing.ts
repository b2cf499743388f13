import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';

/** What controls held when they were last read off, register by register, that nobody has moved since, or found as recorded. */
const SEEN = `control_seen s JOIN register r ON r.id = s.register_id JOIN control_look k ON k.id = s.look_id JOIN machine m ON m.id = r.machine_id
     WHERE NOT EXISTS (SELECT 1 FROM ledger l WHERE l.register_id = r.id AND l.id > k.entry_id)
       AND NOT EXISTS (SELECT 1 FROM proposal p JOIN ledger l ON l.proposal_id = p.id AND l.kind = 'correction' AND l.stage = 'cleared'
                       WHERE p.register_id = r.id AND l.id > k.entry_id)`;
/** Of that, what is not as the record has it. */
const DIFFERING = `${SEEN} AND r.value <> s.value`;
/** But for those that stand on the leaf as a question. */
const UNANSWERED = `AND NOT EXISTS (SELECT 1 FROM control_answer a WHERE a.look_id = k.id AND a.register_id = r.id AND a.answer = 'open')`;

/**
 * Machines whose control differs from the record, in registers that nobody has moved or answered since.
 *
 * @param of one machine; null: all of them
 */
export const differingControls = (db: Db, of: number | null = null) =>
  rows<{ machineId: number; machine: string; differing: number }>(
    db,
    `SELECT m.id AS "machineId", m.name AS machine, count(*)::integer AS differing
     FROM ${DIFFERING} AND ($1::integer IS NULL OR m.id = $1) ${UNANSWERED}
     GROUP BY m.id, m.name ORDER BY m.name`,
    [of],
  );

/** What the control of a machine was last seen to hold, and when, of registers that nobody has moved since. */
export const lastSeen = (db: Db, machineId: number) =>
  rows<{ id: number; value: Length; at: Date }>(
    db,
    `SELECT r.id, s.value, k.at FROM ${SEEN} AND m.id = $1 ORDER BY r.id`,
    [machineId],
  );

/** Looks at a machine's control, other than this one, that left registers which still differ and were not read since. */
export const differingElsewhere = (db: Db, machineId: number, look: number) =>
  rows<{ look: number; at: Date; differing: number }>(
    db,
    `SELECT k.id AS look, k.at, count(*)::integer AS differing FROM ${DIFFERING} AND m.id = $1 AND k.id <> $2 ${UNANSWERED}
     GROUP BY k.id, k.at ORDER BY k.id DESC`,
    [machineId, look],
  );

/** What of a machine's control is not as the record has it, whatever was answered to it: until it is read again, it cuts so. */
export const differingRegisters = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; row: number; kind: string; control: Length; record: Length }>(
    db,
    `SELECT m.id AS "of", r.row, r.kind, s.value AS control, r.value AS record FROM ${DIFFERING} AND m.id = ANY($1) ORDER BY r.row, r.id`,
    [ids],
  ),
);
