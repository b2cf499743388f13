import { kindFacts, type Component, type Dimensions } from '../core/component/kinds.ts';
import type { ComponentRow } from '../core/formats/component-file.ts';
import { nowHeld, row, rows, type Db } from './db.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { entry, type Stage } from '../core/ledger/entry.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { beginningOf, hasAll, hits, patternsOf, wordsOf } from './words.ts';

/** A line of the catalogue with what the crib holds of it. */
export interface StockedComponent extends Component {
  costCents: number | null;
  edges: number | null;
  regrinds: number | null;
  shelf: string;
  stock: number;
  minimum: number;
  maximum: number | null;
  regroundFrom: number | null;
  /** The line that took this one over; null for one in use. */
  mergedInto: number | null;
  /** Assemblies that it is in. */
  used: number;
}

const COMPONENT = `SELECT c.id, c.number, c.name, c.kind, c.dimensions, c.interface, c.series, c.flat, c.coolant, c.left_hand AS "leftHand", c.material, c.torque,
    c.cost_cents AS "costCents", c.edges, c.regrinds, c.shelf, c.stock, c.minimum, c.maximum, c.reground_from AS "regroundFrom", c.merged_into AS "mergedInto",
    (SELECT count(*)::integer FROM assembly_part p WHERE p.component_id = c.id) AS used
  FROM component c`;

export const componentById = (db: Db, id: number) =>
  row<StockedComponent>(db, `${COMPONENT} WHERE c.id = $1`, [id]);
export const componentsByNumber = (db: Db, numbers: readonly string[]) =>
  rows<StockedComponent>(db, `${COMPONENT} WHERE c.number = ANY($1)`, [numbers]);
export const componentsOfKinds = (db: Db, kinds: readonly string[]) =>
  rows<StockedComponent>(
    db,
    `${COMPONENT} WHERE c.kind = ANY($1) AND c.merged_into IS NULL ORDER BY c.number`,
    [kinds],
  );
/** How far a cutter may be from the diameter asked for and still be looked at, nanometres: the rules of building decide. */
const NEAR = 200_000;

/**
 * What a kit could be made of: holders and knobs of an end, everything that goes between, inserts, and the cutters of these
 * kinds near one of the diameters, or of one of the threads.
 */
export const componentsForKits = (
  db: Db,
  wanted: {
    interface: string;
    kinds: readonly string[];
    diameters: readonly number[];
    threads: readonly string[];
    /** Something is asked for by its kind alone. */
    any: boolean;
  },
) =>
  rows<StockedComponent>(
    db,
    `${COMPONENT} WHERE c.merged_into IS NULL AND (c.interface = $1 OR c.kind IN ('collet', 'sleeve', 'insert')
       OR (c.kind = ANY($2) AND ($5 OR c.series = ANY($4)
           OR EXISTS (SELECT 1 FROM unnest($3::bigint[]) d WHERE abs((c.dimensions ->> 'DC')::bigint - d) <= $6))))
     ORDER BY c.number`,
    [wanted.interface, wanted.kinds, wanted.diameters, wanted.threads, wanted.any, NEAR],
  );

/** All lines of these kinds, of all when none is named. */
export const stockedComponents = (db: Db, kinds: readonly string[] = []) =>
  rows<StockedComponent>(
    db,
    `${COMPONENT} WHERE c.merged_into IS NULL AND (cardinality($1::text[]) = 0 OR c.kind = ANY($1)) ORDER BY c.id`,
    [kinds],
  );
export const belowMinimum = (db: Db) =>
  rows<StockedComponent>(db, `${COMPONENT} WHERE c.stock < c.minimum ORDER BY c.shelf, c.number`);

