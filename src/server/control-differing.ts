import { rows, type Db } from './db.ts';

/**
 * Machines whose control held something else than the record when it was last read off, in registers that nobody has moved or answered since.
 *
 * @param of one machine; null: all of them
 */
export const differingControls = (db: Db, of: number | null = null) =>
  rows<{ machineId: number; machine: string; differing: number }>(
    db,
    `SELECT m.id AS "machineId", m.name AS machine, count(*)::integer AS differing
     FROM machine m
     CROSS JOIN LATERAL (SELECT id, held, entry_id FROM control_look WHERE machine_id = m.id ORDER BY id DESC LIMIT 1) k
     CROSS JOIN LATERAL jsonb_array_elements(k.held) h
     JOIN register r ON r.id = (h ->> 'register')::integer
     WHERE ($1::integer IS NULL OR m.id = $1) AND r.value <> (h ->> 'value')::bigint
       AND NOT EXISTS (SELECT 1 FROM ledger l WHERE l.register_id = r.id AND l.id > k.entry_id)
       AND NOT EXISTS (SELECT 1 FROM control_answer a WHERE a.look_id = k.id AND a.register_id = r.id AND a.answer = 'open')
     GROUP BY m.id, m.name ORDER BY m.name`,
    [of],
  );
