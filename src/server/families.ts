import { meanings, type ToolSize } from '../core/changer/meaning.ts';
import { partings, type FamilyMachine, type FamilyTool, type Parting } from '../core/family/family.ts';
import type { Change } from '../core/family/parted.ts';
import { fieldHistories, type PlanWas } from '../core/family/plan-fields.ts';
import type { LifeBasis } from '../core/life/count.ts';
import type { Length } from '../core/units/length.ts';
import { CUTTER_OF, SIZED, sizeOf, type SizedAssembly } from './across.ts';
import { rows, type Db } from './db.ts';
import { lifeInWords } from './lives.ts';
import { machineById, type Machine } from './machines.ts';
import { callsOf, featuresOf } from './programs.ts';

export interface Family {
  number: string;
  title: string;
  machines: { id: number; name: string; programId: number }[];
}

/** Programs of one number that more than one machine of a kind has, each with its newest revision. */
export const familiesOf = (db: Db) =>
  rows<Family>(
    db,
    `SELECT g.number, coalesce(min(g.title), '') AS title,
       json_agg(json_build_object('id', m.id, 'name', m.name, 'programId', g.id) ORDER BY m.name) AS machines
     FROM (SELECT DISTINCT ON (machine_id, number) id, machine_id, number, title FROM program ORDER BY machine_id, number, revision DESC) g
     JOIN machine m ON m.id = g.machine_id GROUP BY g.number, m.kind HAVING count(*) > 1 ORDER BY g.number`,
    [],
  );

/** Where the machines of a family part, worst first. */
export async function familyParted(db: Db, family: Family, within: Length): Promise<Parting[]> {
  const found: Sized[] = [];
  // one after the other: they are a few, and the page waits for all of them
  for (const { id, programId } of family.machines)
    found.push(await machineOf(db, (await machineById(db, id))!, family.number, programId));
  return partings(inWords(found), within);
}

/** What stands under a T with its size, before it is known how many digits tell it from the others; null: nothing. */
interface SizedStand {
  number: string;
  size: ToolSize | null;
}
type SizedTool = Omit<FamilyTool, 'stands'> & { stands: Change<SizedStand>[] };
type Sized = Omit<FamilyMachine, 'tools'> & { tools: SizedTool[] };

/** The words for every tool of the family, with as many digits as tell them apart on all of its machines. */
function inWords(machines: readonly Sized[]): FamilyMachine[] {
  const all = machines.flatMap(({ tools }) =>
    tools.flatMap(({ stands }) => stands.flatMap(({ value }) => value?.size ?? [])),
  );
  const words = new Map(meanings(all).map((said, i) => [all[i]!, said]));
  return machines.map((machine) => ({
    ...machine,
    tools: machine.tools.map((tool) => ({
      ...tool,
      stands: tool.stands.map(({ at, value }) => ({
        at,
        value: value && { number: value.number, meaning: value.size ? words.get(value.size)! : '' },
      })),
    })),
  }));
}

/** Changes of a program's measuring plan, the newest first, each with what it was before. */
export const planChanges = (db: Db, machineId: number, number: string) =>
  rows<{ entry: number; at: Date; was: PlanWas | null }>(
    db,
    `SELECT l.id AS entry, l.at, l.detail -> 'was' AS was FROM ledger l JOIN program g ON g.id = l.program_id
     WHERE l.kind = 'program' AND l.stage = 'plan' AND g.machine_id = $1 AND g.number = $2 ORDER BY l.id DESC`,
    [machineId, number],
  );

async function machineOf(db: Db, machine: Machine, number: string, programId: number): Promise<Sized> {
  const text = await rows<Change<string>>(
    db,
    `SELECT brought_in_at AS at, sha256 AS value FROM program WHERE machine_id = $1 AND number = $2 ORDER BY revision`,
    [machine.id, number],
  );
  const changes = await planChanges(db, machine.id, number);
  return {
    id: machine.id,
    name: machine.name,
    unit: machine.unit,
    reckoning: reckoningOf(machine),
    text,
    tools: await toolsOf(db, machine, programId),
    sizes: (await featuresOf(db, machine.id, number)).map((feature) => ({
      name: feature.name,
      fields: fieldHistories(feature, changes),
    })),
  };
}

