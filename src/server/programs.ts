import { capital } from '../core/words/capital.ts';
import { readFeature, type PlannedFeature } from '../core/formats/plan-file.ts';
import { planWas } from '../core/family/plan-fields.ts';
import { POLICY_WORDS, type Policy } from '../core/correction/policies.ts';
import type { FeatureAim } from '../core/correction/propose.ts';
import { planFaults } from '../core/inspection/plan-check.ts';
import type { Rough } from '../core/inspection/feature.ts';
import type { Moment } from '../core/inspection/next-reading.ts';
import { linesIn, MARK_EVERY } from '../core/program/lines.ts';
import { READER } from '../core/program/read-program.ts';
import type { Remark, ToolCall } from '../core/program/reading.ts';
import type { CutterBy } from '../core/readiness/question.ts';
import type { Length, LengthUnit } from '../core/units/length.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { machineById, heldMachine, lockMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { keepCalls, readCallersAnew, readWhole } from './program-reading.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

export interface Program {
  id: number;
  machineId: number;
  machine: string;
  unit: LengthUnit;
  number: string;
  title: string;
  fileName: string;
  revision: number;
  lines: number;
  remarks: Remark[];
  partsPerCycle: number;
  cutterBy: CutterBy;
  /** What it cuts; null: not said. */
  material: string | null;
  broughtInAt: Date;
  broughtInBy: string;
  newest: boolean;
  tools: number;
  cutMilliseconds: number;
  features: number;
}

const PROGRAM = `SELECT g.id, g.machine_id AS "machineId", m.name AS machine, g.unit, g.number, g.title, g.file_name AS "fileName",
    g.revision, g.lines, g.remarks, g.parts_per_cycle AS "partsPerCycle", g.cutter_by AS "cutterBy", g.material, g.brought_in_at AS "broughtInAt", p.name AS "broughtInBy",
    g.revision = (SELECT max(o.revision) FROM program o WHERE o.machine_id = g.machine_id AND o.number = g.number) AS newest,
    (SELECT count(DISTINCT c.tool)::integer FROM program_call c WHERE c.program_id = g.id) AS tools,
    (SELECT coalesce(sum(c.cut_milliseconds), 0)::bigint FROM program_call c WHERE c.program_id = g.id) AS "cutMilliseconds",
    (SELECT count(*)::integer FROM feature f WHERE f.machine_id = g.machine_id AND f.program_number = g.number) AS features
  FROM program g JOIN machine m ON m.id = g.machine_id JOIN person p ON p.id = g.brought_in_by`;

/** @param of those of one machine; null: of all */
export const programs = (db: Db, of: number | null = null) =>
  rows<Program>(
    db,
    `${PROGRAM} WHERE $1::integer IS NULL OR g.machine_id = $1 ORDER BY m.name, g.number, g.revision DESC`,
    [of],
  );
const programsByIds = gathered((db, ids: readonly number[]) =>
  rows<Program & { of: number }>(db, `SELECT p.id AS "of", p.* FROM (${PROGRAM} WHERE g.id = ANY($1)) p`, [
    ids,
  ]),
);
/** A program with its machine held. */
export async function heldProgram(db: Db, id: number): Promise<Program> {
  const of = await programById(db, id);
  if (of) await lockMachine(db, of.machineId);
  const program = await programById(db, id);
  if (!program) throw new Refused('There is no such program.');
  return program;
}

export const programById = async (db: Db, id: number): Promise<Program | null> =>
  (await programsByIds(db, id))[0] ?? null;
export const programText = async (db: Db, id: number) =>
  (await row<{ text: string }>(db, 'SELECT text FROM program WHERE id = $1', [id]))?.text ?? '';

const readCalls = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; reading: ToolCall }>(
    db,
    'SELECT program_id AS "of", reading FROM program_call WHERE program_id = ANY($1) ORDER BY program_id, ord',
    [ids],
  ),
);
export const callsOf = async (db: Db, programId: number) =>
  (await readCalls(db, programId))
    // a program that was read before these were noted has none on record
    .map(({ reading }) => ({
      ...reading,
      boringShifts: reading.boringShifts ?? [],
      cutSide: reading.cutSide ?? null,
    }));

