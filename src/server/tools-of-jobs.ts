import { notItsOwn } from '../core/readiness/row-geometry.ts';
import type { LeafData } from '../core/shift/leaf.ts';
import { rows, type Db } from './db.ts';
import { forEach } from './gather.ts';
import { groupsOf } from './groups.ts';
import { machineById, type Machine } from './machines.ts';
import { toolsStanding } from './places.ts';
import { geometryLeft } from './tool-rows.ts';

interface JobCall {
  machineId: number;
  program: string;
  state: 'waiting' | 'running' | 'paused';
  tool: number;
  rows: number[];
}

/** What the open jobs of every machine call, with its length rows; a T that is a group's number calls its members. */
const calledByJobs = (db: Db) =>
  rows<JobCall>(
    db,
    `SELECT j.machine_id AS "machineId", g.number AS program, j.state, c.tool,
            coalesce(array_agg(DISTINCT (u ->> 'row')::integer) FILTER (WHERE u ->> 'row' IS NOT NULL), '{}') AS rows
     FROM job j JOIN program g ON g.id = j.program_id JOIN program_call c ON c.program_id = g.id
     LEFT JOIN LATERAL jsonb_array_elements(c.reading -> 'lengthRows') u ON true
     WHERE j.state IN ('waiting', 'running', 'paused') GROUP BY j.machine_id, g.number, j.state, c.tool ORDER BY c.tool`,
  );

/** Does something for each machine whose jobs call tools, in the order of its name. */
async function forMachines<T>(
  db: Db,
  calls: readonly JobCall[],
  work: (machine: Machine, own: JobCall[]) => Promise<T[]>,
): Promise<T[]> {
  const found = await forEach(db, [...new Set(calls.map(({ machineId }) => machineId))], async (id) => {
    const machine = (await machineById(db, id))!;
    return {
      name: machine.name,
      list: await work(
        machine,
        calls.filter(({ machineId }) => machineId === id),
      ),
    };
  });
  return found.sort((a, b) => a.name.localeCompare(b.name)).flatMap(({ list }) => list);
}

/** Tools that a job which was begun calls and that are not in the machine: taken out in the middle of it, and nothing put in. */
export async function lackedByJobs(db: Db): Promise<LeafData['lacking']> {
  const calls = (await calledByJobs(db)).filter(({ state }) => state !== 'waiting');
  return forMachines(db, calls, async (machine, own) => {
    const [standing, groups] = [await toolsStanding(db, machine.id), await groupsOf(db, machine.id)];
    const there = new Set(standing.map(({ tool }) => tool));
    const lacked = own.filter(({ tool }) => {
      const members = groups.find(({ number }) => number === tool)?.members ?? [{ tool }];
      return !members.some((each) => there.has(each.tool));
    });
    return [...new Set(lacked.map(({ program }) => program))].map((program) => ({
      machineId: machine.id,
      machine: machine.name,
      program,
      tools: lacked.flatMap((each) => (each.program === program ? [each.tool] : [])),
    }));
  });
}

/** Tools that an open job calls and that were not measured since they came; and rows of theirs that still hold the tool before. */
export async function unmeasured(db: Db): Promise<LeafData['toMeasure']> {
  return forMachines(db, await calledByJobs(db), async (machine, own) => {
    const [standing, groups, left] = [
      await toolsStanding(db, machine.id),
      await groupsOf(db, machine.id),
      await geometryLeft(db, machine),
    ];
    const called = new Map<number, number[]>();
    for (const { tool, rows: lengthRows } of own)
      for (const each of groups.find(({ number }) => number === tool)?.members ?? [{ tool, lengthRows }])
        called.set(each.tool, [...(called.get(each.tool) ?? []), ...each.lengthRows]);
    return standing
      .flatMap(({ tool, assembly }) => {
        const uses = called.get(tool);
        if (!uses) return [];
        const former = (left.get(tool) ?? []).filter((each) => notItsOwn(each) && uses.includes(each.row));
        if (assembly.measured && former.length === 0) return [];
        return [
          {
            machine: machine.name,
            machineId: machine.id,
            tool,
            number: assembly.number,
            rows: assembly.measured ? [...new Set(former.map(({ row }) => row))] : [],
          },
        ];
      })
      .sort((a, b) => a.tool - b.tool);
  });
}
