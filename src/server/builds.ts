import {
  cornerOf,
  costPerEdge,
  sizeOf,
  stackFacts,
  type Stack,
  type StackFacts,
} from '../core/assembly/stack.ts';
import { PART_ROLES, type PartRole } from '../core/assembly/part-roles.ts';
import { indexingWords, insertsOf, usedUp } from '../core/assembly/inserts.ts';
import type { AssemblyKind } from '../core/assembly/silhouette.ts';
import { kindFacts, type Component } from '../core/component/kinds.ts';
import {
  adapterRefusal,
  extensionRefusal,
  holderRefusal,
  insertRefusal,
  knobRefusal,
  nutRefusal,
  seatsOf,
  secondInsertRefusal,
  secondRefusal,
  stickOutRefusal,
  type Refusal,
} from '../core/holding/fits.ts';
import type { Length } from '../core/units/length.ts';
import { heldAssembly, setFlag, type Assembly } from './assemblies.ts';
import { moveStock, type StockedComponent, lockComponents, heldComponent } from './components.ts';
import { row, rows, type Db } from './db.ts';
import { endedWords, keepEdgeEnd, NOBODY_SAID, ranOf, type Ended } from './edge-ends.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { machineById } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askIfDoubled } from './told-meanwhile.ts';

export interface Part extends StockedComponent {
  role: PartRole;
  count: number;
  edgesUsed: number;
}

/** The pieces of an assembly. */
export const partsOf = (db: Db, assemblyId: number) =>
  rows<Part>(
    db,
    `SELECT p.role, p.count, p.edges_used AS "edgesUsed", c.id, c.number, c.name, c.kind, c.dimensions, c.interface, c.series, c.flat,
       c.coolant, c.left_hand AS "leftHand", c.material, c.torque, c.cost_cents AS "costCents", c.edges, c.regrinds, c.shelf, c.stock, c.minimum, c.maximum,
       c.reground_from AS "regroundFrom", c.merged_into AS "mergedInto", 1 AS used
     FROM assembly_part p JOIN component c ON c.id = p.component_id WHERE p.assembly_id = $1
     ORDER BY array_position($2::text[], p.role)`,
    [assemblyId, PART_ROLES],
  );

/** What one edge of an assembly costs, in cents, by its pieces; null: they say nothing of it. */
export function edgeCostOf(parts: readonly Part[]): number | null {
  const cutter = parts.find(({ role }) => role === 'cutter');
  if (!cutter) return null;
  return costPerEdge(
    { cost: cutter.costCents, regrinds: cutter.regrinds },
    insertsOf(parts).map(({ costCents, count, edges }) => ({
      cost: costCents === null ? null : costCents * count,
      edges: edges ?? 1,
    })),
  );
}

/** The stack behind an assembly; null when its pieces are not recorded. */
export function stackOf(parts: readonly Part[], stickOut: Length): Stack | null {
  const piece = (role: PartRole) => parts.find((part) => part.role === role) ?? null;
  const [holder, cutter] = [piece('holder'), piece('cutter')];
  if (!holder || !cutter) return null;
  const set = (role: PartRole) => {
    const part = piece(role);
    return part && { component: part, count: part.count };
  };
  return {
    holder,
    cutter,
    extension: piece('extension'),
    nut: piece('nut'),
    second: piece('second'),
    adapter: piece('adapter'),
    knob: piece('knob'),
    inserts: set('insert'),
    secondInserts: set('second_insert'),
    stickOut,
  };
}

/** Everything that speaks against a stack; for a machine its knob too. */
export function stackRefusals(stack: Stack, drawbar: Parameters<typeof knobRefusal>[1] | null): Refusal[] {
  return [
    holderRefusal(stack.cutter, stack.holder, stack.extension),
    extensionRefusal(stack.cutter, stack.extension),
    nutRefusal(stack.holder, stack.nut),
    secondRefusal(stack.holder, stack.second),
    adapterRefusal(stack.extension ?? stack.cutter, stack.holder, stack.adapter),
    stickOutRefusal(stack.cutter, stack.stickOut),
    insertRefusal(stack.cutter, stack.inserts?.component ?? null),
    secondInsertRefusal(stack.second, stack.secondInserts?.component ?? null),
    drawbar && knobRefusal(stack.knob, drawbar),
  ].filter((refusal) => refusal !== null);
}

