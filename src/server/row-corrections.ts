import { HARMLESS } from '../core/correction/took.ts';
import type { RowCorrection } from '../core/readiness/corrections-left.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';

/**
 * Corrections of rows of a machine that are still to be keyed, and the last one keyed where the parts say that it did not do what was
 * asked and nobody has looked at the control since.
 */
export const correctionsLeft = (db: Db, machineId: number, asked: readonly number[]) =>
  leftRows(db, JSON.stringify([machineId, [...new Set(asked)].sort((a, b) => a - b)]));

const leftRows = gathered((db, keys: readonly string[]) => {
  const asked = keys.flatMap((key) => {
    const [machineId, used] = JSON.parse(key) as [number, number[]];
    return used.map((row) => ({ key, machineId, row }));
  });
  return rows<RowCorrection & { of: string }>(
    db,
    `WITH used AS (SELECT k.key, g.id, g.row, g.kind FROM unnest($1::text[], $2::integer[], $3::integer[]) AS k (key, machine_id, row)
       JOIN register g ON g.machine_id = k.machine_id AND g.row = k.row)
     SELECT u.key AS "of", u.row, u.kind, p.change_value AS change, s.state AS what FROM used u
     JOIN proposal p ON p.register_id = u.id AND p.open JOIN proposal_state s ON s.id = p.id
     UNION ALL
     SELECT u.key, u.row, u.kind, l.change, 'doubted' FROM used u CROSS JOIN LATERAL (
       SELECT p.change_value AS change, s.took, s.read_since
       FROM proposal p JOIN proposal_state s ON s.id = p.id WHERE p.register_id = u.id AND s.state = 'applied' ORDER BY p.id DESC LIMIT 1) l
     WHERE l.took IS NOT NULL AND NOT l.took = ANY($4) AND NOT l.read_since
     ORDER BY 2, 3`,
    [
      asked.map(({ key }) => key),
      asked.map(({ machineId }) => machineId),
      asked.map(({ row }) => row),
      HARMLESS,
    ],
  );
});