/** Some lines of a program: from one on (from 1), so many of them; no more of its text is fetched than the marks around them need. */
export async function linesOf(db: Db, programId: number, from: number, count: number): Promise<string[]> {
  const first = Math.floor((from - 1) / MARK_EVERY);
  const part = await row<{ text: string; marked: boolean }>(
    db,
    `SELECT CASE WHEN line_marks IS NULL THEN text
              WHEN line_marks[$3] IS NULL THEN substr(text, line_marks[$2] + 1)
              ELSE substr(text, line_marks[$2] + 1, line_marks[$3] - line_marks[$2]) END AS text,
            line_marks IS NOT NULL AS marked
     FROM program WHERE id = $1`,
    [programId, first + 1, Math.ceil((from - 1 + count) / MARK_EVERY) + 1],
  );
  if (!part) return [];
  const skipped = from - 1 - (part.marked ? first * MARK_EVERY : 0);
  return linesIn(part.text).slice(skipped, skipped + count);
}

export interface ProgramFile {
  /** Under which the reading can be asked how far it is, and stopped. */
  watched?: string;
  machineId: number;
  fileName: string;
  text: string;
  partsPerCycle: number;
}

/** Reads a program and keeps it: a new number, or a new revision of one that is known. The same text again is refused. */
export async function importProgram(db: Db, personId: number, file: ProgramFile): Promise<number> {
  const machine = await machineById(db, file.machineId);
  if (!machine) throw new Refused('Choose the machine that the program is for.');
  const read = await readWhole(db, machine, file.text, [], file.watched ?? null);
  if (!read.ok) throw new Refused(`${file.fileName}: ${read.reason}`);
  const { reading, marks, sha256 } = read;
  const number = reading.number || file.fileName.replace(/\.[^.]*$/, '').slice(0, 40);
  await lockMachine(db, machine.id);
  const newest = await row<{ revision: number; sha256: string; cutterBy: CutterBy; material: string | null }>(
    db,
    'SELECT revision, sha256, cutter_by AS "cutterBy", material FROM program WHERE machine_id = $1 AND number = $2 ORDER BY revision DESC LIMIT 1',
    [machine.id, number],
  );
  if (newest?.sha256 === sha256)
    throw new Refused(
      `${number} is already here with exactly this text, as revision ${newest.revision}. Nothing was changed.`,
    );
  const id = await insertRecord(db, 'program', {
    machineId: machine.id,
    number,
    title: reading.title,
    fileName: file.fileName,
    revision: (newest?.revision ?? 0) + 1,
    sha256,
    text: file.text,
    lineMarks: marks,
    lines: reading.lines,
    unit: reading.units,
    remarks: reading.remarks,
    reader: READER,
    uses: read.uses,
    partsPerCycle: file.partsPerCycle,
    broughtInBy: personId,
    cutterBy: newest?.cutterBy ?? 'cam',
    material: newest?.material ?? null,
  });
  await keepCalls(db, id, reading);
  await readCallersAnew(db, machine.id, number);
  await append(
    db,
    entry.program(newest ? 'changed' : 'brought in', {
      personId,
      machineId: machine.id,
      programId: id,
      said: `${number} ${reading.title} ${newest ? `was changed: it is now revision ${newest.revision + 1}` : 'was brought in'} for ${machine.name}.`,
    }),
  );
  return id;
}

export interface Feature extends FeatureAim {
  /** The tool and row that cut its other end; null: not cut on this machine. */
  other: { tool: number; row: number } | null;
  id: number;
  machineId: number;
  programNumber: string;
  name: string;
  tool: number;
  row: number;
  operatorLimit: Length;
  gauge: string;
  rough: Rough | null;
  every: number | null;
  also: Moment[];
}

const FEATURE = `SELECT f.id, f.machine_id AS "machineId", f.program_number AS "programNumber", f.name, f.kind, f.nominal, f.upper, f.lower,
    f.target, f.tool, f.row, f.policy, f.dead_band AS "deadBand", f.average_of AS "averageOf", f.operator_limit AS "operatorLimit", f.gauge,
    CASE WHEN f.other_tool IS NOT NULL THEN jsonb_build_object('tool', f.other_tool, 'row', f.other_row) END AS other,
    CASE WHEN f.rough_tool IS NOT NULL THEN jsonb_build_object('tool', f.rough_tool, 'row', f.rough_row, 'stock', f.rough_stock) END AS rough,
    f.every_parts AS every, f.also
  FROM feature f`;

