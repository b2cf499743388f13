import type { Flag } from '../core/life/flag.ts';
import type { AssemblyRow } from '../core/formats/assembly-file.ts';
import type { AssemblyShape } from '../core/assembly/silhouette.ts';
import type { LifeBasis } from '../core/life/count.ts';
import type { Length } from '../core/units/length.ts';
import type { PartRole } from '../core/assembly/part-roles.ts';
import { recordPieces } from './builds.ts';
import { componentsByNumber } from './components.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { lockMachines } from './machines.ts';
import { Refused } from './outcome.ts';
import { beginningOf, hasAll, hits, patternsOf, wordsOf } from './words.ts';

export interface Assembly extends AssemblyShape {
  id: number;
  number: string;
  name: string;
  holder: string;
  cornerRadius: Length;
  leftHand: boolean;
  teeth: number;
  flag: Flag | null;
  widest: Length | null;
  mass: number | null;
  massReckoned: boolean;
  moment: number | null;
  speedLimit: number | null;
  /** Why it was built against a rule; empty when none spoke against it. */
  override: string;
  changedAt: Date | null;
  counterId: number | null;
  basis: LifeBasis | null;
  fullLife: number | null;
  remaining: number | null;
  machineId: number | null;
  machine: string | null;
  place: number | null;
  placeId: number | null;
  tool: number | null;
  since: Date | null;
}

const ASSEMBLY = `SELECT a.id, a.number, a.name, a.kind, a.interface, a.holder, a.diameter, a.corner_radius AS "cornerRadius",
    a.stick_out AS "stickOut", a.gauge_length AS "gaugeLength", a.holder_diameter AS "holderDiameter", a.teeth, a.left_hand AS "leftHand", a.flag, a.outline, a.seats, a.widest,
    a.mass, a.mass_reckoned AS "massReckoned", a.moment, a.speed_limit AS "speedLimit", a.override, a.changed_at AS "changedAt",
    c.id AS "counterId", c.basis, c.full_life AS "fullLife", c.value AS remaining,
    m.id AS "machineId", m.name AS machine, p.number AS place, p.id AS "placeId", s.tool, s.since
  FROM assembly a LEFT JOIN life_counter c ON c.assembly_id = a.id LEFT JOIN placement s ON s.assembly_id = a.id
  LEFT JOIN place p ON p.id = s.place_id LEFT JOIN machine m ON m.id = s.machine_id`;

/** Assemblies that stand in a machine and go by these words together with its name and T; they are few. */
const placedBy = (words: readonly string[]) =>
  `SELECT b.id, b.number FROM placement s JOIN assembly b ON b.id = s.assembly_id JOIN machine n ON n.id = s.machine_id
   WHERE ${hasAll(`(b.search || tin_search(n.name || ' t' || s.tool))`, words)}`;

/**
 * Assemblies with every word in number, name, kind, holder, machine or T: those whose number begins with the first word,
 * then the others, each in the order of their numbers.
 */
export function findAssemblies(db: Db, typed: string, limit = 100, from = 0): Promise<Assembly[]> {
  const words = wordsOf(typed);
  const [most, skip] = [Math.trunc(limit), Math.trunc(from)];
  const has = hasAll('f.search', words);
  return rows<Assembly>(
    db,
    `WITH ${hits('assembly', has, words.length + 1, most + skip, placedBy(words))}
     ${ASSEMBLY} JOIN (SELECT * FROM hit ORDER BY rank, number LIMIT ${most} OFFSET ${skip}) h ON h.id = a.id ORDER BY h.rank, a.number`,
    [...patternsOf(words), beginningOf(words)],
  );
}

export async function countAssemblies(db: Db, typed: string): Promise<number> {
  const words = wordsOf(typed);
  return (await row<{ n: number }>(
    db,
    `SELECT count(*)::integer AS n FROM (SELECT f.id FROM assembly f WHERE ${hasAll('f.search', words)}
       UNION SELECT id FROM (${placedBy(words)}) p) found`,
    patternsOf(words),
  ))!.n;
}

const assembliesByIds = gathered((db, ids: readonly number[]) =>
  rows<Assembly & { of: number }>(db, `SELECT x.id AS "of", x.* FROM (${ASSEMBLY} WHERE a.id = ANY($1)) x`, [
    ids,
  ]),
);
export const assemblyById = async (db: Db, id: number): Promise<Assembly | null> =>
  (await assembliesByIds(db, id))[0] ?? null;

