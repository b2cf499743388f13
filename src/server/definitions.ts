import { ASSEMBLY_WORDS } from '../core/assembly/silhouette.ts';
import { kindFacts, type ComponentKind } from '../core/component/kinds.ts';
import {
  fulfil,
  SAME,
  sizeDoubts,
  sizeMisses,
  type Candidate,
  type Fulfilment,
} from '../core/definition/fulfil.ts';
import { lookAlikes } from '../core/definition/look-alikes.ts';
import { readDefinition, type Definition } from '../core/definition/read-definition.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import {
  moveStock,
  stockedComponents,
  type StockedComponent,
  lockComponents,
  heldComponent,
} from './components.ts';
import { rows, type Db } from './db.ts';
import { forEach, gathered } from './gather.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { machineById, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { groupsOf, meantBy } from './groups.ts';
import { callsOf, programById, programs, type Program, heldProgram } from './programs.ts';
import { wordsOf } from './words.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

export interface AskedTool {
  tool: number;
  comment: string;
  line: number;
  definition: Definition | null;
  /** Somebody wrote it down; otherwise it was read from the comment. */
  written: boolean;
  fulfilments: Fulfilment[];
  /** Cutters of the size asked for that came back smaller: they do not serve here. */
  reground: Reground[];
}

const COLUMNS = `kind, diameter, corner_radius AS "cornerRadius", reach, teeth, thread, left_hand AS "leftHand", least_life AS "leastLife"`;

const writtenAt = gathered((db, ids: readonly number[]) =>
  rows<Definition & { of: number; program: string; tool: number }>(
    db,
    `SELECT machine_id AS "of", program_number AS program, tool, ${COLUMNS} FROM definition WHERE machine_id = ANY($1)`,
    [ids],
  ),
);

/** What a program asks for under each T: as written down, or as its comments say. */
export async function definitionsOf(db: Db, program: Program, machine: Machine) {
  // one after the other: within a transaction there is one line to the database
  const calls = await callsOf(db, program.id);
  const written = (await writtenAt(db, program.machineId)).filter((each) => each.program === program.number);
  const tools = [...new Set(calls.map(({ tool }) => tool))].sort((a, b) => a - b);
  return tools.map((tool) => {
    const own = written.find((each) => each.tool === tool);
    // the first of its calls whose remark names a tool; a later one often has none
    const read = calls
      .filter((call) => call.tool === tool)
      .map((call) => ({ call, definition: readDefinition(call.remark, program.unit, machine.kind) }));
    const first = read.find(({ definition }) => definition !== null) ?? read[0]!;
    return {
      tool,
      comment: first.call.remark,
      line: first.call.line,
      definition: own ?? first.definition,
      written: own !== undefined,
    };
  });
}

interface CandidateRow extends Candidate {
  /** The catalogue line that its cutter was before it was reground. */
  regroundFrom: string | null;
}

/** What a candidate is held by, of an assembly `a` with what belongs to it. */
const HELD = `a.id, a.number, a.name, a.kind, a.interface, a.diameter, a.corner_radius AS "cornerRadius", a.stick_out AS "stickOut", a.teeth, a.left_hand AS "leftHand",
       a.flag, m.name AS machine, s.tool,
       CASE WHEN k.kind IN ('tapCutting', 'tapForming', 'threadMill') THEN k.series ELSE '' END AS thread, r.number AS "regroundFrom",
       CASE WHEN c.full_life > 0 THEN c.value::float / c.full_life END AS "lifeLeft",
       CASE WHEN s.place_id IS NOT NULL
         THEN EXISTS (SELECT 1 FROM ledger l WHERE l.kind = 'register' AND l.stage = 'measured' AND l.assembly_id = a.id AND l.id > greatest(s.entry, a.changed_entry))
         ELSE EXISTS (SELECT 1 FROM presetting t WHERE t.assembly_id = a.id AND t.entry > a.changed_entry) END AS measured`;