const featuresByProgram = gathered((db, keys: readonly string[]) =>
  rows<Feature & { of: string }>(
    db,
    `SELECT x."machineId" || ' ' || x."programNumber" AS "of", x.* FROM (${FEATURE} JOIN unnest($1::integer[], $2::text[]) AS q (machine, program)
       ON f.machine_id = q.machine AND f.program_number = q.program) x ORDER BY x.id`,
    [keys.map((key) => parseInt(key, 10)), keys.map((key) => key.slice(key.indexOf(' ') + 1))],
  ),
);
export const featuresOf = (db: Db, machineId: number, programNumber: string): Promise<Feature[]> =>
  featuresByProgram(db, `${machineId} ${programNumber}`);
/** All that is measured on a machine, whatever the program: rows are shared. */
export const featuresOn = (db: Db, machineId: number) =>
  rows<Feature>(db, `${FEATURE} WHERE f.machine_id = $1 ORDER BY f.id`, [machineId]);
export const featureById = (db: Db, id: number) => row<Feature>(db, `${FEATURE} WHERE f.id = $1`, [id]);

/** A feature as a form shows it, to tell whether somebody else changed it meanwhile. */
const asShown = (feature: object) =>
  JSON.stringify(Object.entries(feature).sort(([a], [b]) => (a < b ? -1 : 1)));

/** Adds one feature to a program's measuring plan by hand, or changes the one that was shown. */
export const writeFeature = (
  asking: Asking,
  written: {
    programId: number;
    cells: Readonly<Record<string, string>>;
    change: { featureId: number; seen: string } | null;
  },
) =>
  once(asking, 'writeFeature', written, async (db) => {
    const program = await heldProgram(db, written.programId);
    const read = readFeature(written.cells, program.unit);
    if (!read.ok)
      throw new Refused(
        read.issues.map(({ column, message }) => `${capital(column)}: ${message}`).join('\n'),
      );
    const known = await featuresOf(db, program.machineId, program.number);
    const { change } = written;
    const same = known.find((feature) => feature.name.toLowerCase() === read.rows[0]!.name.toLowerCase());
    if (change === null && same)
      throw new Refused(`The plan of ${program.number} already has a feature of this name.`);
    if (change !== null) {
      if (same?.id !== change.featureId) throw new Refused('That feature no longer exists.');
      if (asShown(JSON.parse(change.seen) as object) !== asShown(JSON.parse(JSON.stringify(same)) as object))
        throw new Refused('Somebody changed this feature meanwhile. Look at it again, then change it.');
    }
    return importPlan(db, asking.personId, program.id, read.rows);
  });

/** Takes a measuring plan for a program: features are added, or brought up to date by their name; none is removed. */
export async function importPlan(
  db: Db,
  personId: number,
  programId: number,
  planned: readonly PlannedFeature[],
): Promise<number> {
  const program = await programById(db, programId);
  if (!program) throw new Refused('Choose the program that the measuring plan belongs to.');
  const machine = await heldMachine(db, program.machineId);
  const faults = planFaults(planned, await callsOf(db, programId), machine);
  if (faults.length > 0) throw new Refused(faults.slice(0, 5).join('\n'));
  const before = await featuresOf(db, program.machineId, program.number);
  for (const f of planned)
    await insertRecord(
      db,
      'feature',
      {
        machineId: program.machineId,
        programNumber: program.number,
        name: f.name,
        kind: f.kind,
        nominal: f.nominal,
        upper: f.upper,
        lower: f.lower,
        target: f.target,
        tool: f.tool,
        row: f.row,
        policy: f.policy,
        deadBand: f.deadBand,
        averageOf: f.averageOf,
        operatorLimit: f.operatorLimit,
        gauge: f.gauge,
        otherTool: f.other?.tool ?? null,
        otherRow: f.other?.row ?? null,
        roughTool: f.rough?.tool ?? null,
        roughRow: f.rough?.row ?? null,
        roughStock: f.rough?.stock ?? null,
        everyParts: f.every,
        also: f.also,
      },
      ['machineId', 'programNumber', 'name'],
    );
  await append(
    db,
    entry.program('plan', {
      personId,
      machineId: program.machineId,
      programId,
      said: `A measuring plan of ${planned.length} features was taken for ${program.number}.`,
      detail: {
        was: planWas(before, await featuresOf(db, program.machineId, program.number)),
      },
    }),
  );
  return planned.length;
}

