import type { PutBackRegister } from '../core/readiness/row-geometry.ts';
import { rows } from './db.ts';
import { gathered } from './gather.ts';

/** Registers of a machine that a kept table has set back, and that nobody has written since; a re-basing, which moves all alike, is none. */
export const putBackRows = gathered((db, ids: readonly number[]) =>
  rows<PutBackRegister & { of: number }>(
    db,
    `SELECT r.machine_id AS "of", r.row, r.kind, last.id::bigint AS entry, r.value, s.moved, m.id::bigint AS measured, coalesce(n.moved, 0)::bigint AS "sinceMeasured"
     FROM (SELECT DISTINCT l.register_id FROM ledger l WHERE l.machine_id = ANY($1) AND l.kind = 'register' AND l.detail ? 'putBack') p
     JOIN register r ON r.id = p.register_id
     CROSS JOIN LATERAL (SELECT l.id, l.detail FROM ledger l WHERE l.register_id = r.id AND l.stage <> 'rebased' ORDER BY l.id DESC LIMIT 1) last
     LEFT JOIN LATERAL (SELECT l.id FROM ledger l WHERE l.register_id = r.id AND l.stage <> 'rebased' AND NOT coalesce(l.detail ? 'putBack', false) ORDER BY l.id DESC LIMIT 1) own ON true
     CROSS JOIN LATERAL (SELECT sum(l.change_value)::bigint AS moved FROM ledger l WHERE l.register_id = r.id AND l.stage <> 'rebased' AND l.id > coalesce(own.id, 0)) s
     LEFT JOIN LATERAL (SELECT l.id FROM ledger l WHERE l.register_id = r.id AND l.stage = 'measured' ORDER BY l.id DESC LIMIT 1) m ON true
     LEFT JOIN LATERAL (SELECT sum(l.change_value) AS moved FROM ledger l WHERE l.register_id = r.id AND l.stage <> 'rebased' AND l.id > m.id) n ON true
     WHERE last.detail ? 'putBack' AND s.moved <> 0 ORDER BY r.row, r.id`,
    [ids],
  ),
);