const WITH = `LEFT JOIN life_counter c ON c.assembly_id = a.id LEFT JOIN placement s ON s.assembly_id = a.id
     LEFT JOIN machine m ON m.id = s.machine_id
     LEFT JOIN assembly_part p ON p.assembly_id = a.id AND p.role = 'cutter'
     LEFT JOIN component k ON k.id = p.component_id LEFT JOIN component r ON r.id = k.reground_from`;

const standingIn = gathered((db, ids: readonly number[]) =>
  rows<CandidateRow & { of: number }>(
    db,
    `SELECT s.machine_id AS "of", ${HELD} FROM assembly a ${WITH} WHERE s.machine_id = ANY($1) ORDER BY a.number`,
    [ids],
  ),
);

/** Candidates of the size that is asked for, and of sizes on either side of it, that are looked at. */
const [OF_SIZE, BESIDE] = [60, 12] as const;

/**
 * Assemblies that may serve, chosen by the database from all there are: of the size that is asked for those with the fewest misses, in
 * the order in which they are proposed; and the nearest in size, which say how far off the library is.
 */
async function candidatesFor(
  db: Db,
  asked: readonly { tool: number; definition: Definition | null }[],
  machine: Machine,
): Promise<CandidateRow[]> {
  const wishes = asked.flatMap(({ tool, definition }) => (definition ? [{ tool, ...definition }] : []));
  return rows<CandidateRow>(
    db,
    `WITH asked AS (
       SELECT * FROM jsonb_to_recordset($1::jsonb) AS d (tool integer, kind text, diameter bigint, "cornerRadius" bigint, reach bigint,
         teeth integer, thread text, "leftHand" boolean, "leastLife" float)),
     near AS (
       SELECT n.id FROM asked d CROSS JOIN LATERAL (
         SELECT id FROM (SELECT ${HELD} FROM assembly a ${WITH}
            WHERE a.kind = d.kind AND (d.diameter IS NULL OR a.diameter BETWEEN d.diameter - $4 AND d.diameter + $4)) x
         ORDER BY (x.interface <> $2)::integer + (x.flag IS NOT NULL)::integer
             + coalesce((d.thread <> '' AND x.thread <> '' AND x.thread <> d.thread)::integer, 0)
             + coalesce((abs(x."cornerRadius" - d."cornerRadius") > $4)::integer, 0) + coalesce((x."stickOut" < d.reach)::integer, 0)
             + coalesce((x.teeth > 0 AND x.teeth < d.teeth)::integer, 0) + coalesce((x."leftHand" <> d."leftHand")::integer, 0)
             + coalesce((x."lifeLeft" < d."leastLife")::integer, 0),
           CASE WHEN x.machine = $3 AND x.tool = d.tool THEN 0 WHEN x.machine IS NOT NULL THEN 3 WHEN x.measured THEN 1 ELSE 2 END,
           x."stickOut", x.number LIMIT $5) n
       UNION SELECT n.id FROM asked d CROSS JOIN LATERAL (
         SELECT a.id FROM assembly a WHERE a.kind = d.kind AND a.diameter < d.diameter - $4 ORDER BY a.diameter DESC LIMIT $6) n
       UNION SELECT n.id FROM asked d CROSS JOIN LATERAL (
         SELECT a.id FROM assembly a WHERE a.kind = d.kind AND a.diameter > d.diameter + $4 ORDER BY a.diameter LIMIT $6) n)
     SELECT ${HELD} FROM assembly a ${WITH} WHERE a.id = ANY(ARRAY(SELECT id FROM near)) ORDER BY a.number`,
    [JSON.stringify(wishes), machine.interface, machine.name, SAME, OF_SIZE, BESIDE],
  );
}

/** What of a tool is not as a program asks for, and what of that cannot be told. */
export interface Misfit {
  misses: string[];
  doubts: string[];
}

