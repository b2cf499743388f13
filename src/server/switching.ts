import type { LayoutTask } from '../core/changer/planned.ts';
import { strikes } from '../core/changer/clearance.ts';
import { fitTogether } from '../core/changer/fit-together.ts';
import { nearestApart } from '../core/changer/layout.ts';
import { blockedBy } from '../core/changer/wide.ts';
import type { PlaceRow } from '../core/changer/place.ts';
import {
  bestOrder,
  EXACT_JOBS,
  keepNeededSoonest,
  placesTaken,
  withSisters,
  type SwitchJob,
  type SwitchRoom,
} from '../core/changer/switching.ts';
import { usedBy, type CycleUse } from '../core/life/count.ts';
import { rows, type Db } from './db.ts';
import { shapeOf, type Machine } from './machines.ts';
import { jobsOf } from './jobs.ts';
import { layoutTask } from './planning.ts';
import { placesOf } from './places.ts';
import { groupsOf, meantBy } from './groups.ts';
import { callsOf, programById } from './programs.ts';

interface ProgramTools {
  id: number;
  number: string;
  title: string;
  tools: number[];
}

/** The newest revision of each program of a machine, with the T it calls. */
export const newestPrograms = (db: Db, machineId: number) =>
  rows<ProgramTools>(
    db,
    `SELECT g.id, g.number, g.title, array_agg(DISTINCT c.tool ORDER BY c.tool) FILTER (WHERE c.tool > 0) AS tools
     FROM program g JOIN program_call c ON c.program_id = g.id
     WHERE g.machine_id = $1 AND g.revision = (SELECT max(n.revision) FROM program n WHERE n.machine_id = g.machine_id AND n.number = g.number)
     GROUP BY g.id ORDER BY g.number`,
    [machineId],
  );

/** The programs that are asked about: those that were ticked, or before anything was ticked those of the open jobs. */
export async function programsAsked(db: Db, machineId: number, search: URLSearchParams): Promise<number[]> {
  const ticked = search.getAll('program').map(Number);
  if (ticked.length > 0 || search.has('ticked'))
    return [...new Set(ticked)].filter(
      (number) => Number.isInteger(number) && number > 0 && number < 2 ** 31,
    );
  const [programs, jobs] = await Promise.all([newestPrograms(db, machineId), jobsOf(db, machineId)]);
  return programs.filter((each) => jobs.some((job) => job.number === each.number)).map((each) => each.id);
}

/** Which jobs can share one loading, in which order the rest should run, and what to swap between them. */
export async function switchingFor(
  db: Db,
  machine: Machine,
  chosen: readonly number[],
  most: number | null,
  sisters = false,
) {
  const [programs, places] = await Promise.all([newestPrograms(db, machine.id), placesOf(db, machine.id)]);
  const pockets = places.filter((place) => place.kind === 'pocket');
  const takers = new Set(pockets.filter((place) => place.wide).map((place) => place.number));
  const usable = pockets.filter(
    (place) => place.inService && blockedBy(shapeOf(machine), takers, place.number) === null,
  );
  // a pocket kept for the probe is no place for tools, and what stands in it is always there
  const kept = usable.filter((place) => place.reserved).flatMap((place) => place.tool ?? []);
  const free = usable.filter((place) => !place.reserved).length + kept.length;
  const count = Math.min(most ?? free, free);
  const groups = await groupsOf(db, machine.id);
  const jobs: SwitchJob[] = [];
  for (const program of programs)
    if (chosen.includes(program.id) && program.tools !== null)
      jobs.push({
        name: program.number,
        tools: (sisters ? await lastingTools(db, machine, program.id, places) : program.tools).flatMap(
          (tool) => meantBy(groups, tool),
        ),
      });
  const standing = places.flatMap((place) => place.tool ?? []);
  const called = new Set(jobs.flatMap((job) => job.tools));
  const locked = [
    ...new Set([
      ...kept,
      ...pockets.flatMap((place) => place.tied ?? []).filter((tool) => standing.includes(tool)),
    ]),
  ];
  // with fewer places than tools now, those that no job calls leave first
  const loaded = [...standing]
    .sort(
      (a, b) =>
        Number(locked.includes(b)) - Number(locked.includes(a)) ||
        Number(called.has(b)) - Number(called.has(a)),
    )
    .slice(0, count);
  const question = chosen.length > 0 ? (await layoutTask(db, machine, chosen, [])).question : null;
  // declared ones stand in pockets whose neighbours are not counted; the others will take theirs
  const declared = new Set(pockets.filter((place) => place.wide).map((place) => place.tied));
  const wide = (question?.tools ?? [])
    .filter((tool) => tool.wide && !declared.has(tool.tool))
    .map((tool) => tool.tool);
  const ground = question && groundOf(question, locked, count);
  const room: SwitchRoom = { places: count, loaded, locked, wide, ...(ground ? { ground } : {}) };
  const all = { name: 'all', tools: [...new Set([...called, ...locked])] };
  const together = placesTaken(all.tools, new Set(wide));
  return {
    programs,
    places: free,
    count,
    locked,
    together,
    share: jobs.length > 0 && keepNeededSoonest([all], room).ok,
    sisters,
    jobs,
    room,
    given: jobs.length > 0 ? keepNeededSoonest(jobs, room) : null,
    // of many jobs the browser works out the order, in a worker that can be stopped
    best: jobs.length > 0 && jobs.length <= EXACT_JOBS ? bestOrder(jobs, room) : null,
  };
}