const reckoningOf = ({ kind, cutter, x, unit }: Machine) =>
  `${kind === 'mill' ? `D holds a ${cutter}` : `X is a ${x}`}, ${unit === 'mm' ? 'millimetres' : 'inches'}`;

interface StoodThere extends SizedAssembly {
  at: Date;
  tool: number;
  into: boolean;
  gaugeLength: Length | null;
  changedAt: Date;
  basis: LifeBasis | null;
  fullLife: number | null;
}

/** The T that a program calls, with what stood under each over time, and what stands there now. */
async function toolsOf(db: Db, machine: Machine, programId: number): Promise<SizedTool[]> {
  const calls = await callsOf(db, programId);
  const called = [...new Set(calls.map(({ tool }) => tool))].filter((tool) => tool > 0);
  const stood = await rows<StoodThere>(
    db,
    `SELECT l.at, coalesce(l.tool, 0) AS tool, l.stage = 'in' AS into, a.gauge_length AS "gaugeLength", coalesce(a.changed_at, l.at) AS "changedAt", c.basis, c.full_life AS "fullLife", ${SIZED}
     FROM ledger l JOIN assembly a ON a.id = l.assembly_id LEFT JOIN life_counter c ON c.assembly_id = a.id ${CUTTER_OF}
     WHERE l.kind = 'placement' AND l.stage IN ('in', 'out') AND l.machine_id = $1 AND l.tool = ANY($2) ORDER BY l.id`,
    [machine.id, called],
  );
  const limits = await rows<{
    at: Date;
    assemblyId: number;
    was: { basis: LifeBasis; fullLife: number } | null;
  }>(
    db,
    `SELECT l.at, coalesce(l.assembly_id, 0) AS "assemblyId", nullif(l.detail -> 'limitWas', 'null') AS was FROM ledger l
     WHERE l.kind = 'assembly' AND l.stage = 'changed' AND l.detail ? 'limitWas' AND l.assembly_id = ANY($1) ORDER BY l.id DESC`,
    [[...new Set(stood.map(({ assemblyId }) => assemblyId))]],
  );
  return called.map((tool) => {
    const own = stood.filter((each) => each.tool === tool);
    const last = own.at(-1);
    const there = last?.into ? last : null;
    const uses = (pick: (call: (typeof calls)[number]) => { row: number }[]) =>
      [
        ...new Set(
          calls.filter((call) => call.tool === tool).flatMap((call) => pick(call).map(({ row }) => row)),
        ),
      ].sort((a, b) => a - b);
    const [lengths, radii] = [uses(({ lengthRows }) => lengthRows), uses(({ radiusRows }) => radiusRows)];
    return {
      tool,
      stands: [
        { at: new Date(0), value: { number: '', size: null } },
        ...own.map((each) => ({
          at: each.at,
          value: each.into ? { number: each.number, size: sizeOf(each) } : { number: '', size: null },
        })),
      ],
      gaugeLength:
        there !== null && there.gaugeLength !== null
          ? [{ at: there.changedAt, value: there.gaugeLength }]
          : [],
      life: there
        ? lifeOver(
            there,
            limits.filter(({ assemblyId }) => assemblyId === there.assemblyId),
          )
        : [],
      rows:
        [
          lengths.length > 0 ? `length ${lengths.join(', ')}` : '',
          radii.length > 0 ? `radius ${radii.join(', ')}` : '',
        ]
          .filter(Boolean)
          .join('; ') || 'none',
    };
  });
}

/** How long what stands there was good for over time, the oldest first. */
function lifeOver(
  there: StoodThere,
  limits: readonly { at: Date; was: { basis: LifeBasis; fullLife: number } | null }[],
): Change<string>[] {
  const words = (life: { basis: LifeBasis | null; fullLife: number | null } | null) =>
    life?.basis && life.fullLife !== null ? lifeInWords(life.fullLife, life.basis) : 'not counted';
  const over: Change<string>[] = [];
  let value = words(there);
  for (const { at, was } of limits) {
    over.unshift({ at, value });
    value = words(was);
  }
  return [{ at: new Date(0), value }, ...over];
}