export interface Build {
  number: string;
  name: string;
  parts: Partial<Record<PartRole, number | null>>;
  stickOut: Length;
  machineId: number | null;
  override: string;
}

async function stackFrom(
  db: Db,
  build: Build,
): Promise<{ stack: Stack; parts: Map<PartRole, StockedComponent> }> {
  const parts = new Map<PartRole, StockedComponent>();
  await lockComponents(
    db,
    PART_ROLES.flatMap((role) => build.parts[role] ?? []),
  );
  for (const role of PART_ROLES) {
    const id = build.parts[role] ?? null;
    if (id !== null) parts.set(role, await heldComponent(db, id));
  }
  const [holder, cutter, second] = [parts.get('holder'), parts.get('cutter'), parts.get('second') ?? null];
  if (!holder || !cutter) throw new Refused('An assembly needs a holder and a cutter.');
  const set = (role: PartRole, seat: Component | null) => {
    const component = parts.get(role);
    return component ? { component, count: seat ? seatsOf(seat) : 1 } : null;
  };
  return {
    parts,
    stack: {
      holder,
      cutter,
      extension: parts.get('extension') ?? null,
      nut: parts.get('nut') ?? null,
      second,
      adapter: parts.get('adapter') ?? null,
      knob: parts.get('knob') ?? null,
      inserts: set('insert', cutter),
      secondInserts: set('second_insert', second),
      stickOut: build.stickOut,
    },
  };
}

/** Builds an assembly: the pieces are issued from the crib, and it gets its number. A refusal needs the lead's override. */
export function buildAssembly(asking: Asking, build: Build, mayOverride: boolean) {
  return once(asking, 'buildAssembly', build, async (db) => {
    const { stack, parts } = await stackFrom(db, build);
    const machine = build.machineId === null ? null : await machineById(db, build.machineId);
    const refusals = stackRefusals(
      stack,
      machine && {
        machine: machine.name,
        interface: machine.interface,
        knob: machine.knob,
        throughCoolant: machine.throughCoolant,
      },
    );
    if (refusals.length > 0 && (!mayOverride || build.override.trim() === ''))
      throw new Refused(
        `${refusals.map((refusal) => refusal.reason).join(' ')}${mayOverride ? ' To build it all the same, write the reason.' : ''}`,
      );
    const facts = stackFacts(stack);
    const id = await insertBuilt(db, build, stack, facts, refusals.length > 0 ? build.override.trim() : '');
    const pieces = [...parts].map(([role, component]) => ({
      role,
      component,
      count:
        (role === 'insert' ? stack.inserts : role === 'second_insert' ? stack.secondInserts : null)?.count ??
        1,
    }));
    for (const { role, component, count } of pieces)
      await db.query(
        'INSERT INTO assembly_part (assembly_id, role, component_id, count) VALUES ($1, $2, $3, $4)',
        [id, role, component.id, count],
      );
    await issue(db, asking.personId, pieces, `For ${build.number}.`, id);
    await append(
      db,
      entry.assembly('built', {
        personId: asking.personId,
        assemblyId: id,
        said: `${build.number} (${build.name}) was built.`,
        why:
          refusals.length > 0
            ? `Against ${refusals.map((refusal) => refusal.rule).join(', ')}: ${build.override.trim()}`
            : '',
      }),
    );
    return { id };
  });
}