/** By T, what of the tools that stand in the machine is not as the program asks for, or cannot be told. */
export async function misfitsOf(
  db: Db,
  program: Program,
  machine: Machine,
): Promise<ReadonlyMap<number, Misfit>> {
  const asked = await definitionsOf(db, program, machine);
  const standing = await standingIn(db, machine.id);
  const groups = await groupsOf(db, machine.id);
  const show = (value: Length) => formatWithUnit(value, machine.unit);
  // each sister is to be what her group is called for
  const each = asked.flatMap(({ tool, definition }) =>
    meantBy(groups, tool).map((own) => ({ tool: own, definition })),
  );
  return new Map(
    each.flatMap(({ tool, definition }): [number, Misfit][] => {
      const there = standing.find((candidate) => candidate.tool === tool);
      if (!definition || !there) return [];
      if (there.kind !== definition.kind)
        return [
          [
            tool,
            {
              misses: [
                `it is a ${ASSEMBLY_WORDS[there.kind]}, a ${ASSEMBLY_WORDS[definition.kind]} is asked for`,
              ],
              doubts: [],
            },
          ],
        ];
      const misses = sizeMisses(definition, there, show);
      if (misses.length > 0 && there.regroundFrom)
        misses.push(`its cutter was reground from ${there.regroundFrom}`);
      return [[tool, { misses, doubts: sizeDoubts(definition, there, show) }]];
    }),
  );
}

/** A cutter of the asked size that came back smaller from regrinding. */
export interface Reground {
  from: string;
  left: number;
  id: number;
  number: string;
  diameter: Length;
}

const regroundOf = (db: Db) =>
  rows<Reground & { kind: ComponentKind; old: Length | null }>(
    db,
    `SELECT f.number AS "from", f.stock AS left, f.kind, (f.dimensions->>'DC')::bigint AS old, k.id, k.number, (k.dimensions->>'DC')::bigint AS diameter
     FROM component k JOIN component f ON f.id = k.reground_from WHERE k.reground_from IS NOT NULL AND k.merged_into IS NULL ORDER BY k.number`,
  );

/** For each tool of a program: what is asked for, and what will do, best first; on its own machine, or on another. */
export async function askedTools(db: Db, program: Program, there?: Machine): Promise<AskedTool[]> {
  const machine = there ?? (await machineById(db, program.machineId))!;
  const asked = await definitionsOf(db, program, machine);
  const candidates = await candidatesFor(db, asked, machine);
  const reground = await regroundOf(db);
  const show = (value: Length) => formatWithUnit(value, machine.unit);
  return asked.map((each) => ({
    ...each,
    reground: reground.filter(
      ({ kind, old, diameter }) =>
        each.definition?.kind === kindFacts(kind).makes &&
        each.definition?.diameter === old &&
        diameter !== old,
    ),
    fulfilments: each.definition
      ? fulfil(
          {
            definition: each.definition,
            machine: machine.name,
            tool: each.tool,
            interface: machine.interface,
          },
          candidates,
          show,
        ).slice(0, 8)
      : [],
  }));
}

/** What one T of a program asks for; null when its comment says nothing and nobody wrote it down. */
export async function definitionOf(db: Db, programId: number, tool: number) {
  const program = await programById(db, programId);
  const machine = program && (await machineById(db, program.machineId));
  if (!program || !machine) return null;
  const asked = (await definitionsOf(db, program, machine)).find((each) => each.tool === tool);
  return asked?.definition ? { program, machine, tool, definition: asked.definition } : null;
}

export interface WrittenDefinition extends Definition {
  programId: number;
  tool: number;
}

/** Writes down what a program asks for under a T. */
export function writeDefinition(asking: Asking, written: WrittenDefinition) {
  return once(asking, 'writeDefinition', written, async (db) => {
    const program = await heldProgram(db, written.programId);
    await askBeforeTakingOver(db, asking, [
      'program',
      'defined',
      { programId: program.id, tool: written.tool },
    ]);
    await insertRecord(
      db,
      'definition',
      {
        machineId: program.machineId,
        programNumber: program.number,
        tool: written.tool,
        kind: written.kind,
        diameter: written.diameter,
        cornerRadius: written.cornerRadius,
        reach: written.reach,
        teeth: written.teeth,
        thread: written.thread,
        leftHand: written.leftHand,
        leastLife: written.leastLife,
        writtenBy: asking.personId,
      },
      ['machineId', 'programNumber', 'tool'],
    );
    await append(
      db,
      entry.program('defined', {
        personId: asking.personId,
        machineId: program.machineId,
        programId: program.id,
        tool: written.tool,
        said: `What ${program.number} asks for as T${written.tool} was written down.`,
      }),
    );
  });
}