/**
 * An assembly held, and the machine it stands in before it: whoever records parts on it, puts it in or takes it out waits, or is waited
 * for, and what is read here is still so when it is written.
 *
 * @param also machines that are written of too: of several, the one that was described first is held first
 */
export async function heldAssembly(
  db: Db,
  id: number,
  also: readonly (number | null)[] = [],
): Promise<Assembly | null> {
  for (;;) {
    const before = await assemblyById(db, id);
    if (!before) return before;
    await lockMachines(db, [before.machineId, ...also]);
    // what is held from here on is let go again where it has gone to another machine meanwhile: that one is held before it
    await db.query('SAVEPOINT held');
    await db.query('SELECT 1 FROM assembly WHERE id = $1 FOR NO KEY UPDATE', [id]);
    const held = await assemblyById(db, id);
    const stands = held?.machineId ?? null;
    if (stands === null || stands === before.machineId || also.includes(stands)) {
      await db.query('RELEASE SAVEPOINT held');
      return held;
    }
    await db.query('ROLLBACK TO SAVEPOINT held');
  }
}

export const assembliesOf = (db: Db, ids: readonly number[]) =>
  rows<Assembly>(db, `${ASSEMBLY} WHERE a.id = ANY($1)`, [ids]);

export const assembliesByNumber = (db: Db, numbers: readonly string[]) =>
  rows<Assembly>(db, `${ASSEMBLY} WHERE a.number = ANY($1) ORDER BY a.number`, [numbers]);

/** Loose assemblies with pieces on record that were not measured since they were last built, indexed or reground. */
export const looseAssembliesToMeasure = (db: Db) =>
  rows<Assembly>(
    db,
    `${ASSEMBLY} WHERE s.place_id IS NULL AND a.changed_at IS NOT NULL
       AND NOT EXISTS (SELECT 1 FROM presetting t WHERE t.assembly_id = a.id AND t.entry > a.changed_entry) ORDER BY a.changed_at, a.number`,
    [],
  );

/** Loose assemblies that are shown at once; who looks for another types more of it. */
const LOOSE = 60;

/** The first assemblies that stand nowhere, have this machine's end and go by these words; and whether there are more. */
export async function looseAssemblies(db: Db, interfaceName: string, typed = '') {
  const found = await rows<Pick<Assembly, 'id' | 'number' | 'name' | 'flag'>>(
    db,
    `SELECT a.id, a.number, a.name, a.flag FROM assembly a
     WHERE a.interface = $1 AND a.search LIKE ALL ($2::text[]) AND NOT EXISTS (SELECT 1 FROM placement s WHERE s.assembly_id = a.id)
     ORDER BY a.number LIMIT $3`,
    [interfaceName, patternsOf(wordsOf(typed)), LOOSE + 1],
  );
  return { list: found.slice(0, LOOSE), more: found.length > LOOSE };
}

const COLUMNS = `number text, name text, kind text, interface text, holder text, diameter bigint, "cornerRadius" bigint, "stickOut" bigint,
  "gaugeLength" bigint, "holderDiameter" bigint, teeth integer, "leftHand" boolean, life jsonb, words text`;

