import { rows, type Db } from './db.ts';

/** Which tool stands under which T of a machine. */
export const standingIn = (db: Db, machineId: number) =>
  rows<{ assemblyId: number; tool: number }>(
    db,
    'SELECT assembly_id AS "assemblyId", tool FROM placement WHERE machine_id = $1 ORDER BY tool',
    [machineId],
  );

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
 * What stood last under each of some T that stand empty, of what was taken out since the machine last began or counted anything: a program that
 * calls a T makes no part without it, so whatever is counted next was cut before it went.
 *
 * @param counted the entry that counts, and its place in the order of the entries
 */
export const takenSinceCount = (
  db: Db,
  machineId: number,
  empty: readonly number[],
  counted: { entry: number; place: number },
): Promise<{ assemblyId: number; tool: number; place: number }[]> =>
  rows(
    db,
    `SELECT DISTINCT ON (t.tool) a.id AS "assemblyId", t.tool, l.id AS place
     FROM unnest($2::integer[]) AS t (tool) JOIN ledger l ON l.machine_id = $1 AND l.tool = t.tool JOIN assembly a ON a.id = l.assembly_id
     WHERE l.kind = 'placement' AND l.stage = 'out' AND l.id <= $3
       AND l.id > coalesce((SELECT max(n.id) FROM ledger n
         WHERE n.machine_id = $1 AND n.kind = 'program' AND n.stage IN ('started', 'taken up') AND n.id < $3), 0)
       AND NOT EXISTS (SELECT 1 FROM count_standing c WHERE c.machine_id = $1 AND c.id > l.id AND c.place > l.id AND c.place <= $3 AND c.id <> $4)
     ORDER BY t.tool, l.id DESC`,
    [machineId, empty, counted.place, counted.entry],
  );

/**
 * Tools whose present edge came after a place in the order of the entries, or whose counter was read off the control, or is of another kind
 * since: of what was cut before, that counter owes nothing.
 *
 * @param tools each with the place in the order of the entries by which it had cut
 */
export const owesNothingSince = async (
  db: Db,
  tools: readonly { assemblyId: number; place: number }[],
): Promise<ReadonlySet<number>> =>
  new Set(
    (
      await rows<{ id: number }>(
        db,
        `SELECT a.id FROM unnest($1::integer[], $2::bigint[]) AS a (id, place) WHERE EXISTS (
           SELECT 1 FROM ledger l WHERE l.assembly_id = a.id AND l.id > a.place
             AND (l.kind = 'assembly' AND l.stage IN ('indexed', 'reground')
                  OR l.kind = 'life' AND (l.stage = 'read off' OR l.stage = 'set' AND l.detail ? 'basis'))
             AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id))`,
        [tools.map(({ assemblyId }) => assemblyId), tools.map(({ place }) => place)],
      )
    ).map(({ id }) => id),
  );