/** Components that go by these words, of these kinds (all when none is named); numbers that begin with the first word first. */
export function findComponents(db: Db, typed: string, kinds: readonly string[], limit = 100, from = 0) {
  const words = wordsOf(typed);
  const [most, skip] = [Math.trunc(limit), Math.trunc(from)];
  const has = `f.merged_into IS NULL AND (cardinality($1::text[]) = 0 OR f.kind = ANY($1)) AND ${hasAll('f.search', words, 3)}`;
  return rows<StockedComponent>(
    db,
    `WITH ${hits('component', has, 2, most + skip)}
     ${COMPONENT} JOIN (SELECT * FROM hit ORDER BY rank, number LIMIT ${most} OFFSET ${skip}) h ON h.id = c.id ORDER BY h.rank, c.number`,
    [kinds, beginningOf(words), ...patternsOf(words)],
  );
}
export async function countComponents(db: Db, typed: string, kinds: readonly string[]): Promise<number> {
  const words = wordsOf(typed);
  return (await row<{ n: number }>(
    db,
    `SELECT count(*)::integer AS n FROM component c WHERE c.merged_into IS NULL AND (cardinality($1::text[]) = 0 OR c.kind = ANY($1))
       AND ${hasAll('c.search', words, 2)}`,
    [kinds, ...patternsOf(words)],
  ))!.n;
}

export interface WhereUsed {
  assemblyId: number;
  number: string;
  name: string;
  role: string;
  count: number;
  machine: string | null;
  tool: number | null;
}
export const whereUsed = (db: Db, componentId: number) =>
  rows<WhereUsed>(
    db,
    `SELECT a.id AS "assemblyId", a.number, a.name, p.role, p.count, m.name AS machine, s.tool
     FROM assembly_part p JOIN assembly a ON a.id = p.assembly_id LEFT JOIN placement s ON s.assembly_id = a.id
     LEFT JOIN machine m ON m.id = s.machine_id WHERE p.component_id = $1 ORDER BY a.number`,
    [componentId],
  );

/** Adds components from a file: all of them, or none. */
export async function importComponents(
  db: Db,
  personId: number,
  files: readonly ComponentRow[],
): Promise<number> {
  const known = await componentsByNumber(
    db,
    files.map((file) => file.number),
  );
  if (known.length > 0)
    throw new Refused(
      `Already in the catalogue: ${known
        .slice(0, 5)
        .map((each) => each.number)
        .join(', ')}. Nothing was saved.`,
    );
  await importComponentBatch(db, personId, files, [], []);
  return files.length;
}

const COLUMNS = `number text, name text, kind text, dimensions jsonb, interface text, series text, flat boolean, coolant boolean, "leftHand" boolean, material text,
  torque double precision, "costCents" integer, edges integer, regrinds integer, shelf text, stock integer, minimum integer, maximum integer, words text`;

/** Adds and changes components, a batch of rows in a few statements. Stock of a line that exists is not a file's to change. */
export async function importComponentBatch(
  db: Db,
  personId: number,
  added: readonly ComponentRow[],
  changed: readonly ComponentRow[],
  words: readonly string[],
): Promise<void> {
  await db.query(
    `WITH f AS (SELECT * FROM jsonb_to_recordset($1) AS f(${COLUMNS})), made AS (
       INSERT INTO component (number, name, kind, dimensions, interface, series, flat, coolant, left_hand, material, torque, cost_cents, edges, regrinds, shelf, minimum, maximum)
       SELECT number, name, kind, dimensions, interface, series, flat, coolant, "leftHand", material, torque, "costCents", edges, regrinds, shelf, minimum, maximum
       FROM f RETURNING id, number, name)
     INSERT INTO ledger (kind, stage, person_id, said, detail)
     SELECT 'component', 'added', $2, number || ' (' || name || ') came into the catalogue.', jsonb_build_object('component', id) FROM made ORDER BY id`,
    [JSON.stringify(added), personId],
  );
  await db.query(
    `INSERT INTO ledger (kind, stage, person_id, component_id, before_value, change_value, after_value, said, why)
     SELECT 'stock', 'counted', $2, c.id, 0, f.stock, f.stock, c.number || ': ' || f.stock || ' counted.', 'First count.'
     FROM jsonb_to_recordset($1) AS f(number text, stock integer) JOIN component c ON c.number = f.number ORDER BY c.id`,
    [
      JSON.stringify(added.filter((file) => file.stock > 0).map(({ number, stock }) => ({ number, stock }))),
      personId,
    ],
  );
  await db.query(
    `WITH f AS (SELECT * FROM jsonb_to_recordset($1) AS f(${COLUMNS})), moved AS (
       UPDATE component c SET name = f.name, dimensions = f.dimensions, series = f.series, flat = f.flat, coolant = f.coolant, left_hand = f."leftHand",
         material = f.material, torque = f.torque, cost_cents = f."costCents", edges = f.edges, regrinds = f.regrinds, shelf = f.shelf,
         minimum = f.minimum, maximum = f.maximum FROM f WHERE c.number = f.number RETURNING c.id, c.number, f.words)
     INSERT INTO ledger (kind, stage, person_id, said, why, detail)
     SELECT 'component', 'changed', $2, number || ' was changed.', words, jsonb_build_object('component', id) FROM moved ORDER BY id`,
    [JSON.stringify(changed.map((file, i) => ({ ...file, words: words[i] }))), personId],
  );
}