/** Adds and changes assemblies, a batch of rows in a few statements; what changes is told in words, row by row. */
export async function importAssemblyBatch(
  db: Db,
  personId: number,
  added: readonly AssemblyRow[],
  changed: readonly AssemblyRow[],
  words: readonly string[],
): Promise<void> {
  const made = await rows<{ id: number; number: string }>(
    db,
    `INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth, left_hand)
     SELECT number, name, kind, interface, holder, diameter, "cornerRadius", "stickOut", "gaugeLength", "holderDiameter", teeth, "leftHand"
     FROM jsonb_to_recordset($1) AS f(${COLUMNS}) RETURNING id, number`,
    [JSON.stringify(added)],
  );
  await db.query(
    `INSERT INTO ledger (kind, stage, person_id, assembly_id, said)
     SELECT 'assembly', 'added', $2, a.id, a.number || ' (' || a.name || ') was added.' FROM assembly a WHERE a.id = ANY($1) ORDER BY a.id`,
    [made.map((each) => each.id), personId],
  );
  const counted = added.filter((file) => file.life);
  await db.query(
    `INSERT INTO life_counter (assembly_id, basis, full_life)
     SELECT a.id, f.life ->> 'basis', (f.life ->> 'limit')::bigint FROM jsonb_to_recordset($1) AS f(number text, life jsonb) JOIN assembly a ON a.number = f.number`,
    [JSON.stringify(counted.map(({ number, life }) => ({ number, life })))],
  );
  await db.query(
    `INSERT INTO ledger (kind, stage, person_id, assembly_id, counter_id, before_value, change_value, after_value, said)
     SELECT 'life', 'set', $2, a.id, c.id, 0, c.full_life, c.full_life, a.number || ' starts with its full life.'
     FROM assembly a JOIN life_counter c ON c.assembly_id = a.id WHERE a.number = ANY($1) ORDER BY a.id`,
    [counted.map((file) => file.number), personId],
  );
  const used = counted.filter(({ life }) => life!.left !== null && life!.left < life!.limit);
  await db.query(
    `INSERT INTO ledger (kind, stage, person_id, assembly_id, counter_id, before_value, change_value, after_value, said, why)
     SELECT 'life', 'set', $2, a.id, c.id, c.value, f.left_over - c.value, f.left_over, a.number || ' comes with less than its full life.', 'By its file.'
     FROM jsonb_to_recordset($1) AS f(number text, left_over bigint) JOIN assembly a ON a.number = f.number JOIN life_counter c ON c.assembly_id = a.id
     ORDER BY a.id`,
    [JSON.stringify(used.map(({ number, life }) => ({ number, left_over: life!.left }))), personId],
  );
  const ids = new Map(made.map(({ id, number }) => [number, id]));
  for (const file of added)
    if (Object.keys(file.items).length > 0) await recordItems(db, ids.get(file.number)!, file);
  await db.query(
    `WITH f AS (SELECT * FROM jsonb_to_recordset($1) AS f(${COLUMNS})), moved AS (
       UPDATE assembly a SET name = f.name, kind = f.kind, interface = f.interface, holder = f.holder, diameter = f.diameter,
         corner_radius = f."cornerRadius", stick_out = f."stickOut", gauge_length = f."gaugeLength", holder_diameter = f."holderDiameter",
         teeth = f.teeth, left_hand = f."leftHand" FROM f WHERE a.number = f.number RETURNING a.id, a.number, f.words)
     INSERT INTO ledger (kind, stage, person_id, assembly_id, said, why)
     SELECT 'assembly', 'changed', $2, id, number || ' was changed.', words FROM moved ORDER BY id`,
    [JSON.stringify(changed.map((file, i) => ({ ...file, words: words[i] }))), personId],
  );
}

/** Ties an assembly of a file to the catalogue lines that it names. */
async function recordItems(db: Db, assemblyId: number, file: AssemblyRow): Promise<void> {
  const wanted = Object.entries(file.items) as [PartRole, string][];
  if (wanted.length === 0) return;
  const known = await componentsByNumber(
    db,
    wanted.map(([, number]) => number),
  );
  const missing = wanted.filter(([, number]) => !known.some((component) => component.number === number));
  if (missing.length > 0)
    throw new Refused(
      `${file.number} names ${missing.map(([, number]) => number).join(', ')}, which the catalogue does not have. Bring the components in first.`,
    );
  await recordPieces(
    db,
    assemblyId,
    file.stickOut,
    wanted.map(([role, number]) => ({
      role,
      component: known.find((component) => component.number === number)!,
      count: role === 'insert' ? file.insertCount : 1,
    })),
  );
}

export async function setFlag(
  db: Db,
  personId: number,
  assembly: Pick<Assembly, 'id' | 'number' | 'machineId' | 'tool'>,
  flag: Flag | null,
  why: string,
): Promise<void> {
  await append(
    db,
    entry.assembly('flag', {
      personId,
      assemblyId: assembly.id,
      machineId: assembly.machineId,
      tool: assembly.tool,
      said: flag ? `${assembly.number} was flagged ${flag}.` : `The flag of ${assembly.number} was cleared.`,
      why,
      detail: { flag },
    }),
  );
}
