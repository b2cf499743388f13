import { ASSEMBLY_WORDS, type AssemblyKind } from '../core/assembly/silhouette.ts';
import { differing, makeAlike, type MachineTools } from '../core/changer/alike.ts';
import { readDefinition } from '../core/definition/read-definition.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { machines } from './machines.ts';

interface StandingCell {
  machineId: number;
  tool: number;
  assemblyId: number;
  number: string;
  name: string;
  kind: AssemblyKind;
  diameter: Length;
  cornerRadius: Length;
  thread: string;
}

/** Kind and size in words: tools of one such meaning may be taken for one another. */
const meaningOf = ({ kind, diameter, cornerRadius, thread }: StandingCell) =>
  [
    ASSEMBLY_WORDS[kind],
    thread || (diameter > 0 ? formatWithUnit(diameter, 'mm', { decimals: 1 }) : ''),
    kind !== 'ballMill' && cornerRadius > 0 ? `R${(cornerRadius / 1e6).toFixed(1)}` : '',
  ]
    .filter(Boolean)
    .join(' ');

export interface AskedUnder {
  machineId: number;
  tool: number;
  program: string;
  remark: string;
}

/**
 * T by machine: what stands under it and what the newest programs call it for. The machines of a family are made alike
 * with the fewest re-numberings; a machine of another kind of end is left out of that by not choosing it.
 */
export async function acrossMachines(db: Db, family: readonly number[]) {
  const [all, standing, asked] = await Promise.all([
    machines(db),
    rows<StandingCell>(
      db,
      `SELECT s.machine_id AS "machineId", s.tool, a.id AS "assemblyId", a.number, a.name, a.kind, a.diameter,
         a.corner_radius AS "cornerRadius", coalesce(k.series, '') AS thread
       FROM placement s JOIN assembly a ON a.id = s.assembly_id
       LEFT JOIN assembly_part p ON p.assembly_id = a.id AND p.role = 'cutter'
       LEFT JOIN component k ON k.id = p.component_id AND k.kind IN ('tapCutting', 'tapForming', 'threadMill')
       ORDER BY s.tool`,
      [],
    ),
    rows<AskedUnder>(
      db,
      `SELECT DISTINCT ON (g.machine_id, c.tool, g.number) g.machine_id AS "machineId", c.tool, g.number AS program,
         c.reading ->> 'remark' AS remark
       FROM program g JOIN program_call c ON c.program_id = g.id
       WHERE c.tool > 0 AND g.revision = (SELECT max(n.revision) FROM program n WHERE n.machine_id = g.machine_id AND n.number = g.number)
       ORDER BY g.machine_id, c.tool, g.number, c.ord`,
      [],
    ),
  ]);
  const chosen = all.filter((machine) => family.length === 0 || family.includes(machine.id));
  const tables: MachineTools[] = chosen.map((machine) => ({
    machine: machine.name,
    highestTool: machine.highestTool,
    tools: standing
      .filter((each) => each.machineId === machine.id)
      .map((each) => ({ tool: each.tool, meaning: meaningOf(each), assembly: each.number })),
  }));
  const tools = [
    ...new Set(
      [...standing, ...asked]
        .filter((each) => chosen.some((machine) => machine.id === each.machineId))
        .map((each) => each.tool),
    ),
  ].sort((a, b) => a - b);
  return {
    machines: all.map(({ id, name, interface: end }) => ({
      id,
      name,
      end,
      chosen: chosen.some((machine) => machine.id === id),
    })),
    differing: differing(tables),
    plan: chosen.length > 1 ? makeAlike(tables) : null,
    rows: tools.map((tool) => ({
      tool,
      cells: chosen.map((machine) => {
        const stands = standing.find((each) => each.machineId === machine.id && each.tool === tool);
        const calls = asked.filter((each) => each.machineId === machine.id && each.tool === tool);
        const kinds = new Set(
          calls.flatMap((each) => {
            const definition = readDefinition(each.remark ?? '', machine.unit, machine.kind);
            return definition ? [definition.kind] : [];
          }),
        );
        return {
          machine: machine.name,
          stands: stands && {
            id: stands.assemblyId,
            number: stands.number,
            meaning: meaningOf(stands),
          },
          asked: calls.map(({ program, remark }) => ({ program, remark: remark ?? '' })),
          /** The programs call it for something else than what stands there. */
          other: stands !== undefined && kinds.size > 0 && !kinds.has(stands.kind),
          missing: stands === undefined && calls.length > 0,
        };
      }),
    })),
  };
}

/** Assemblies that two machines' programs would both have: loose or standing once, but the only one of their meaning asked for twice. */
export async function expectedTwice(
  db: Db,
): Promise<{ number: string; meaning: string; machines: string[] }[]> {
  const [all, pieces, asked] = await Promise.all([
    machines(db),
    rows<StandingCell & { interface: string }>(
      db,
      `SELECT 0 AS "machineId", 0 AS tool, a.id AS "assemblyId", a.number, a.name, a.kind, a.diameter, a.corner_radius AS "cornerRadius",
         '' AS thread, a.interface FROM assembly a WHERE a.flag IS NULL OR a.flag <> 'broken' LIMIT 20000`,
      [],
    ),
    rows<{ machineId: number; remark: string }>(
      db,
      `SELECT DISTINCT g.machine_id AS "machineId", c.reading ->> 'remark' AS remark
       FROM job j JOIN program g ON g.id = j.program_id JOIN program_call c ON c.program_id = g.id WHERE j.state <> 'done' AND c.tool > 0`,
      [],
    ),
  ]);
  const wanted = new Map<string, { pieces: typeof pieces; machines: Set<string> }>();
  for (const { machineId, remark } of asked) {
    const machine = all.find((each) => each.id === machineId)!;
    const definition = readDefinition(remark ?? '', machine.unit, machine.kind);
    if (!definition || definition.diameter === null) continue;
    const can = pieces.filter(
      (piece) =>
        piece.interface === machine.interface &&
        piece.kind === definition.kind &&
        Math.abs(piece.diameter - definition.diameter!) < 20_000,
    );
    const key = can.map((piece) => piece.number).join();
    const entry = wanted.get(key) ?? { pieces: can, machines: new Set<string>() };
    entry.machines.add(machine.name);
    wanted.set(key, entry);
  }
  return [...wanted.values()]
    .filter((each) => each.pieces.length > 0 && each.machines.size > each.pieces.length)
    .map((each) => ({
      number: each.pieces.map((piece) => piece.number).join(', '),
      meaning: meaningOf(each.pieces[0]!),
      machines: [...each.machines].sort(),
    }));
}
