import { rows, type Db } from './db.ts';

/** What happened to a tool since a place in the order of a machine's entries. */
export interface SinceThen {
  assemblyId: number;
  /** Where it stood then, by what it was first done with since; null: it was brought in since. */
  tool: number | null;
}

/**
 * The tools of a machine that were taken out or put in since a place in the order of its entries. What stands there otherwise stood there then.
 */
export const movedSince = (db: Db, machineId: number, place: number): Promise<SinceThen[]> =>
  rows<SinceThen>(
    db,
    `SELECT DISTINCT ON (a.id) a.id AS "assemblyId", CASE l.stage WHEN 'out' THEN l.tool END AS tool
     FROM ledger l JOIN assembly a ON a.id = l.assembly_id WHERE l.machine_id = $1 AND l.id > $2 AND l.kind = 'placement' AND l.stage IN ('in', 'out')
     ORDER BY a.id, l.id`,
    [machineId, place],
  );

/**
 * Tools whose present edge came after a place in the order of the entries, or whose counter was read off the control, or is of another kind
 * since: of what was cut before, that counter owes nothing.
 */
export const owesNothingSince = async (
  db: Db,
  assemblies: readonly number[],
  place: number,
): Promise<ReadonlySet<number>> =>
  new Set(
    (
      await rows<{ id: number }>(
        db,
        `SELECT a.id FROM unnest($1::integer[]) AS a (id) WHERE EXISTS (
           SELECT 1 FROM ledger l WHERE l.assembly_id = a.id AND l.id > $2
             AND (l.kind = 'assembly' AND l.stage IN ('indexed', 'reground')
                  OR l.kind = 'life' AND (l.stage = 'read off' OR l.stage = 'set' AND l.detail ? 'basis'))
             AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id))`,
        [assemblies, place],
      )
    ).map(({ id }) => id),
  );
