import { linesIn } from '../core/program/lines.ts';
import { registerProgram, screenOrder } from '../core/correction/register-text.ts';
import type { RowRead } from '../core/correction/read-back.ts';
import { begunAt } from '../core/correction/judge-question.ts';
import { movesOf } from '../core/inspection/feature.ts';
import {
  changedLines,
  freeRow,
  prepareRow,
  type ChangedLine,
  type PreparedRegister,
} from '../core/length/second-row.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { roundToIncrement } from '../core/units/round-to-increment.ts';
import { row, type Db } from './db.ts';
import { stateOf } from './edge-states.ts';
import { evidenceOf } from './evidence.ts';
import { lockMachine, machineById, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { callsOf, featureById, programText, type Feature, type Program } from './programs.ts';
import { readRows, type RowShown } from './read-rows.ts';
import { registersOf } from './registers.ts';

/** A row of its own for one size, as it would be set up. */
export interface SecondRow {
  feature: { id: number; name: string; tool: number; row: number };
  to: number;
  /** What keeps the old row; and those of this program among it. */
  others: string[];
  here: string[];
  /** By how much the size's register differs from the old row's, and from how many readings that is known. */
  change: Length;
  readings: number;
  registers: PreparedRegister[];
  lines: ChangedLine[];
  text: string | null;
}

export type SecondRowAnswer = { ok: true; prepared: SecondRow } | { ok: false; reason: string };

/** Rows that a tool stands under, a program calls, a group or a plan names. */
const usedRows = async (db: Db, machineId: number) =>
  (await row<{ used: number[] }>(
    db,
    `SELECT coalesce(array_agg(DISTINCT n), '{}') AS used FROM (
       SELECT tool AS n FROM placement WHERE machine_id = $1 AND tool IS NOT NULL
       UNION SELECT row FROM tool_row WHERE machine_id = $1) used`,
    [machineId],
  ))!.used;

/** How a size gets a row of its own; or why it cannot. */
export async function secondRow(
  db: Db,
  machine: Machine,
  program: Program,
  feature: Feature,
): Promise<SecondRowAnswer> {
  const own = movesOf(feature, machine).find((each) => each.row === feature.row);
  if (!own)
    return { ok: false, reason: `No register holds ${feature.name}: a row of its own would not help.` };
  const evidence = await evidenceOf(db, machine, feature);
  const sharing = evidence.features.filter(
    (each) =>
      each.id !== feature.id &&
      movesOf(each, machine).some((moves) => moves.row === own.row && moves.role === own.role),
  );
  if (sharing.length === 0)
    return { ok: false, reason: `Row ${own.row} cuts nothing but ${feature.name}: it has a row of its own.` };
  const registers = await registersOf(db, machine.id);
  const to = freeRow(
    [...new Set(registers.map((each) => each.row))],
    await usedRows(db, machine.id),
    own.row,
  );
  if (to === null) return { ok: false, reason: `${machine.name} has no row left that nothing uses.` };
  const begun = begunAt(evidence, 0);
  const known = evidence.readings.filter(
    ({ size, held, at }) => size === 0 && held !== null && at >= begun,
  ).length;
  const state = stateOf(evidence).sizes[0]!;
  const off = evidence.sizes[0]!.moves.reduce(
    (sum, { register, by }) => sum + by * evidence.registers[register]!.value,
    state.mean,
  );
  const change =
    known === 0 ? nanometres(0) : roundToIncrement(nanometres(Math.round(-off / own.by)), machine.increment);
  const prepared = prepareRow(registers, machine.kind, { row: own.row, to, role: own.role, change });
  const [calls, text] = [await callsOf(db, program.id), await programText(db, program.id)];
  const which = own.role === 'cutterWear' ? 'radiusRows' : 'lengthRows';
  const toKey = prepared.filter((each) => each.from !== each.to).sort(screenOrder);
  return {
    ok: true,
    prepared: {
      feature: { id: feature.id, name: feature.name, tool: feature.tool, row: feature.row },
      to,
      others: sharing.map(({ name, programNumber }) =>
        programNumber === program.number ? name : `${name} (${programNumber})`,
      ),
      here: sharing.filter((each) => each.programNumber === program.number).map(({ name }) => name),
      change,
      readings: known,
      registers: toKey,
      lines: changedLines(
        linesIn(text),
        calls
          .filter((call) => call.tool === feature.tool)
          .flatMap((call) => call[which].map(({ line }) => line)),
        { row: own.row, to, role: own.role, rowDigits: machine.dialect.rowDigits },
      ),
      text: registerProgram(machine.dialect, machine.unit, toKey)?.join('\n') ?? null,
    },
  };
}

/** Takes what the new row shows after keying. */
export function readSecondRow(
  asking: Asking,
  program: Program,
  given: { featureId: number; shown: readonly RowShown[] },
) {
  return once(
    asking,
    'readSecondRow',
    { programId: program.id, ...given },
    async (db): Promise<RowRead[]> => {
      await lockMachine(db, program.machineId);
      const machine = (await machineById(db, program.machineId))!;
      const feature = await featureById(db, given.featureId);
      if (feature?.machineId !== machine.id) throw new Refused('That feature no longer exists.');
      const found = await secondRow(db, machine, program, feature);
      if (!found.ok) throw new Refused(found.reason);
      return readRows(db, asking.personId, machine, found.prepared.registers, given.shown, {
        stage: 'found',
        copiedFrom: () => feature.row,
        said: `was keyed as a row of its own for ${feature.name} and read back.`,
        why: () =>
          `As row ${feature.row}, which ${found.prepared.others.join(', ')} ${found.prepared.others.length === 1 ? 'keeps' : 'keep'}.`,
      });
    },
  );
}
