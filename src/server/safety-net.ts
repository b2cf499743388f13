import type { Net, NetTool } from '../core/safety-net/net.ts';
import { netSince, toolCount, writeNet } from '../core/safety-net/net.ts';
import type { NetProfile } from '../core/program/net-profile.ts';
import { notItsOwn } from '../core/readiness/row-geometry.ts';
import { entry } from '../core/ledger/entry.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { geometryKinds, lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { toolsStanding } from './places.ts';
import { registersOf } from './registers.ts';
import { geometryLeft, toolRows } from './tool-rows.ts';
import { work } from './worker.ts';

/**
 * Every tool of a machine with the row that is its own, or its group's, as the record has them now; a station with each row that a
 * program calls it with, but for one that is another loaded station's own.
 */
export async function netTools(db: Db, machine: Machine): Promise<NetTool[]> {
  const [standing, registers, used, left] = [
    await toolsStanding(db, machine.id),
    await registersOf(db, machine.id),
    await toolRows(db, machine),
    await geometryLeft(db, machine),
  ];
  // a row that holds the length of the tool before is not one that was measured
  const measured = (tool: number, at: number) =>
    !left.get(tool)?.some((each) => each.row === at && notItsOwn(each));
  const kinds = geometryKinds(machine.kind);
  return standing
    .flatMap(({ tool, assembly }) => used.get(tool)!.map((at) => ({ tool, assembly, row: at })))
    .sort((a, b) => a.tool - b.tool || a.row - b.row)
    .map(({ tool, assembly, row: at }) => ({
      tool,
      row: at,
      words: `${assembly.number} ${assembly.name}`,
      flag: assembly.flag,
      measured: assembly.measured && measured(tool, at),
      lengths: registers
        .filter((each) => each.row === at && kinds.includes(each.kind))
        .map(({ kind, value }) => ({
          kind,
          value,
          zeroIsRight: value === 0 && assembly.measured && machine.lengthSchool === 'masterTool',
        })),
    }));
}

export interface KeptNet {
  text: string;
  tolerance: Length;
  tools: NetTool[];
  person: string;
  at: Date;
}

/** The net that was written last for a machine; null: none was. */
export const netOf = (db: Db, machineId: number) =>
  row<KeptNet>(
    db,
    `SELECT n.text, n.tolerance, n.tools, p.name AS person, n.at FROM safety_net n JOIN person p ON p.id = n.person_id WHERE n.machine_id = $1`,
    [machineId],
  );

/** What a net is written from. */
export const netFrom = (
  machine: Machine,
  asOf: string,
  tolerance: Length,
  tools: readonly NetTool[],
): Net => ({
  machine: machine.name,
  unit: machine.unit,
  rowDigits: machine.dialect.rowDigits,
  asOf,
  tolerance,
  tools,
});

/** What of the net that is kept is no longer so. */
export const sinceNet = (machine: Machine, kept: KeptNet, now: readonly NetTool[]) =>
  netSince(netFrom(machine, '', kept.tolerance, kept.tools), now);

/** The day and minute it is in the cell. */
const asOf = async (db: Db) =>
  (await row<{ at: string }>(
    db,
    `SELECT coalesce(to_char(tin_now() AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC'), 'YYYY-MM-DD HH24:MI'), '') AS at`,
  ))!.at;

/** Writes the net of a machine from the record as it is now, and keeps it: it is what the control is handed. */
export const keepNet = (asking: Asking, machine: Machine, tolerance: Length) =>
  once(asking, 'keepNet', { machineId: machine.id, tolerance }, async (db) => {
    await lockMachine(db, machine.id);
    const { net } = machine.dialect;
    if (!net)
      throw new Refused(`The profile of ${machine.name} does not say yet how such a check is written.`);
    const tools = await netTools(db, machine);
    const written = writeNet(net, netFrom(machine, await asOf(db), tolerance, tools));
    if (!written.ok) throw new Refused(written.reason);
    await db.query(
      `INSERT INTO safety_net (machine_id, text, tolerance, tools, person_id) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT (machine_id) DO UPDATE SET text = $2, tolerance = $3, tools = $4, person_id = $5, at = tin_now()`,
      [machine.id, `${written.lines.join('\n')}\n`, tolerance, JSON.stringify(tools), asking.personId],
    );
    await append(
      db,
      entry.machine('safetyNet', {
        personId: asking.personId,
        machineId: machine.id,
        said: `The check of lengths on ${machine.name} was written for ${toolCount(tools)} tools, within ${formatWithUnit(tolerance, machine.unit)}.`,
        detail: { tolerance, tools: toolCount(tools) },
      }),
    );
  });

export interface NetCalls {
  id: number;
  number: string;
  changes: number;
  /** Changes that no check follows in time. */
  without: { tool: number; line: number }[];
}

/** Programs of a machine, the newest of each, and where they call the net. */
export async function netCalls(db: Db, machineId: number, net: NetProfile): Promise<NetCalls[]> {
  const programs = await rows<{
    id: number;
    number: string;
    text: string;
    calls: { tool: number; line: number }[];
  }>(
    db,
    `SELECT g.id, g.number, g.text, coalesce(jsonb_agg(jsonb_build_object('tool', c.tool, 'line', c.line) ORDER BY c.ord), '[]') AS calls
     FROM program g JOIN program_call c ON c.program_id = g.id WHERE g.machine_id = $1
       AND g.revision = (SELECT max(o.revision) FROM program o WHERE o.machine_id = g.machine_id AND o.number = g.number)
     GROUP BY g.id ORDER BY g.number`,
    [machineId],
  );
  return Promise.all(
    programs.map(async ({ text, calls, ...program }) => ({
      ...program,
      changes: calls.length,
      without: await work('changesWithout', [text, net, calls]),
    })),
  );
}
