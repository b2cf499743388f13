import { traitsOf } from '../core/changer/traits.ts';
import { explainReadBack, type ReadBack } from '../core/correction/read-back.ts';
import { registerText } from '../core/correction/register-text.ts';
import { gaugeLengthFromRegister, referenceOf, type LengthReference } from '../core/length/schools.ts';
import { rebaseRegister, transferLength, type LengthMethod } from '../core/length/transfer.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { registerDecimals } from '../core/units/register-decimals.ts';
import { knobOnRecord } from '../core/holding/fits.ts';
import { row, rows, type Db } from './db.ts';
import { knobsOf } from './knobs.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { machineById, shapeOf, type Machine, heldMachine, lockMachines } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { placesOf, whereOn } from './places.ts';
import { ownLengths } from './tool-rows.ts';

/**
 * Whether a length register at zero holds a length: only where lengths are differences from the master tool, and it was measured, carried over or
 * reckoned last (H7). One that was found at zero may be empty.
 */
export const IS_LENGTH = `(r.value <> 0 OR m.length_school = 'masterTool' AND
  coalesce((SELECT z.stage FROM ledger z WHERE z.register_id = r.id AND z.kind = 'register' ORDER BY z.id DESC LIMIT 1), '') IN ('measured', 'transferred', 'rebased'))`;

export interface ToolLength {
  tool: number;
  assemblyId: number;
  number: string;
  name: string;
  registerId: number;
  /** The length register of the tool's own row. */
  register: Length;
  gaugeLength: Length | null;
  method: LengthMethod | null;
  at: Date | null;
  /** Its row is known to hold its own length: it was measured since it came, and its edge was not changed since. */
  own: boolean;
}

/** The lengths of a mill's tools as its control holds them, and how each came to be. */
export async function toolLengths(db: Db, machine: Machine): Promise<ToolLength[]> {
  const found = await rows<Omit<ToolLength, 'gaugeLength' | 'own'> & { known: boolean }>(
    db,
    `SELECT s.tool, a.id AS "assemblyId", a.number, a.name, r.id AS "registerId", r.value AS register,
       l.detail ->> 'method' AS method, l.at, ${IS_LENGTH} AS known
     FROM placement s JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
     JOIN register r ON r.machine_id = s.machine_id AND r.row = s.tool AND r.kind = 'lengthGeometry'
     LEFT JOIN LATERAL (SELECT detail, at FROM ledger WHERE register_id = r.id AND kind = 'register' AND detail ? 'method'
                        ORDER BY id DESC LIMIT 1) l ON true
     WHERE s.machine_id = $1 ORDER BY s.tool`,
    [machine.id],
  );
  const own = await ownLengths(db, machine);
  return found.map(({ known, ...each }) => ({
    ...each,
    own: own.has(each.tool),
    gaugeLength: known ? gaugeLengthFromRegister(each.register, referenceOf(machine)) : null,
  }));
}

export interface TransferLine {
  tool: number;
  number: string;
  gaugeLength: Length;
  /** What the other machine's row holds now, and what it is to hold. */
  registerId: number;
  before: Length;
  after: Length;
  text: string | null;
  /** Another tool that stands under this T on the other machine: its row is not overwritten. */
  takenBy: string | null;
  /** Why nothing is carried over: it cannot stand there at all, or its row here is not known to hold its length. */
  blocked: string | null;
  /** What must be seen to before it goes there: another knob, the plate of the changer there. */
  caution: string | null;
}