async function insertComponent(
  db: Db,
  personId: number,
  file: ComponentRow,
  regroundFrom: number | null = null,
): Promise<number> {
  const id = await insertRecord(db, 'component', {
    number: file.number,
    name: file.name,
    kind: file.kind,
    dimensions: file.dimensions,
    interface: file.interface,
    series: file.series,
    flat: file.flat,
    coolant: file.coolant,
    leftHand: file.leftHand,
    material: file.material,
    torque: file.torque,
    costCents: file.costCents,
    edges: file.edges,
    regrinds: file.regrinds,
    shelf: file.shelf,
    minimum: file.minimum,
    maximum: file.maximum,
    regroundFrom,
  });
  await append(
    db,
    entry.component('added', {
      personId,
      said: `${file.number} (${file.name}) came into the catalogue.`,
      detail: { component: id },
    }),
  );
  await lockComponents(db, [id]);
  if (file.stock > 0)
    await moveStock(
      db,
      personId,
      { id, number: file.number, stock: 0 },
      file.stock,
      'counted',
      'First count.',
    );
  return id;
}

/**
 * Holds lines of the catalogue until this transaction ends, in one order for everybody: what is read of their shelves is so when it is
 * moved. After machines and assemblies.
 */
export async function lockComponents(db: Db, ids: readonly number[]): Promise<void> {
  await db.query('SELECT 1 FROM component WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', [ids]);
  for (const id of ids) nowHeld(db, `component ${id}`);
}

/** A line that is held, and was not merged into another. */
export async function heldComponent(db: Db, id: number): Promise<StockedComponent> {
  await lockComponents(db, [id]);
  const component = await componentById(db, id);
  if (!component) throw new Refused('There is no such component.');
  if (component.mergedInto !== null) {
    const into = await componentById(db, component.mergedInto);
    throw new Refused(`${component.number} was merged into ${into!.number} meanwhile. Look there.`);
  }
  return component;
}

/** Puts an entry for pieces that come or go; refuses to go below nothing. */
export async function moveStock(
  db: Db,
  personId: number,
  component: { id: number; number: string; stock: number },
  by: number,
  stage: Stage<'stock'>,
  why: string,
  assemblyId: number | null = null,
): Promise<void> {
  if (component.stock + by < 0)
    throw new Refused(
      `Only ${component.stock} of ${component.number} ${component.stock === 1 ? 'is' : 'are'} on the shelf; ${-by} were asked for.`,
    );
  await append(
    db,
    entry.stock(stage, {
      personId,
      componentId: component.id,
      assemblyId,
      before: component.stock,
      after: component.stock + by,
      said: `${component.number}: ${Math.abs(by)} ${stage}.`,
      why,
    }),
  );
}

