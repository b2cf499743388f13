import { edgesThatSpeak, type Cut, type Speaking } from '../core/life/alike-edges.ts';
import type { LifeBasis } from '../core/life/count.ts';
import { atPresentSpeed } from '../core/life/speeds-run.ts';
import { cuttingSpeed } from '../core/program/cutting-speed.ts';
import type { Assembly } from './assemblies.ts';
import { rows, type Db } from './db.ts';
import { edgesOf, type EdgeEndRow } from './edge-ends.ts';
import { gathered } from './gather.ts';
import { callsOf } from './programs.ts';

/** What an edge cuts now or next, at which speed in metres a minute. */
export interface CutsNow extends Cut {
  programId: number;
  tool: number;
  kind: 'mill' | 'lathe';
}

/** The first program on its machine's list that calls an assembly, by its T or by its group: the running one before those that wait. */
const nextCuts = gathered((db, assemblyIds: readonly number[]) =>
  rows<CutsNow & { of: number }>(
    db,
    `SELECT DISTINCT ON (s.assembly_id) s.assembly_id AS "of", g.id AS "programId", g.number AS program, g.material, c.tool, m.kind
     FROM placement s JOIN machine m ON m.id = s.machine_id JOIN job j ON j.machine_id = s.machine_id AND j.state NOT IN ('done', 'removed')
       JOIN program g ON g.id = j.program_id JOIN program_call c ON c.program_id = g.id
     WHERE s.assembly_id = ANY($1)
       AND (c.tool = s.tool OR EXISTS (SELECT 1 FROM tool_group t JOIN group_member b ON b.group_id = t.id
                                       WHERE t.machine_id = s.machine_id AND t.number = c.tool AND b.tool = s.tool))
     ORDER BY s.assembly_id, j.state <> 'running', j.place`,
    [assemblyIds],
  ),
);

/** Edges of a tool's kind and size, and what is asked of them. */
export interface AskedEdges {
  /** Counted in the same way; the newest last. */
  all: EdgeEndRow[];
  /** Those that ran at the speed of now. */
  present: EdgeEndRow[];
  /** What they are asked for; null: no program that waits calls it, and of no edge it is known what it cut. */
  now: Cut | null;
  /** No program that waits calls it: what the newest edge cut stands for what is cut next. */
  byNewest: boolean;
}

/** @param cut what is asked for, where it is not what its machine cuts with it now or next */
export async function askedEdges(
  db: Db,
  assembly: Assembly,
  basis: LifeBasis,
  cut: Cut | null = null,
): Promise<AskedEdges> {
  const [all, [next]] = [await edgesOf(db, assembly, basis), await nextCuts(db, assembly.id)];
  const newest = all.findLast(({ program }) => program !== null) ?? null;
  const now: Cut | null = cut ?? next ?? newest;
  const speed =
    next && next.program === now?.program
      ? cuttingSpeed(
          (await callsOf(db, next.programId)).filter(({ tool }) => tool === next.tool),
          assembly.diameter,
          next.kind,
        )
      : null;
  return {
    all,
    present: atPresentSpeed(all, now && { program: now.program, speed }),
    now: now && { program: now.program, material: now.material },
    byNewest: !cut && !next && newest !== null,
  };
}

/** Which edges of a tool's kind and size say how long the one lasts that is in it. */
export interface SpeakingEdges extends Speaking<EdgeEndRow>, Omit<AskedEdges, 'present'> {
  otherSpeed: number;
}

export async function speakingEdges(
  db: Db,
  assembly: Assembly,
  basis: LifeBasis,
  cut: Cut | null = null,
): Promise<SpeakingEdges> {
  const { present, ...asked } = await askedEdges(db, assembly, basis, cut);
  return {
    ...asked,
    ...edgesThatSpeak(present, asked.now),
    otherSpeed: asked.all.length - present.length,
  };
}
