import { ASSEMBLY_WORDS, type AssemblyKind } from '../core/assembly/silhouette.ts';
import { differing, makeAlike, type MachineTools } from '../core/changer/alike.ts';
import { SAME } from '../core/definition/fulfil.ts';
import { readDefinition } from '../core/definition/read-definition.ts';
import { meanings, type ToolSize } from '../core/changer/meaning.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { machines, type Machine } from './machines.ts';

/** An assembly with all that its size is told by. */
export interface SizedAssembly {
  assemblyId: number;
  number: string;
  kind: AssemblyKind;
  diameter: Length;
  cornerRadius: Length;
  reach: Length | null;
  thread: string;
  leftHand: boolean;
}
interface StandingCell extends SizedAssembly {
  machineId: number;
  tool: number;
}

export const SIZED = `a.id AS "assemblyId", a.number, a.kind, a.diameter,
         a.corner_radius AS "cornerRadius", a.left_hand AS "leftHand", CASE WHEN k.kind IN ('tapCutting', 'tapForming', 'threadMill') THEN k.series ELSE '' END AS thread,
         coalesce(k.dimensions ->> 'LU', k.dimensions ->> 'LCF')::bigint AS reach`;
export const CUTTER_OF = `LEFT JOIN assembly_part p ON p.assembly_id = a.id AND p.role = 'cutter'
       LEFT JOIN component k ON k.id = p.component_id`;

/** What a piece is for whoever calls it; its cutter's usable length where the catalogue has it. */
export const sizeOf = ({
  kind,
  diameter,
  cornerRadius,
  reach,
  thread,
  leftHand,
}: SizedAssembly): ToolSize => ({
  kind: ASSEMBLY_WORDS[kind],
  diameter,
  cornerRadius: kind === 'ballMill' ? nanometres(0) : cornerRadius,
  reach,
  thread,
  leftHand,
});

/**
 * The family that is compared at first: the most machines that can share tools, being of one kind with one end, or that run
 * programs of one number. Every machine, where none has another like it.
 */
function familyOf(
  all: readonly Machine[],
  asked: readonly { machineId: number; program: string }[],
): ReadonlySet<number> {
  const together = new Map<string, Set<number>>();
  const add = (key: string, id: number) => together.set(key, (together.get(key) ?? new Set()).add(id));
  for (const machine of all) add(`${machine.kind} ${machine.interface}`, machine.id);
  for (const { machineId, program } of asked) add(`program ${program}`, machineId);
  const groups: Set<number>[] = [];
  for (const ids of together.values()) {
    const joined = groups.filter((group) => [...ids].some((id) => group.has(id)));
    for (const group of joined) {
      groups.splice(groups.indexOf(group), 1);
      for (const id of group) ids.add(id);
    }
    groups.push(ids);
  }
  const largest = groups.reduce((best, group) => (group.size > best.size ? group : best), new Set<number>());
  return largest.size > 1 ? largest : new Set(all.map((machine) => machine.id));
}

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
      `SELECT s.machine_id AS "machineId", s.tool, ${SIZED}
       FROM placement s JOIN assembly a ON a.id = s.assembly_id ${CUTTER_OF}
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
  const first = family.length === 0 ? familyOf(all, asked) : new Set(family);
  const chosen = all.filter((machine) => first.has(machine.id));
  const compared = standing.filter((each) => first.has(each.machineId));
  const words = meanings(compared.map(sizeOf));
  const meaningOf = new Map(compared.map((each, i) => [each, words[i]!]));
  const tables: MachineTools[] = chosen.map((machine) => ({
    machine: machine.name,
    highestTool: machine.highestTool,
    tools: compared
      .filter((each) => each.machineId === machine.id)
      .map((each) => ({ tool: each.tool, meaning: meaningOf.get(each)!, assembly: each.number })),
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
            meaning: meaningOf.get(stands)!,
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
  const [all, asked] = await Promise.all([
    machines(db),
    rows<{ machineId: number; remark: string }>(
      db,
      `SELECT DISTINCT g.machine_id AS "machineId", c.reading ->> 'remark' AS remark
       FROM job j JOIN program g ON g.id = j.program_id JOIN program_call c ON c.program_id = g.id WHERE j.state IN ('waiting', 'running', 'paused') AND c.tool > 0`,
      [],
    ),
  ]);
  const wishes = asked.flatMap(({ machineId, remark }) => {
    const machine = all.find((each) => each.id === machineId)!;
    const definition = readDefinition(remark ?? '', machine.unit, machine.kind);
    return definition && definition.diameter !== null
      ? [
          {
            machine: machine.name,
            end: machine.interface,
            kind: definition.kind,
            diameter: definition.diameter,
          },
        ]
      : [];
  });
  const pieces = await rows<StandingCell & { wish: number }>(
    db,
    `SELECT (w.ord - 1)::integer AS wish, 0 AS "machineId", 0 AS tool, a.id AS "assemblyId", a.number, a.name, a.kind, a.diameter, a.corner_radius AS "cornerRadius",
       a.left_hand AS "leftHand", '' AS thread, NULL::bigint AS reach
     FROM unnest($1::text[], $2::text[], $3::bigint[]) WITH ORDINALITY AS w (kind, "end", diameter, ord)
     JOIN assembly a ON a.kind = w.kind AND a.interface = w."end" AND a.diameter BETWEEN w.diameter - $4 AND w.diameter + $4
     WHERE a.flag IS NULL OR a.flag <> 'broken' ORDER BY w.ord, a.id`,
    [
      wishes.map(({ kind }) => kind),
      wishes.map(({ end }) => end),
      wishes.map(({ diameter }) => diameter),
      SAME,
    ],
  );
  const can = new Map<number, typeof pieces>();
  for (const piece of pieces) can.set(piece.wish, [...(can.get(piece.wish) ?? []), piece]);
  const wanted = new Map<string, { pieces: typeof pieces; machines: Set<string> }>();
  for (const [i, { machine }] of wishes.entries()) {
    const own = can.get(i) ?? [];
    const key = own.map((piece) => piece.number).join();
    const entry = wanted.get(key) ?? { pieces: own, machines: new Set<string>() };
    entry.machines.add(machine);
    wanted.set(key, entry);
  }
  return [...wanted.values()]
    .filter((each) => each.pieces.length > 0 && each.machines.size > each.pieces.length)
    .map((each) => ({
      number: each.pieces.map((piece) => piece.number).join(', '),
      meaning: meanings([sizeOf(each.pieces[0]!)])[0]!,
      machines: [...each.machines].sort(),
    }));
}