/** Has a feature corrected by another school, one that takes several readings by three at least, as the lab tried it; refused where somebody changed it since it was looked at. */
export const adoptSchool = (asking: Asking, adopted: { featureId: number; policy: Policy; was: Policy }) =>
  once(asking, 'adoptSchool', adopted, async (db) => {
    const feature = await featureById(db, adopted.featureId);
    if (!feature) throw new Refused('That feature no longer exists.');
    await lockMachine(db, feature.machineId);
    const changed = await db.query(
      `UPDATE feature SET policy = $2, average_of = CASE WHEN $2 = ANY('{average,ewma,trend}') THEN greatest(average_of, 3) ELSE average_of END
       WHERE id = $1 AND policy = $3`,
      [feature.id, adopted.policy, adopted.was],
    );
    if (changed.rowCount === 0)
      throw new Refused('Somebody changed this feature meanwhile. Look at it again, then change it.');
    const program = await row<{ id: number }>(
      db,
      'SELECT max(g.id) AS id FROM program g WHERE g.machine_id = $1 AND g.number = $2',
      [feature.machineId, feature.programNumber],
    );
    await append(
      db,
      entry.program('plan', {
        personId: asking.personId,
        machineId: feature.machineId,
        programId: program!.id,
        said: `${feature.name} of ${feature.programNumber} is corrected ${POLICY_WORDS[adopted.policy]} from now on.`,
        detail: {
          was: planWas([feature], [(await featureById(db, feature.id))!]),
        },
      }),
    );
  });

/** What is cut in this cell, as it is spelt. */
export const materials = async (db: Db) =>
  (
    await rows<{ material: string }>(
      db,
      "SELECT DISTINCT coalesce(material, '') AS material FROM program WHERE material IS NOT NULL ORDER BY 1",
    )
  ).map(({ material }) => material);

/** Says what a program cuts: lives of edges are compared within one material. Later revisions keep it. */
export function setMaterial(asking: Asking, change: { programId: number; material: string }) {
  return once(asking, 'setMaterial', change, async (db) => {
    const program = await heldProgram(db, change.programId);
    await askBeforeTakingOver(db, asking, ['program', 'material', { programId: program.id }]);
    // as it is spelt already: two spellings would be two materials
    const known = await row<{ material: string }>(
      db,
      "SELECT coalesce(material, '') AS material FROM program WHERE lower(material) = lower($1) AND id <> $2 ORDER BY id LIMIT 1",
      [change.material, program.id],
    );
    const material = known?.material ?? change.material;
    if (program.material === material) throw new Refused('It is already said to be that.');
    await db.query('UPDATE program SET material = $2 WHERE id = $1', [program.id, material]);
    await append(
      db,
      entry.program('material', {
        personId: asking.personId,
        machineId: program.machineId,
        programId: program.id,
        said: `${program.number} cuts ${material}.`,
        why: program.material ? `It was said to cut ${program.material}.` : '',
      }),
    );
  });
}

/** Says who knows the cutter's diameter in a program. */
export function setCutterBy(asking: Asking, change: { programId: number; to: CutterBy }) {
  return once(asking, 'setCutterBy', change, async (db) => {
    const program = await heldProgram(db, change.programId);
    if (program.cutterBy === change.to) throw new Refused('It is already set that way.');
    await db.query('UPDATE program SET cutter_by = $2 WHERE id = $1', [program.id, change.to]);
    await append(
      db,
      entry.program('cutter', {
        personId: asking.personId,
        machineId: program.machineId,
        programId: program.id,
        said:
          change.to === 'cam'
            ? `The cutter's diameter in ${program.number} is left to the CAM path: D holds wear only.`
            : `The cutter's diameter in ${program.number} is the control's: D holds the cutter.`,
      }),
    );
  });
}