export interface AskingProgram {
  programId: number;
  program: string;
  machine: string;
  tool: number;
}

/** Newest programs that ask for a size of a kind of tool: who is told when a cutter comes back smaller. */
export async function programsAskingFor(db: Db, kind: string, diameter: number): Promise<AskingProgram[]> {
  const newest = (await programs(db)).filter((each) => each.newest);
  const found = await forEach(db, newest, async (program): Promise<AskingProgram[]> => {
    const machine = (await machineById(db, program.machineId))!;
    return (await definitionsOf(db, program, machine)).flatMap(({ tool, definition }) =>
      definition?.kind === kind && definition.diameter === diameter
        ? [
            {
              programId: program.id,
              program: `${program.number} ${program.title}`,
              machine: program.machine,
              tool,
            },
          ]
        : [],
    );
  });
  return found.flat();
}

/** So many groups of look-alikes are shown, and so many lines of each beside the first: whoever merged those is shown the next. */
const [GROUPS, LINES] = [40, 12] as const;

export interface LookAlikes {
  /** `more`: lines beyond those that are shown. */
  shown: { lines: StockedComponent[]; more: number }[];
  /** Groups in all. */
  groups: number;
}

/** Lines of the catalogue, of these kinds, that are the same thing under several numbers; of one group a line goes by the words. */
export async function catalogueLookAlikes(
  db: Db,
  typed = '',
  kinds: readonly string[] = [],
): Promise<LookAlikes> {
  const words = wordsOf(typed);
  const goesBy = ({ number, name, shelf }: StockedComponent) => {
    const told = `${number} ${name} ${shelf}`.toLowerCase();
    return words.every((word) => told.includes(word));
  };
  const groups = lookAlikes(await stockedComponents(db, kinds)).filter((each) => each.some(goesBy));
  return {
    shown: groups.slice(0, GROUPS).map((lines) => ({
      lines: lines.slice(0, 1 + LINES),
      more: Math.max(0, lines.length - 1 - LINES),
    })),
    groups: groups.length,
  };
}

/** Merges a look-alike into another line: assemblies and stock go over, and the old number stays findable in the ledger. */
export function mergeComponents(asking: Asking, merge: { from: number; into: number }) {
  return once(asking, 'mergeComponents', merge, async (db) => {
    if (merge.from === merge.into) throw new Refused('Choose two lines of the catalogue.');
    await lockComponents(db, [merge.from, merge.into]);
    const [from, into] = [await heldComponent(db, merge.from), await heldComponent(db, merge.into)];
    if (from.kind !== into.kind) throw new Refused('A line is merged only into one of its own kind.');
    await db.query('UPDATE component SET merged_into = $2, minimum = 0 WHERE id = $1', [from.id, into.id]);
    // what is still to come comes to the line that is left
    await db.query(
      'UPDATE supply_order SET component_id = $2 WHERE component_id = $1 AND closed_at IS NULL',
      [from.id, into.id],
    );
    const moved = await db.query('UPDATE assembly_part SET component_id = $2 WHERE component_id = $1', [
      from.id,
      into.id,
    ]);
    if (from.stock > 0) {
      await moveStock(db, asking.personId, from, -from.stock, 'merged', `Into ${into.number}.`);
      await moveStock(db, asking.personId, into, from.stock, 'merged', `From ${from.number}.`);
    }
    await append(
      db,
      entry.component('merged', {
        personId: asking.personId,
        said: `${from.number} was merged into ${into.number}: ${moved.rowCount} assemblies and ${from.stock} pieces went over.`,
        detail: { from: from.id, into: into.id },
      }),
    );
    return { assemblies: moved.rowCount };
  });
}