/** The pockets as they lie and the sizes of the tools, by the planner's question; null where no two tools could be in each other's way. */
function groundOf(
  { shape, usable, tools }: LayoutTask['question'],
  locked: readonly number[],
  places: number,
): SwitchRoom['ground'] | null {
  const fixed = tools.filter((tool) => tool.locked !== null && locked.includes(tool.tool));
  const free = tools.filter((tool) => !fixed.includes(tool));
  const widest = Math.max(0, ...tools.map((tool) => tool.radius));
  const apart =
    strikes(nearestApart(shape), widest, widest) ||
    free.some((tool) => tool.wide || tool.barred.length > 0) ||
    fixed.some((tool) => tool.wide);
  if (!apart) return null;
  const pockets = {
    shape,
    usable,
    fixed: fixed.map(({ locked: pocket, radius, wide }) => ({ pocket: pocket!, radius, wide })),
  };
  // where even the broadest fit together, as many as there may be, their number alone decides
  const broadest = [...free].sort((a, b) => b.radius - a.radius).slice(0, Math.max(0, places - fixed.length));
  if (free.every((tool) => !tool.wide && tool.barred.length === 0) && fitTogether(pockets, broadest).fits)
    return null;
  return {
    pockets,
    sizes: free.map(({ tool, radius, wide, barred }) => ({ tool, radius, wide, barred })),
  };
}

/** The T of a program with the sisters that the parts still to make would need, by the life of what stands under each. */
async function lastingTools(
  db: Db,
  machine: Machine,
  programId: number,
  places: readonly PlaceRow[],
): Promise<number[]> {
  const program = (await programById(db, programId))!;
  const left = (await jobsOf(db, machine.id))
    .filter((job) => job.number === program.number)
    .reduce((sum, job) => sum + Math.max(0, job.quantity - job.made), 0);
  const use = new Map<number, CycleUse>();
  for (const call of await callsOf(db, programId)) {
    const before = use.get(call.tool) ?? { holes: 0, cutMilliseconds: 0, parts: program.partsPerCycle };
    use.set(call.tool, {
      ...before,
      holes: before.holes + call.holes,
      cutMilliseconds: before.cutMilliseconds + call.cutMilliseconds,
    });
  }
  return withSisters(
    [...use]
      .filter(([tool]) => tool > 0)
      .map(([tool, each]) => {
        const there = places.find((place) => place.tool === tool)?.assembly;
        return {
          tool,
          used: there?.basis ? usedBy(left, there.basis, each) : 0,
          lasts: there?.fullLife ?? null,
        };
      }),
  );
}
