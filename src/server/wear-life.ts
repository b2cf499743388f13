import { isExpired, PER_SHOWN } from '../core/life/count.ts';
import type { Flag } from '../core/life/flag.ts';
import { wearUsed, type WearMove } from '../core/life/wear-used.ts';
import { entry } from '../core/ledger/entry.ts';
import { setFlag } from './assemblies.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';

/** Counts a correction that was keyed against the life of the tool whose row it moved, where that is counted by wear. */
export async function countWear(
  db: Db,
  personId: number,
  keyed: { machineId: number; tool: number },
): Promise<void> {
  const counter = await row<{
    id: number;
    assemblyId: number;
    number: string;
    flag: Flag | null;
    remaining: number;
    kind: string | null;
    featureId: number | null;
    since: number;
    renewed: number;
  }>(
    db,
    `SELECT c.id, a.id AS "assemblyId", a.number, a.flag, c.value AS remaining, c.watched AS kind, c.watched_feature AS "featureId",
            coalesce((SELECT max(l.id) FROM ledger l WHERE l.counter_id = c.id AND l.kind = 'life' AND l.stage IN ('renewed', 'set')), 0) AS since,
            coalesce((SELECT max(l.id) FROM ledger l WHERE l.counter_id = c.id AND l.kind = 'life' AND l.stage = 'renewed' AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id)), 0) AS renewed
     FROM placement s JOIN assembly a ON a.id = s.assembly_id JOIN life_counter c ON c.assembly_id = a.id
     WHERE s.machine_id = $1 AND s.tool = $2 AND c.basis = 'wear' FOR UPDATE OF c`,
    [keyed.machineId, keyed.tool],
  );
  if (!counter) return;
  const moves = await rows<WearMove & { id: number }>(
    db,
    `SELECT l.id, r.id AS "registerId", r.kind, p.feature_id AS "featureId", coalesce(l.change_value, 0) AS change,
            -- the first part of its size on a fresh edge, or in a new set-up, showed where that begins, ticked as a first-off or not
            m.first_off IS NOT NULL OR NOT EXISTS (
              SELECT 1 FROM reading e WHERE e.feature_id = m.feature_id AND e.doubt IS NULL AND e.entry < m.entry AND e.entry > $4
                AND (e.part <> m.part OR e.job_id IS DISTINCT FROM m.job_id)
                AND NOT EXISTS (SELECT 1 FROM job_begun b WHERE b.job_id = m.job_id AND b.id > e.entry AND b.id < m.entry
                                AND set_up_anew(b.machine_id, b.program_id, b.id))) AS "setUp"
     FROM ledger l JOIN register r ON r.id = l.register_id JOIN proposal p ON p.id = l.proposal_id JOIN reading m ON m.id = p.reading_id
     WHERE l.machine_id = $1 AND l.tool = $2 AND l.kind = 'register' AND l.stage = 'corrected' AND l.id > $3 ORDER BY l.id`,
    [keyed.machineId, keyed.tool, counter.since, counter.renewed],
  );
  const used = wearUsed(moves, counter);
  const before = wearUsed(moves.slice(0, -1), counter);
  if (used > before) {
    const after = counter.remaining - (used - before);
    await append(
      db,
      entry.life('corrected', {
        personId,
        machineId: keyed.machineId,
        assemblyId: counter.assemblyId,
        tool: keyed.tool,
        counterId: counter.id,
        before: counter.remaining,
        after,
        said: `T${keyed.tool} (${counter.number}) has worn as far as it was corrected.`,
      }),
    );
    if (counter.flag === null && isExpired(after))
      await setFlag(
        db,
        personId,
        { id: counter.assemblyId, number: counter.number, machineId: keyed.machineId, tool: keyed.tool },
        'expired',
        `It was corrected by its whole limit: ${(-after / PER_SHOWN.wear).toFixed(3)} mm beyond.`,
      );
  }
  const cut = (await row<{ parts: number }>(
    db,
    `SELECT coalesce(sum((l.detail ->> 'parts')::integer), 0)::integer AS parts FROM ledger l JOIN job j ON j.id = l.job_id
     WHERE l.machine_id = $1 AND l.kind = 'parts' AND l.id > $2 AND EXISTS (SELECT 1 FROM program_call c WHERE c.program_id = j.program_id AND c.tool = $3)`,
    [keyed.machineId, counter.since, keyed.tool],
  ))!.parts;
  if (used > 0 && cut > 0)
    await db.query('UPDATE life_counter SET per_part = $2 WHERE id = $1', [
      counter.id,
      Math.max(1, Math.round(used / cut)),
    ]);
}
