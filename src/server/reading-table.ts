import { stringify } from 'csv-stringify/sync';
import { heldFor, seriesOf, type RegisterMove } from '../core/correction/cut-with.ts';
import { fieldsAt } from '../core/family/plan-fields.ts';
import { plainCell } from '../core/formats/plain-cell.ts';
import { PLAN_HEADING, planCells } from '../core/formats/plan-file.ts';
import { movesOf, type Moves } from '../core/inspection/feature.ts';
import { plainDecimal } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { planChanges } from './families.ts';
import { machineById, type Machine } from './machines.ts';
import { calledGroups, cutBy, groupsOfFeature, whoCut, type CalledGroup } from './members.ts';
import { featuresOf, type Feature, type Program } from './programs.ts';

const csv = (lines: (string | number | null)[][]) => stringify(lines, { record_delimiter: 'windows' });

interface Line {
  featureId: number;
  programId: number;
  revision: number;
  jobId: number | null;
  part: number;
  measured: Length;
  person: string;
  at: Date;
  entry: number;
  recut: boolean;
  firstOff: number | null;
  doubt: string | null;
  place: number | null;
  pallet: number | null;
}

/** What the row of its own tool held when the part of each line was cut: of a size that a group cuts, the row of the member that cut it. */
async function heldBy(db: Db, machine: Machine, features: readonly Feature[], lines: readonly Line[]) {
  const groups = await calledGroups(db, machine.id);
  const who = whoCut(db);
  const histories = new Map<string, Awaited<ReturnType<typeof historyOf>>>();
  const held = new Map<Line, number | null>();
  for (const line of lines) {
    const feature = features.find(({ id }) => id === line.featureId)!;
    const part = { ...line, series: seriesOf(line) };
    const members = new Map<CalledGroup, number | null>();
    for (const group of groupsOfFeature(groups, feature)) members.set(group, await who(group, part));
    const cut = cutBy(feature, groups, (group) => members.get(group) ?? null);
    const [own] = cut ? movesOf(cut, machine) : [];
    if (!own) continue;
    const name = `${own.row} ${own.role}`;
    if (!histories.has(name)) histories.set(name, await historyOf(db, machine.id, own));
    const moves = histories.get(name)!;
    held.set(line, heldFor(part, moves, moves[0]?.present ?? 0));
  }
  return held;
}

const historyOf = (db: Db, machineId: number, { row, role }: Moves) =>
  rows<RegisterMove & { present: number }>(
    db,
    `SELECT coalesce(l.id, 0) AS entry, coalesce(l.before_value, g.value) AS before, coalesce(l.after_value, g.value) AS after,
            coalesce(l.stage = 'found', false) AS found, cut_known(l.id, l.detail) AS cut, coalesce((l.detail ->> 'jobs')::integer, 0) AS jobs, g.value AS present
     FROM register g LEFT JOIN ledger l ON l.register_id = g.id WHERE g.machine_id = $1 AND g.row = $2 AND g.kind = $3 ORDER BY l.id`,
    [machineId, row, role],
  );

/**
 * All readings of a program's parts as a table, the newest last, with the limits their feature had when they were taken, and what the
 * row of its own tool held when the part was cut (empty where nobody can tell). `month` as 2026-11, by the cell's clock; null: all.
 */
export async function readingTable(
  db: Db,
  program: Program,
  month: string | null,
  timeZone: string,
): Promise<string> {
  const machine = (await machineById(db, program.machineId))!;
  const features = await featuresOf(db, program.machineId, program.number);
  const lines = await rows<Line>(
    db,
    `SELECT r.feature_id AS "featureId", r.program_id AS "programId", g.revision, r.job_id AS "jobId", r.part, r.measured, p.name AS person, r.at, r.entry,
            r.recut, r.first_off AS "firstOff", r.doubt, r.place, r.pallet
     FROM reading r JOIN person p ON p.id = r.person_id JOIN program g ON g.id = r.program_id
     WHERE r.feature_id = ANY($1) AND ($2::text IS NULL OR to_char(r.at AT TIME ZONE $3, 'YYYY-MM') = $2) ORDER BY r.id`,
    [features.map(({ id }) => id), month, timeZone],
  );
  const held = await heldBy(db, machine, features, lines);
  const changes = await planChanges(db, machine.id, program.number);
  const { unit } = machine;
  const size = (value: unknown) => (typeof value === 'number' ? plainDecimal(value as Length, unit) : '');
  return csv([
    [
      'machine',
      'program',
      'revision',
      'job',
      'part',
      'feature',
      'nominal',
      'upper',
      'lower',
      'target',
      'value',
      'unit',
      'deviation',
      'wear',
      'gauge',
      'first_off',
      'cut_again',
      'place',
      'pallet',
      'question',
      'person',
      'time',
    ],
    ...lines.map((line) => {
      const feature = features.find(({ id }) => id === line.featureId)!;
      const then = fieldsAt(feature, changes, line.entry);
      return [
        plainCell(machine.name),
        plainCell(program.number),
        line.revision,
        line.jobId,
        line.part,
        plainCell(feature.name),
        size(then.nominal),
        size(then['upper limit']),
        size(then['lower limit']),
        size(then.aim),
        size(line.measured),
        unit,
        typeof then.aim === 'number' ? size(line.measured - then.aim) : '',
        size(held.get(line)),
        then.gauge === undefined || then.gauge === 'none' ? '' : plainCell(String(then.gauge)),
        line.firstOff,
        line.recut ? 'yes' : '',
        line.place,
        line.pallet,
        plainCell(line.doubt ?? ''),
        plainCell(line.person),
        line.at.toISOString(),
      ];
    }),
  ]);
}

/** A program's measuring plan as the file it could be brought in by. */
export async function planTable(db: Db, program: Program): Promise<string> {
  const { unit } = (await machineById(db, program.machineId))!;
  return csv([
    PLAN_HEADING,
    ...(await featuresOf(db, program.machineId, program.number)).map((feature) => {
      const cells = planCells(feature, unit);
      return PLAN_HEADING.map((name) =>
        name === 'feature' || name === 'gauge' ? plainCell(cells[name]!) : cells[name]!,
      );
    }),
  ]);
}
