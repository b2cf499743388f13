import { boringView, correctedBlock, type BoringView } from '../core/program/boring-view.ts';
import { shiftWords, type Shift } from '../core/program/boring-shift.ts';
import type { ProbeStand } from '../core/readiness/probe.ts';
import { entry } from '../core/ledger/entry.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import { lockMachine, machineById, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { callsOf, linesOf, type Program } from './programs.ts';

interface Standing {
  tool: number;
  assemblyId: number;
  number: string;
  diameter: Length;
  way: Shift | null;
  person: string | null;
  probe: ProbeStand | null;
}

/** What is known of how the tools in a machine are turned, by T: looks since each was put there, and calibrations of probes. */
export const turnedOf = async (db: Db, machineId: number): Promise<ReadonlyMap<number, Standing>> =>
  new Map((await turnedRows(db, machineId)).map((each) => [each.tool, each]));
const turnedRows = gathered((db, ids: readonly number[]) =>
  rows<Standing & { of: number }>(
    db,
    `SELECT s.machine_id AS "of", s.tool, a.id AS "assemblyId", a.number, a.diameter, t.way, t.person,
       CASE WHEN a.kind <> 'probe' THEN NULL WHEN c.entry IS NULL THEN 'never' WHEN c.entry < a.changed_entry THEN 'tipChanged'
            WHEN c.entry < s.entry THEN CASE WHEN t.person IS NULL THEN 'putBack' ELSE 'markSeen' END ELSE 'calibrated' END AS probe
     FROM placement s JOIN assembly a ON a.id = s.assembly_id
     LEFT JOIN LATERAL (SELECT l.way, p.name AS person FROM tip_look l JOIN person p ON p.id = l.person_id
                        WHERE l.assembly_id = a.id AND l.entry > greatest(s.entry, a.changed_entry) ORDER BY l.id DESC LIMIT 1) t ON true
     LEFT JOIN LATERAL (SELECT k.entry FROM probe_calibration k WHERE k.assembly_id = a.id AND k.machine_id = s.machine_id
                        ORDER BY k.id DESC LIMIT 1) c ON true
     WHERE s.machine_id = ANY($1)`,
    [ids],
  ),
);

/** That, as readiness asks for it. */
export const turnedAs = (turned: Standing | undefined) => ({
  tip: turned?.way ? { way: turned.way, person: turned.person! } : null,
  probe: turned?.probe ?? null,
});

export interface BoringSeen extends BoringView {
  tool: number;
  assembly: { id: number; number: string } | null;
  diameter: Length | null;
  person: string | null;
  block: string;
  /** A block that takes the tip off the wall; null: the one that stands there does, or nobody has looked. */
  corrected: string | null;
}

/** Every fine boring cycle of a program as seen from above, with the tool that stands there. */
export async function boringOf(db: Db, program: Program, machine: Machine): Promise<BoringSeen[]> {
  const [calls, standing] = [await callsOf(db, program.id), await turnedOf(db, machine.id)];
  const blocks = new Map<number, string>();
  for (const line of new Set(calls.flatMap(({ boringShifts }) => boringShifts.map((shift) => shift.line))))
    blocks.set(line, (await linesOf(db, program.id, line, 1))[0]?.trim() ?? '');
  const way = machine.dialect.boringShift ?? 'X+';
  return calls.flatMap(({ tool, boringShifts }) =>
    boringShifts.map((shift): BoringSeen => {
      const there = standing.get(tool);
      const view = boringView(shift, there?.way ?? null, way, there?.diameter ?? null);
      const block = blocks.get(shift.line) ?? '';
      return {
        ...view,
        tool,
        assembly: there ? { id: there.assemblyId, number: there.number } : null,
        diameter: there?.diameter ?? null,
        person: there?.person ?? null,
        block,
        corrected:
          view.verdict === 'wall' && view.tip !== null
            ? correctedBlock(block, view.tip, way, shift.shift, program.unit)
            : null,
      };
    }),
  );
}

/** The assembly under a T of a machine, held until the end; refuses when another stands there. */
async function standing(db: Db, machineId: number, assemblyId: number) {
  await lockMachine(db, machineId);
  const found = await row<{ number: string; tool: number; kind: string }>(
    db,
    `SELECT a.number, s.tool, a.kind FROM placement s JOIN assembly a ON a.id = s.assembly_id
     WHERE s.machine_id = $1 AND s.assembly_id = $2`,
    [machineId, assemblyId],
  );
  if (!found) throw new Refused('It no longer stands in this machine.');
  return found;
}

