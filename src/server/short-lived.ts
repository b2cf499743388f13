import { traitsOf } from '../core/changer/traits.ts';
import type { Assembly } from './assemblies.ts';
import { rows, type Db } from './db.ts';
import { jobsAhead, jobsOf } from './jobs.ts';
import { shapeOf, type Machine } from './machines.ts';
import { sistersOf } from './now.ts';
import { toolsStanding } from './places.ts';
import { programById } from './programs.ts';
import { readinessOf } from './readiness.ts';

/** A called tool that does not last for the parts to be made, and what could be loaded beside it. */
export interface ShortLived {
  tool: number;
  number: string;
  program: string;
  /** It is spent in this part of so many. */
  part: number;
  of: number;
  /** One like it on the rack, and a T that nothing uses; null: there is none. */
  sister: { id: number; number: string; tool: number } | null;
}

/** A sister that is to be loaded beside what does not last. */
export interface Sister {
  assemblyId: Assembly['id'];
  tool: number;
}

/** The tools of some programs that do not last for their open jobs, each with a sister that could go in beside it. */
export async function shortLived(
  db: Db,
  machine: Machine,
  programIds: readonly number[],
): Promise<ShortLived[]> {
  const [jobs, standing] = [await jobsOf(db, machine.id), await toolsStanding(db, machine.id)];
  const found: Omit<ShortLived, 'sister'>[] = [];
  for (const id of programIds) {
    const program = await programById(db, id);
    if (!program || program.machineId !== machine.id) continue;
    const left = jobs
      .filter((job) => job.number === program.number)
      .reduce((sum, job) => sum + Math.max(0, job.quantity - job.made), 0);
    if (left === 0) continue;
    const before = await jobsAhead(db, program);
    for (const { code, tool, afterPart } of await readinessOf(db, program, left, before)) {
      const number = standing.find((each) => each.tool === tool)?.assembly.number;
      if (
        code !== 'runsOut' ||
        afterPart === undefined ||
        tool === null ||
        !number ||
        found.some((each) => each.tool === tool)
      )
        continue;
      found.push({ tool, number, program: program.number, part: afterPart, of: left });
    }
  }
  const sisters = await sistersOf(
    db,
    found.map(({ number }) => number),
  );
  const free = await freeTools(db, machine, found.length);
  const taken = new Set<number>();
  return found.map((each) => {
    const sister = sisters.find(({ like, id }) => like === each.number && !taken.has(id));
    const tool = sister ? free.shift() : undefined;
    if (!sister || tool === undefined) return { ...each, sister: null };
    taken.add(sister.id);
    return { ...each, sister: { id: sister.id, number: sister.number, tool } };
  });
}

/** The lowest T that nothing stands under, no program calls and no group has; where T n lives in pocket n only pockets count. */
async function freeTools(db: Db, machine: Machine, count: number): Promise<number[]> {
  const most = traitsOf(shapeOf(machine)).ownPlaces ? machine.places : machine.highestTool;
  const found = await rows<{ tool: number }>(
    db,
    `SELECT t.tool FROM generate_series(1, $2::integer) AS t (tool)
     WHERE NOT EXISTS (SELECT 1 FROM placement s WHERE s.machine_id = $1 AND s.tool = t.tool)
       AND NOT EXISTS (SELECT 1 FROM place p WHERE p.machine_id = $1 AND p.tied_tool = t.tool)
       AND NOT EXISTS (SELECT 1 FROM program g JOIN program_call c ON c.program_id = g.id WHERE g.machine_id = $1 AND c.tool = t.tool)
       AND NOT EXISTS (SELECT 1 FROM tool_group g WHERE g.machine_id = $1 AND g.number = t.tool)
       AND NOT EXISTS (SELECT 1 FROM group_member b WHERE b.machine_id = $1 AND b.tool = t.tool)
     ORDER BY t.tool LIMIT $3`,
    [machine.id, Math.min(most, 9999), count],
  );
  return found.map(({ tool }) => tool);
}