/** The key card for carrying lengths from one mill to another: the same T on both, or the T it stands under there. */
export async function transferCard(db: Db, from: Machine, to: Machine): Promise<TransferLine[]> {
  const lengths = (await toolLengths(db, from)).filter((each) => each.gaugeLength !== null);
  const targets = await rows<{
    row: number;
    id: number;
    value: Length;
    assemblyId: number | null;
    number: string | null;
  }>(
    db,
    `SELECT r.row, r.id, r.value, s.assembly_id AS "assemblyId", a.number FROM register r
     LEFT JOIN placement s ON s.machine_id = r.machine_id AND s.tool = r.row LEFT JOIN assembly a ON a.id = s.assembly_id
     WHERE r.machine_id = $1 AND r.kind = 'lengthGeometry' ORDER BY r.row`,
    [to.id],
  );
  const knobs = await knobsOf(
    db,
    lengths.map((each) => each.assemblyId),
  );
  const standing = await placesOf(db, from.id);
  const places = traitsOf(shapeOf(to)).ownPlaces ? to.places : to.highestTool;
  return lengths.flatMap((each) => {
    const target = targets.find((register) => register.row === each.tool);
    const assembly = standing.find(({ tool }) => tool === each.tool)?.assembly;
    if (!target || !assembly) return [];
    const there = whereOn(to, assembly);
    const reasons = there.reasons.join(', ');
    const { gaugeLength, register } = transferLength(
      each.register,
      referenceOf(from),
      referenceOf(to),
      to.increment,
    );
    return [
      {
        tool: each.tool,
        number: each.number,
        gaugeLength,
        registerId: target.id,
        before: target.value,
        after: register,
        takenBy: target.assemblyId !== null && target.assemblyId !== each.assemblyId ? target.number : null,
        blocked:
          there.verdict === 'notAtAll'
            ? `${to.name} does not hold ${each.number}: ${reasons}.`
            : each.tool > places
              ? `${to.name} goes to T${places}: T${each.tool} cannot stand there. Give it another T first.`
              : each.own
                ? null
                : `T${each.tool} has not been measured on ${from.name} since it came or its edge was changed: its row may hold another length. Measure it first.`,
        caution:
          [
            knobOnRecord(knobs.get(each.assemblyId) ?? null, { machine: to.name, knob: to.knob }),
            there.verdict === 'byHand'
              ? `The changer of ${to.name} must not take ${each.number}: ${reasons}.`
              : there.verdict === 'neighboursEmpty'
                ? `On ${to.name} ${each.number} needs its neighbours empty: ${reasons}.`
                : null,
          ]
            .filter((words) => words !== null)
            .join(' ') || null,
        text: registerText(to.dialect, 'lengthGeometry', each.tool, register, to.unit),
      },
    ];
  });
}

export interface ReadRow {
  tool: number;
  /** What the page showed as the present value. */
  before: Length;
  shown: Length;
}

export interface TransferAnswer {
  written: number[];
  stopped: { tool: number; reading: ReadBack & { matches: false } }[];
}

/** Takes the rows that were read back on the other machine: those that match are written, each slip is named. */
export function transferLengths(asking: Asking, fromId: number, toId: number, read: readonly ReadRow[]) {
  return once(asking, 'transferLengths', { fromId, toId, read }, async (db): Promise<TransferAnswer> => {
    await lockMachines(db, [fromId, toId]);
    const [from, to] = [await machineById(db, fromId), await machineById(db, toId)];
    if (!from || !to) throw new Refused('There is no such machine.');
    if (from.kind !== 'mill' || to.kind !== 'mill')
      throw new Refused('Lengths are carried between mills; a lathe is touched off.');
    const card = await transferCard(db, from, to);
    const answer: TransferAnswer = { written: [], stopped: [] };
    for (const { tool, before, shown } of read) {
      const line = card.find((each) => each.tool === tool);
      if (!line) throw new Refused(`T${tool} no longer has a length on ${from.name}.`);
      if (line.takenBy)
        throw new Refused(
          `T${tool} on ${to.name} is ${line.takenBy}: its row is not overwritten with the length of ${line.number}. Nothing was written.`,
        );
      if (line.blocked) throw new Refused(`${line.blocked} Nothing was written.`);
      if (line.before !== before)
        throw new Refused(
          `Row ${tool} of ${to.name} has changed in the meantime. Nothing was written; look again.`,
        );
      const reading = explainReadBack(shown, {
        row: tool,
        from: before,
        to: line.after,
        unit: to.unit,
        decimals: registerDecimals(to.unit, to.increment),
        neighbours: card
          .filter((each) => Math.abs(each.tool - tool) === 1)
          .map((each) => ({ row: each.tool, value: each.after })),
      });
      if (!reading.matches) {
        answer.stopped.push({ tool, reading });
        continue;
      }
      answer.written.push(tool);
      if (before !== shown)
        await append(
          db,
          entry.register('transferred', {
            personId: asking.personId,
            machineId: to.id,
            tool,
            registerId: line.registerId,
            before,
            after: shown,
            said: `Length of T${tool} (${line.number}) was carried over from ${from.name} and read back.`,
            why: `Gauge length ${formatWithUnit(line.gaugeLength, to.unit)}.`,
            detail: { method: 'transfer' },
          }),
        );
    }
    return answer;
  });
}