/** Where the marks of a machine's probes point, by assembly, as each was last calibrated there with the tip that it has. */
export async function marksOf(db: Db, machineId: number): Promise<ReadonlyMap<number, string>> {
  const found = await rows<{ assemblyId: number; mark: string }>(
    db,
    `SELECT DISTINCT ON (k.assembly_id) k.assembly_id AS "assemblyId", k.mark FROM probe_calibration k JOIN assembly a ON a.id = k.assembly_id
     WHERE k.machine_id = $1 AND k.entry > a.changed_entry ORDER BY k.assembly_id, k.id DESC`,
    [machineId],
  );
  return new Map(found.map(({ assemblyId, mark }) => [assemblyId, mark]));
}

/** Keeps what somebody saw of an oriented tool in its machine: the way of its tip, or that a probe's mark is where its calibration has it. */
export async function keepLook(
  db: Db,
  personId: number,
  look: { machineId: number; assemblyId: number; turned: Shift | 'mark' },
): Promise<void> {
  const { number, tool } = await standing(db, look.machineId, look.assemblyId);
  await db.query('INSERT INTO tip_look (assembly_id, machine_id, way, person_id) VALUES ($1, $2, $3, $4)', [
    look.assemblyId,
    look.machineId,
    look.turned === 'mark' ? null : look.turned,
    personId,
  ]);
  const about = { personId, machineId: look.machineId, assemblyId: look.assemblyId, tool };
  await append(
    db,
    look.turned === 'mark'
      ? entry.assembly('markSeen', {
          ...about,
          said: `The mark of probe ${number} points as it was calibrated.`,
        })
      : entry.assembly('tipLooked', {
          ...about,
          said: `The tip of ${number} points ${shiftWords(look.turned)} with the spindle oriented.`,
        }),
  );
}

/** Says which way the tip of a tool points, as somebody has just seen. */
export const lookAtTip = (asking: Asking, look: { machineId: number; assemblyId: number; way: Shift }) =>
  once(asking, 'lookAtTip', look, (db) => keepLook(db, asking.personId, { ...look, turned: look.way }));

/** Says that a probe's mark points as it was calibrated, as somebody has just seen. */
export const seeMark = (asking: Asking, look: { machineId: number; assemblyId: number }) =>
  once(asking, 'seeMark', look, async (db) => {
    if (!(await marksOf(db, look.machineId)).has(look.assemblyId))
      throw new Refused('It has not been calibrated here with the tip that it has: calibrate it.');
    await keepLook(db, asking.personId, { ...look, turned: 'mark' });
  });

export interface Calibration {
  x: Length;
  y: Length;
  mark: string;
  person: string;
  at: Date;
}

/** Calibrations of a probe in the machine where it stands, newest first. */
export const calibrationsOf = (db: Db, assemblyId: number) =>
  rows<Calibration & { machine: string }>(
    db,
    `SELECT k.x, k.y, k.mark, p.name AS person, k.at, m.name AS machine FROM probe_calibration k JOIN person p ON p.id = k.person_id
     JOIN machine m ON m.id = k.machine_id WHERE k.assembly_id = $1 ORDER BY k.id DESC LIMIT 50`,
    [assemblyId],
  );

export const calibrateProbe = (
  asking: Asking,
  given: { machineId: number; assemblyId: number; x: Length; y: Length; mark: string },
) =>
  once(asking, 'calibrateProbe', given, async (db) => {
    const { number, tool, kind } = await standing(db, given.machineId, given.assemblyId);
    if (kind !== 'probe') throw new Refused(`${number} is no probe.`);
    const machine = (await machineById(db, given.machineId))!;
    await db.query(
      'INSERT INTO probe_calibration (assembly_id, machine_id, x, y, mark, person_id) VALUES ($1, $2, $3, $4, $5, $6)',
      [given.assemblyId, given.machineId, given.x, given.y, given.mark, asking.personId],
    );
    const show = (length: Length) => formatWithUnit(length, machine.unit, { sign: 'always' });
    await append(
      db,
      entry.assembly('probeCalibrated', {
        personId: asking.personId,
        machineId: machine.id,
        assemblyId: given.assemblyId,
        tool,
        said: `Probe ${number} was calibrated on ${machine.name}: X ${show(given.x)}, Y ${show(given.y)} off centre, its mark ${given.mark}.`,
        detail: { x: given.x, y: given.y },
      }),
    );
  });