async function insertBuilt(
  db: Db,
  build: Build,
  stack: Stack,
  facts: StackFacts,
  override: string,
): Promise<number> {
  const { cutter, holder } = stack;
  const known = await row(db, 'SELECT 1 FROM assembly WHERE number = $1', [build.number]);
  if (known) throw new Refused(`${build.number} already exists: a number is one physical piece.`);
  return insertRecord(db, 'assembly', {
    number: build.number,
    name: build.name,
    kind: kindFacts(cutter.kind).makes satisfies AssemblyKind | undefined,
    interface: holder.interface,
    holder: holder.name,
    diameter: sizeOf(stack),
    cornerRadius: cornerOf(stack),
    stickOut: build.stickOut,
    gaugeLength: facts.gaugeLength,
    holderDiameter: holder.dimensions.BD ?? 0,
    teeth: cutter.dimensions.ZEFP ?? 0,
    leftHand: cutter.leftHand,
    outline: facts.outline,
    seats: facts.seats,
    widest: facts.widest,
    mass: facts.mass,
    massReckoned: !facts.massWeighed,
    moment: facts.moment,
    speedLimit: facts.speedLimit?.rpm ?? null,
    override,
  });
}

/** Records the pieces of an assembly that comes from a file, already built: nothing is issued from the shelf. */
export async function recordPieces(
  db: Db,
  assemblyId: number,
  stickOut: Length,
  parts: readonly { role: PartRole; component: StockedComponent; count: number }[],
): Promise<void> {
  for (const { role, component, count } of parts)
    await db.query(
      'INSERT INTO assembly_part (assembly_id, role, component_id, count) VALUES ($1, $2, $3, $4)',
      [assemblyId, role, component.id, count],
    );
  const stack = stackOf(await partsOf(db, assemblyId), stickOut);
  if (!stack) return;
  const facts = stackFacts(stack);
  await db.query(
    'UPDATE assembly SET outline = $2, seats = $3, widest = $4, mass = $5, mass_reckoned = $6, moment = $7, speed_limit = $8 WHERE id = $1',
    [
      assemblyId,
      JSON.stringify(facts.outline),
      facts.seats && JSON.stringify(facts.seats),
      facts.widest,
      facts.mass,
      !facts.massWeighed,
      facts.moment,
      facts.speedLimit?.rpm ?? null,
    ],
  );
}

/** The inserts of an assembly, their lines held; one may be merged into another meanwhile, which is held then. */
async function heldInserts(db: Db, assemblyId: number) {
  for (let held: readonly number[] = []; ;) {
    const inserts = insertsOf(await partsOf(db, assemblyId));
    const ids = inserts.map((insert) => insert.id);
    if (ids.every((id) => held.includes(id))) return inserts;
    await lockComponents(db, ids);
    held = ids;
  }
}

/**
 * Turns the inserts of an assembly to their next edge, or to new ones off the shelf where that was the last: in a double holder those
 * of both tools. What was done, in words.
 */
export async function indexed(
  db: Db,
  personId: number,
  { id, number, machineId, tool }: Pick<Assembly, 'id' | 'number' | 'machineId' | 'tool'>,
): Promise<{ fresh: boolean; said: string }> {
  const inserts = await heldInserts(db, id);
  if (inserts.length === 0) throw new Refused('This assembly has no inserts on record.');
  const fresh = inserts.filter(usedUp);
  await issue(
    db,
    personId,
    fresh.map((component) => ({ component, count: component.count })),
    `New inserts for ${number}.`,
    id,
  );
  await db.query(
    `UPDATE assembly_part p SET edges_used = t.edges_used FROM unnest($2::text[], $3::integer[]) AS t(role, edges_used)
     WHERE p.assembly_id = $1 AND p.role = t.role`,
    [
      id,
      inserts.map(({ role }) => role),
      inserts.map((insert) => (usedUp(insert) ? 0 : insert.edgesUsed + 1)),
    ],
  );
  const said = `${number} was indexed: ${inserts.map(indexingWords).join(', ')}.`;
  await append(db, entry.assembly('indexed', { personId, assemblyId: id, machineId, tool, said }));
  return { fresh: fresh.length > 0, said };
}

