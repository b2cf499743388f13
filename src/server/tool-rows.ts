import { rowsOfTools } from '../core/length/tool-rows.ts';
import {
  leftGeometry,
  notItsOwn,
  type GeometryWrite,
  type LeftGeometry,
} from '../core/readiness/row-geometry.ts';
import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { gathered, together } from './gather.ts';
import { groupsOf } from './groups.ts';
import { geometryKinds, type Machine } from './machines.ts';
import { toolsStanding } from './places.ts';
import { putBackRows } from './put-back-rows.ts';

const namedRows = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; tool: number; row: number }>(
    db,
    'SELECT machine_id AS "of", tool, row FROM tool_row WHERE machine_id = ANY($1) ORDER BY tool, row',
    [ids],
  ),
);

/** The length rows that each tool in a machine is used with, its own first. */
export async function toolRows(db: Db, machine: Machine): Promise<ReadonlyMap<number, readonly number[]>> {
  const [standing, groups, named] = [
    await toolsStanding(db, machine.id),
    await groupsOf(db, machine.id),
    machine.kind === 'mill' ? [] : await namedRows(db, machine.id),
  ];
  return rowsOfTools(
    machine.kind,
    standing.map(({ tool }) => tool),
    groups.flatMap(({ members }) => members),
    named,
  );
}

/** A write, or a register that none was made of since its tool came: the entry is null then. */
interface WriteCells extends Omit<GeometryWrite, 'entry' | 'moved'> {
  tool: number;
  since: number;
  entry: number | null;
  moved: Length | null;
}

/**
 * Geometry of the rows of each tool in a machine that is not known to be its own, by T. Of each tool are read the writes since it came,
 * and where a row was copied, since its copy. A tool of a mill with the one row of its T has it by whether it was measured at all, since
 * it is measured into no other; unless a kept table has set that back since.
 */
export async function geometryLeft(
  db: Db,
  machine: Machine,
): Promise<ReadonlyMap<number, readonly LeftGeometry[]>> {
  const { putBack, all } = await together(db, {
    putBack: () => putBackRows(db, machine.id),
    all: () => toolRows(db, machine),
  });
  const back = new Set(putBack.map(({ row }) => row));
  const used = [...all].filter(
    ([tool, own]) =>
      machine.kind === 'lathe' || own.length > 1 || own[0] !== tool || own.some((row) => back.has(row)),
  );
  if (used.length === 0) return new Map();
  const asked = used.flatMap(([tool, own]) =>
    [...new Set([tool, ...own])].map((row): [number, number] => [tool, row]),
  );
  const found = await writesOf(db, JSON.stringify([machine.id, geometryKinds(machine.kind), asked]));
  return new Map(
    used.flatMap(([tool, own]): [number, LeftGeometry[]][] => {
      const cells = found.filter((each) => each.tool === tool);
      const since = cells[0]?.since;
      if (since === undefined) return [];
      const writes = cells.flatMap(({ entry, moved, ...rest }) =>
        entry === null || moved === null ? [] : [{ ...rest, entry, moved }],
      );
      const [uses, kinds] = [[...new Set([tool, ...own])], geometryKinds(machine.kind)];
      return [[tool, leftGeometry(uses, kinds, writes, since, putBack)]];
    }),
  );
}

/** T of a machine whose own row is known to hold its length: it was measured since it came or its edge was changed, and nothing set that back. */
export async function ownLengths(db: Db, machine: Machine): Promise<ReadonlySet<number>> {
  const [standing, left] = [await toolsStanding(db, machine.id), await geometryLeft(db, machine)];
  return new Set(
    standing.flatMap(({ tool, assembly }) =>
      assembly.measured && !left.get(tool)?.some((each) => each.row === tool && notItsOwn(each))
        ? [tool]
        : [],
    ),
  );
}

const writesOf = gathered((db, keys: readonly string[]) => {
  const asked = keys.flatMap((key) => {
    const [machineId, kinds, uses] = JSON.parse(key) as [number, string[], [number, number][]];
    return uses.flatMap(([tool, row]) => kinds.map((kind) => ({ key, machineId, tool, row, kind })));
  });
  return rows<WriteCells & { of: string }>(
    db,
    `WITH asked AS (
       SELECT k.key, k.tool, r.id, r.row, r.kind, greatest(s.entry, a.changed_entry) AS since, w.id AS last, w.copied
       FROM unnest($1::text[], $2::integer[], $3::integer[], $4::integer[], $5::text[]) AS k (key, machine_id, tool, row, kind)
       JOIN placement s ON s.machine_id = k.machine_id AND s.tool = k.tool JOIN assembly a ON a.id = s.assembly_id
       JOIN register r ON r.machine_id = k.machine_id AND r.row = k.row AND r.kind = k.kind
       LEFT JOIN LATERAL (SELECT l.id, (l.detail ->> 'copiedFrom')::integer AS copied FROM ledger l
                          WHERE l.register_id = r.id AND l.kind = 'register' AND l.stage <> 'rebased' AND NOT coalesce(l.detail ? 'putBack', false)
                          ORDER BY l.id DESC LIMIT 1) w ON true),
     floors AS (SELECT key, tool, least(min(since), min(last) FILTER (WHERE copied IS NOT NULL)) AS floor FROM asked GROUP BY key, tool)
     SELECT a.key AS "of", a.tool, a.since::bigint AS since, l.id::bigint AS entry, a.row, a.kind, l.change_value AS moved,
            (l.detail ->> 'copiedFrom')::integer AS "copiedFrom", coalesce(l.detail ? 'putBack', false) AS "putBack"
     FROM asked a JOIN floors f USING (key, tool)
     LEFT JOIN ledger l ON l.register_id = a.id AND l.kind = 'register' AND l.stage <> 'rebased' AND l.id >= f.floor
     ORDER BY l.id`,
    [
      asked.map(({ key }) => key),
      asked.map(({ machineId }) => machineId),
      asked.map(({ tool }) => tool),
      asked.map(({ row }) => row),
      asked.map(({ kind }) => kind),
    ],
  );
});
