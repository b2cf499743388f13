import { suspectParts, type LastGood, type PartRange } from '../core/breakage/suspect-parts.ts';
import type { Fault } from '../core/breakage/quarantine.ts';
import { row, rows, type Db } from './db.ts';

export interface Quarantine {
  id: number;
  assemblyId: number;
  verdict: Fault;
  machineId: number | null;
  machine: string | null;
  tool: number | null;
  jobId: number | null;
  part: number | null;
  why: string;
  openedBy: string;
  openedAt: Date;
  /** Its place in the order of the ledger. */
  entry: number;
  closedBy: string | null;
  closedAt: Date | null;
  outcome: 'cleared' | 'mistaken' | null;
}

/** When a tool was last known to be whole before it was found: checked, or measured before it cut. By entries: a clock may be put back. */
export async function lastGoodOf(
  db: Db,
  of: Quarantine,
): Promise<(LastGood & { how: string; when: Date }) | null> {
  const check = await row<{
    at: number;
    when: Date;
    job: number | null;
    afterPart: number | null;
    how: string;
  }>(
    db,
    `SELECT entry AS at, at AS "when", job_id AS job, last_part AS "afterPart", method AS how FROM tool_check
     WHERE assembly_id = $1 AND verdict = 'asExpected' AND entry <= $2 ORDER BY id DESC LIMIT 1`,
    [of.assemblyId, of.entry],
  );
  // a length that was measured anew in mid-job may be that of a broken tool: the first one after it was put there counts, and one at a renewal
  const measured = await row<{ at: number; when: Date }>(
    db,
    `SELECT entry AS at, at AS "when" FROM (
       SELECT t.entry, t.at FROM renewal r JOIN renewal_step t ON t.renewal_id = r.id AND t.step = 'measured' WHERE r.assembly_id = $1 AND NOT r.dropped AND t.entry <= $2
       UNION ALL
       (SELECT l.id, l.at FROM ledger l WHERE l.assembly_id = $1 AND l.kind = 'register' AND l.stage = 'measured' AND l.id <= $2
         AND l.id > (SELECT max(p.id) FROM ledger p WHERE p.assembly_id = $1 AND p.id <= $2 AND (p.kind = 'placement' AND p.stage = 'in'
                       OR p.kind = 'assembly' AND p.stage IN ('built', 'indexed', 'reground') AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = p.id)))
        ORDER BY l.id LIMIT 1)
     ) known ORDER BY entry DESC LIMIT 1`,
    [of.assemblyId, of.entry],
  );
  if (check && (!measured || check.at >= measured.at)) return check;
  return measured ? { ...measured, job: null, afterPart: null, how: 'measured' } : null;
}

/** When the tool was replaced since, and measured after that. */
export async function mended(db: Db, of: Quarantine) {
  const replaced = await row<{ at: Date; person: string; entry: number }>(
    db,
    `SELECT at, person, entry FROM (
       SELECT t.at, p.name AS person, t.entry FROM renewal r JOIN renewal_step t ON t.renewal_id = r.id AND t.step = 'changed' JOIN person p ON p.id = t.person_id
       WHERE r.assembly_id = $1 AND NOT r.dropped AND t.entry > $2
       UNION ALL
       SELECT l.at, p.name, l.id FROM ledger l JOIN person p ON p.id = l.person_id
       WHERE l.assembly_id = $1 AND l.kind = 'assembly' AND l.stage IN ('built', 'indexed', 'reground') AND l.id > $2 AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id)
     ) changes ORDER BY entry DESC LIMIT 1`,
    [of.assemblyId, of.entry],
  );
  if (!replaced) return { replaced, measured: null };
  const measured = await row<{ at: Date; person: string }>(
    db,
    `SELECT at, person FROM (
       SELECT t.at, p.name AS person, t.entry FROM renewal r JOIN renewal_step t ON t.renewal_id = r.id AND t.step = 'measured' JOIN person p ON p.id = t.person_id
       WHERE r.assembly_id = $1 AND NOT r.dropped AND t.entry >= $2
       UNION ALL
       SELECT l.at, p.name, l.id FROM ledger l JOIN person p ON p.id = l.person_id
       WHERE l.assembly_id = $1 AND l.kind = 'register' AND l.stage = 'measured' AND l.id >= $2
       UNION ALL
       SELECT g.at, p.name, g.entry FROM presetting g JOIN person p ON p.id = g.person_id WHERE g.assembly_id = $1 AND g.entry >= $2
     ) measures ORDER BY entry DESC LIMIT 1`,
    [of.assemblyId, replaced.entry],
  );
  return { replaced, measured };
}

/** The parts that are held back, worked out anew from what was counted: who counts late adds to them. */
export async function suspectsOf(
  db: Db,
  of: Quarantine,
  replaced: { entry: number; at: Date } | null,
): Promise<PartRange[]> {
  if (of.machineId === null || of.tool === null) return [];
  const lastGood = await lastGoodOf(db, of);
  const counts = await rows<{ job: number; from: number; to: number; at: number }>(
    db,
    `SELECT j.id AS job, l.before + 1 AS "from", l.before + l.parts AS "to", l.place AS at
     FROM count_standing l JOIN job j ON j.id = l.job_id
     WHERE l.machine_id = $1 AND l.stage = 'made' AND (l.place > $3 OR l.job_id = $4)
       -- what a device kept was cut before it was typed, however late it arrived
       AND (l.place <= $5 OR l.told_at < least(l.at, $7))
       AND (EXISTS (SELECT 1 FROM program_call c WHERE c.program_id = j.program_id AND c.tool = $2)
         OR EXISTS (SELECT 1 FROM program_call c JOIN tool_group g ON g.machine_id = $1 AND g.number = c.tool
                      JOIN group_member b ON b.group_id = g.id AND b.tool = $2
                    WHERE c.program_id = j.program_id
                      -- of sisters, those counts that this one was used in; one that is not counted may have cut any
                      AND (NOT EXISTS (SELECT 1 FROM life_counter k WHERE k.assembly_id = $6)
                        OR EXISTS (SELECT 1 FROM ledger u WHERE u.kind = 'life' AND u.stage = 'used' AND u.assembly_id = $6 AND u.job_id = l.job_id AND u.at = l.at))))
     ORDER BY l.place`,
    [
      of.machineId,
      of.tool,
      lastGood?.at ?? 0,
      lastGood?.job ?? null,
      replaced?.entry ?? Number.MAX_SAFE_INTEGER,
      of.assemblyId,
      replaced?.at ?? null,
    ],
  );
  return suspectParts({
    lastGood,
    counts,
    found: of.jobId === null ? null : { job: of.jobId, part: of.part! },
  });
}