/** Takes pieces off the shelf for an assembly; two of one line come off one after the other. */
async function issue(
  db: Db,
  personId: number,
  pieces: readonly { component: { id: number; number: string; stock: number }; count: number }[],
  why: string,
  assemblyId: number,
): Promise<void> {
  const taken = new Map<number, number>();
  for (const { component, count } of pieces) {
    const before = taken.get(component.id) ?? 0;
    const line = { ...component, stock: component.stock - before };
    await moveStock(db, personId, line, -count, 'issued', why, assemblyId);
    taken.set(component.id, before + count);
  }
}

/** An edge of a counted tool gives way to a fresh one on the bench; one that cut nothing says nothing of how long they last. */
async function freshEdge(db: Db, personId: number, assembly: Assembly, ended: Ended): Promise<void> {
  const { id, number, counterId, remaining, fullLife, flag } = assembly;
  if (counterId !== null && remaining! < fullLife!) {
    await keepEdgeEnd(db, personId, assembly, ended, await ranOf(db, assembly));
    await append(
      db,
      entry.life('renewed', {
        personId,
        assemblyId: id,
        counterId,
        before: remaining!,
        after: fullLife!,
        said: `The life of ${number} was set.`,
        why: `Indexed on the bench. The old edge: ${endedWords(ended)}.`,
      }),
    );
  }
  if (flag === 'expired') await setFlag(db, personId, assembly, null, 'Indexed on the bench.');
}

/**
 * The same on the bench: the edge that goes leaves how it ended, and one that is counted has its full life again. In a machine it is a
 * step of a renewal: what cuts with a new edge is measured again and its wear zeroed.
 *
 * @param ended how the old edge ended, where somebody said it
 */
export function indexInserts(asking: Asking, assemblyId: number, ended: Ended = NOBODY_SAID) {
  return once(asking, 'indexInserts', { assemblyId, ended }, async (db) => {
    const assembly = await heldAssembly(db, assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    if (assembly.machineId !== null)
      throw new Refused(
        `${assembly.number} stands in a machine as T${assembly.tool}: index its inserts in a renewal, which measures it again and zeroes its wear.`,
      );
    const renewing = await row(db, 'SELECT 1 FROM renewal WHERE assembly_id = $1 AND finished_at IS NULL', [
      assemblyId,
    ]);
    if (renewing) throw new Refused(`A renewal of ${assembly.number} is under way: index its inserts there.`);
    await askIfDoubled(db, asking, ['assembly', 'indexed', { assemblyId }], 'Turned once more');
    await freshEdge(db, asking.personId, assembly, ended);
    const { fresh } = await indexed(db, asking.personId, assembly);
    return { fresh };
  });
}

export interface KitLine {
  shelf: string;
  number: string;
  name: string;
  pieces: number;
  stock: number;
  assemblies: string;
}

/** The pieces of several assemblies at once, in the order of the shelves. */
export const kitFor = (db: Db, assemblyIds: readonly number[]) =>
  rows<KitLine>(
    db,
    `SELECT c.shelf, c.number, c.name, c.stock, sum(p.count)::integer AS pieces, string_agg(a.number, ', ' ORDER BY a.number) AS assemblies
     FROM assembly_part p JOIN component c ON c.id = p.component_id JOIN assembly a ON a.id = p.assembly_id
     WHERE p.assembly_id = ANY($1) GROUP BY c.id ORDER BY c.shelf, c.number`,
    [assemblyIds],
  );

/** How many assemblies hold a cutter of a kind in a holder, by the holder's line and the kind. */
export async function holderHabits(db: Db): Promise<Map<string, number>> {
  const found = await rows<{ holder: number; kind: string; times: number }>(
    db,
    `SELECT h.component_id AS holder, c.kind, count(*)::integer AS times
     FROM assembly_part h JOIN assembly_part k ON k.assembly_id = h.assembly_id AND k.role = 'cutter' JOIN component c ON c.id = k.component_id
     WHERE h.role = 'holder' GROUP BY h.component_id, c.kind`,
    [],
  );
  return new Map(found.map(({ holder, kind, times }) => [`${holder} ${kind}`, times]));
}