export interface RebaseLine {
  row: number;
  registerId: number;
  tool: number | null;
  before: Length;
  after: Length;
}

const rebasedReference = (machine: Machine, value: Length): LengthReference =>
  machine.lengthSchool === 'touchOff'
    ? { ...referenceOf(machine), planeConstant: value }
    : { ...referenceOf(machine), masterLength: value };

/** Every length row of a machine as it is and as it would be on another plane constant or master length. */
export async function rebaseTable(db: Db, machine: Machine, value: Length): Promise<RebaseLine[]> {
  const filled = await rows<{ row: number; registerId: number; tool: number | null; before: Length }>(
    db,
    `SELECT r.row, r.id AS "registerId", s.tool, r.value AS before FROM register r JOIN machine m ON m.id = r.machine_id
     LEFT JOIN placement s ON s.machine_id = r.machine_id AND s.tool = r.row
     WHERE r.machine_id = $1 AND r.kind = 'lengthGeometry' AND ${IS_LENGTH} ORDER BY r.row`,
    [machine.id],
  );
  return filled.map((line) => ({
    ...line,
    after: rebaseRegister(
      line.before,
      referenceOf(machine),
      rebasedReference(machine, value),
      machine.increment,
      true,
    ),
  }));
}

/** The first row of lengths of a machine that somebody wrote after an entry. */
export const lengthSince = (db: Db, machineId: number, entryId: number) =>
  row<{ row: number; person: string }>(
    db,
    `SELECT r.row, p.name AS person FROM ledger l JOIN register r ON r.id = l.register_id JOIN person p ON p.id = l.person_id
     WHERE r.machine_id = $1 AND r.kind = 'lengthGeometry' AND l.kind = 'register' AND l.id > $2 ORDER BY l.id LIMIT 1`,
    [machineId, entryId],
  );

/**
 * Re-bases all of a machine's length rows as one reviewed act; refused when the reference, or a length, moved since it was shown.
 *
 * @param change `entry`: the last entry of the ledger when its table was shown, which is what was keyed
 */
export function rebase(
  asking: Asking,
  change: { machineId: number; before: Length; value: Length; why: string; entry: number },
) {
  return once(asking, 'rebase', change, async (db) => {
    const machine = await heldMachine(db, change.machineId);
    if (machine.lengthSchool === 'gaugeLength')
      throw new Refused(`${machine.name} keeps gauge lengths: they depend on no plane and no master tool.`);
    const plane = machine.lengthSchool === 'touchOff';
    if ((plane ? machine.planeConstant : machine.masterLength) !== change.before)
      throw new Refused('The reference has changed in the meantime. Nothing was re-based; look again.');
    if (change.value === change.before) throw new Refused('It already has that reference.');
    if (change.why.trim() === '') throw new Refused('Say why the reference changed.');
    const moved = await lengthSince(db, machine.id, change.entry);
    if (moved)
      throw new Refused(
        `${moved.person} recorded the length of row ${moved.row} since the table was shown: what you keyed there is no longer right. Nothing was re-based; look again, and key that row.`,
      );
    const lines = await rebaseTable(db, machine, change.value);
    await db.query(
      plane
        ? 'UPDATE machine SET plane_constant = $2 WHERE id = $1'
        : 'UPDATE machine SET master_length = $2 WHERE id = $1',
      [machine.id, change.value],
    );
    await append(
      db,
      entry.machine('rebased', {
        personId: asking.personId,
        machineId: machine.id,
        said: `The ${plane ? 'plane constant' : 'master tool'} of ${machine.name} went from ${formatWithUnit(change.before, machine.unit)} to ${formatWithUnit(change.value, machine.unit)}; ${lines.length} rows were re-based.`,
        why: change.why,
      }),
    );
    for (const line of lines.filter((each) => each.before !== each.after))
      await append(
        db,
        entry.register('rebased', {
          personId: asking.personId,
          machineId: machine.id,
          tool: line.tool,
          registerId: line.registerId,
          before: line.before,
          after: line.after,
          said: `Length of row ${line.row} was recalculated from the new reference.`,
          why: change.why,
        }),
      );
    return { rows: lines.length };
  });
}
