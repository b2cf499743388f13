import type { LeafData } from '../core/shift/leaf.ts';
import { rows, type Db } from './db.ts';
import { forEach } from './gather.ts';
import { groupsOf } from './groups.ts';
import { machineById } from './machines.ts';
import { toolsStanding } from './places.ts';
import { geometryLeft } from './tool-rows.ts';

/** Length rows that the open jobs of a machine call a T with; a T that is a group's number calls its members. */
const calledByJobs = (db: Db) =>
  rows<{ machineId: number; tool: number; rows: number[] }>(
    db,
    `SELECT j.machine_id AS "machineId", c.tool,
            coalesce(array_agg(DISTINCT (u ->> 'row')::integer) FILTER (WHERE u ->> 'row' IS NOT NULL), '{}') AS rows
     FROM job j JOIN program_call c ON c.program_id = j.program_id
     LEFT JOIN LATERAL jsonb_array_elements(c.reading -> 'lengthRows') u ON true
     WHERE j.state IN ('waiting', 'running', 'paused') GROUP BY j.machine_id, c.tool`,
  );

/** Tools that an open job calls and that were not measured since they came; and rows of theirs that still hold the tool before. */
export async function unmeasured(db: Db): Promise<LeafData['toMeasure']> {
  const calls = await calledByJobs(db);
  const found = await forEach(db, [...new Set(calls.map(({ machineId }) => machineId))], async (id) => {
    const machine = (await machineById(db, id))!;
    const [standing, groups, left] = [
      await toolsStanding(db, id),
      await groupsOf(db, id),
      await geometryLeft(db, machine),
    ];
    const called = new Map<number, number[]>();
    for (const { tool, rows: own } of calls.filter(({ machineId }) => machineId === id)) {
      const group = groups.find(({ number }) => number === tool);
      for (const each of group?.members ?? [{ tool, lengthRows: own }])
        called.set(each.tool, [...(called.get(each.tool) ?? []), ...each.lengthRows]);
    }
    return standing.flatMap(({ tool, assembly }) => {
      const own = called.get(tool);
      if (!own) return [];
      const former = (left.get(tool) ?? []).filter(({ row, why }) => why !== 'again' && own.includes(row));
      if (assembly.measured && former.length === 0) return [];
      return [
        {
          machine: machine.name,
          machineId: id,
          tool,
          number: assembly.number,
          rows: assembly.measured ? [...new Set(former.map(({ row }) => row))] : [],
        },
      ];
    });
  });
  return found.flat().sort((a, b) => a.machine.localeCompare(b.machine) || a.tool - b.tool);
}