export interface StockMove {
  componentId: number;
  /** What the page showed. */
  before: number;
  move: 'issued' | 'returned' | 'bought' | 'counted';
  pieces: number;
  why: string;
}

/** Issues, returns, books in, or counts what is on the shelf. */
export function stockMoved(asking: Asking, move: StockMove) {
  return once(asking, 'stockMoved', move, async (db) => {
    const component = await heldComponent(db, move.componentId);
    if (component.stock !== move.before)
      throw new Refused(
        `${component.stock} are on the shelf now, not ${move.before}: somebody took or returned some. Look again.`,
      );
    const by =
      move.move === 'counted'
        ? move.pieces - component.stock
        : move.move === 'issued'
          ? -move.pieces
          : move.pieces;
    if (by === 0) throw new Refused('The record already says that.');
    if (move.move === 'counted' && move.why.trim() === '')
      throw new Refused('Say why the count differs from the record.');
    await moveStock(db, asking.personId, component, by, move.move, move.why);
  });
}

export interface Regrind {
  componentId: number;
  diameter: number;
  overall: number;
  pieces: number;
  before: number;
}

/**
 * Cutters that came back from regrinding, smaller and shorter: a catalogue line of its own, so that nothing that asked for the old
 * size takes it by mistake.
 */
export async function reground(
  db: Db,
  personId: number,
  from: StockedComponent,
  back: { pieces: number; diameter: number; overall: number },
): Promise<{ id: number; number: string }> {
  if (kindFacts(from.kind).group !== 'cutter') throw new Refused('Only a cutter is reground.');
  if (!from.regrinds) throw new Refused(`${from.number} has no regrinds left: it is worn out.`);
  const { DC: diameter, OAL: overall, LCF: flutes } = from.dimensions;
  if (
    back.diameter <= 0 ||
    back.diameter > (diameter ?? 0) ||
    back.overall <= 0 ||
    back.overall > (overall ?? 0)
  )
    throw new Refused('A regrind makes a cutter smaller and shorter, never larger.');
  if (back.diameter === diameter && back.overall === overall)
    throw new Refused('Type the size it came back with: this is the size it had before.');
  const shorter = (overall ?? 0) - back.overall;
  const dimensions: Dimensions = {
    ...from.dimensions,
    DC: back.diameter,
    OAL: back.overall,
    ...(flutes === undefined ? {} : { LCF: Math.max(flutes - shorter, 0) }),
  };
  const base = from.number.replace(/-R\d+$/, '');
  // several of one family may come back at once
  await db.query(`SELECT pg_advisory_xact_lock(hashtext('reground'), hashtext($1))`, [base]);
  const { last } = (await row<{ last: number }>(
    db,
    `SELECT coalesce(max(substr(number, length($1::text) + 3)::integer), 0) AS last FROM component
     WHERE starts_with(number, $1::text || '-R') AND substr(number, length($1::text) + 3) ~ '^[0-9]{1,8}$'`,
    [base],
  ))!;
  const number = `${base}-R${last + 1}`;
  const id = await insertComponent(
    db,
    personId,
    {
      ...from,
      number,
      name: `${from.name}, reground`,
      dimensions,
      regrinds: from.regrinds - 1,
      stock: back.pieces,
      minimum: 0,
      maximum: null,
    },
    from.id,
  );
  return { id, number };
}

/** Pieces that went to the grinder before anybody wrote it down, and are back now. */
export function regrind(asking: Asking, sent: Regrind) {
  return once(asking, 'regrind', sent, async (db) => {
    const from = await heldComponent(db, sent.componentId);
    if (from.stock !== sent.before) throw new Refused(`${from.stock} are on the shelf now. Look again.`);
    const back = await reground(db, asking.personId, from, sent);
    await moveStock(db, asking.personId, from, -sent.pieces, 'reground', `Came back as ${back.number}.`);
    return back;
  });
}
