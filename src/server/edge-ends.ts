import type { LifeBasis } from '../core/life/count.ts';
import { EDGE_END_WORDS, type EdgeEnd, type EdgeLife, type WearSign } from '../core/life/edge-lives.ts';
import type { Length } from '../core/units/length.ts';
import type { Assembly } from './assemblies.ts';
import { row, rows, type Db } from './db.ts';

/** How an edge ended, as it is told at its renewal. */
export interface Ended {
  end: EdgeEnd;
  sign: WearSign | null;
  /** Flank wear, where somebody measured it. */
  flank: Length | null;
}

/** In words, for the ledger. */
export const endedWords = ({ end, sign }: Ended) =>
  `${EDGE_END_WORDS[end]}${sign ? ` (by its ${sign})` : ''}`;

/** Keeps how the edge of a counted tool ended, with what it had cut and for which program most. */
export async function keepEdgeEnd(db: Db, personId: number, assembly: Assembly, ended: Ended): Promise<void> {
  if (assembly.counterId === null) return;
  const program = await row<{ number: string }>(
    db,
    `SELECT g.number FROM ledger l JOIN program g ON g.id = l.program_id
     WHERE l.counter_id = $1 AND l.kind = 'life' AND l.stage = 'used'
       AND l.id > coalesce((SELECT max(r.id) FROM ledger r WHERE r.counter_id = $1 AND r.stage = 'renewed'), 0)
     GROUP BY g.number ORDER BY sum(-l.change_value) DESC, g.number LIMIT 1`,
    [assembly.counterId],
  );
  await db.query(
    `INSERT INTO edge_end (assembly_id, basis, used, life_limit, ended, sign, flank, machine_id, program_number, person_id)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [
      assembly.id,
      assembly.basis,
      Math.max(0, assembly.fullLife! - assembly.remaining!),
      assembly.fullLife,
      ended.end,
      ended.sign,
      ended.flank,
      assembly.machineId,
      program?.number ?? null,
      personId,
    ],
  );
}

export interface EdgeEndRow extends EdgeLife {
  id: number;
  at: Date;
  person: string;
  sign: WearSign | null;
  program: string | null;
  assembly: string;
  limit: number;
}

/** Edges that are looked at, the newest: how they wore years ago says little of now. */
export const MOST_EDGES = 500;

/**
 * Edges of an assembly and of its sisters, those of the same kind and size, counted the same way; the newest last. Of one program
 * where it is named: another part is another material and another cut.
 */
export const edgesOf = (db: Db, assembly: Assembly, basis: LifeBasis, program: string | null) =>
  rows<EdgeEndRow>(
    db,
    `SELECT * FROM (SELECT e.id, e.used AS life, e.ended AS end, e.sign, e.at, p.name AS person, e.program_number AS program, a.number AS assembly,
            e.life_limit AS limit
     FROM edge_end e JOIN assembly a ON a.id = e.assembly_id JOIN person p ON p.id = e.person_id
     WHERE a.kind = $1 AND a.diameter = $2 AND a.corner_radius = $3 AND e.basis = $4 AND ($5::text IS NULL OR e.program_number = $5)
     ORDER BY e.id DESC LIMIT $6) newest ORDER BY id`,
    [assembly.kind, assembly.diameter, assembly.cornerRadius, basis, program, MOST_EDGES],
  );

/** Edges of other tools of the kind, each size by itself: their shapes say about how such tools wear. */
export async function similarEdges(db: Db, assembly: Assembly, basis: LifeBasis): Promise<EdgeLife[][]> {
  const all = await rows<EdgeLife & { size: string }>(
    db,
    `SELECT e.used AS life, e.ended AS end, a.diameter || ' ' || a.corner_radius || ' ' || coalesce(e.program_number, '') AS size
     FROM edge_end e JOIN assembly a ON a.id = e.assembly_id
     WHERE a.kind = $1 AND (a.diameter <> $2 OR a.corner_radius <> $3) AND e.basis = $4 ORDER BY e.id DESC LIMIT $5`,
    [assembly.kind, assembly.diameter, assembly.cornerRadius, basis, 2 * MOST_EDGES],
  );
  const bySize = new Map<string, EdgeLife[]>();
  for (const { size, life, end } of all) bySize.set(size, [...(bySize.get(size) ?? []), { life, end }]);
  return [...bySize.values()];
}
