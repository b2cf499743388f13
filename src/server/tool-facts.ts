import { referenceOf, registerFromGaugeLength } from '../core/length/schools.ts';
import type { LoadedTool, RowState } from '../core/readiness/question.ts';
import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { WEAR_KINDS, type Machine } from './machines.ts';

type Facts = Pick<
  LoadedTool,
  'since' | 'held' | 'preset' | 'diameter' | 'teeth' | 'usual' | 'leftHand' | 'solid'
>;

/** Of each tool in a machine, by T: since when it is as it is, its length by control and presetter, its cutter, and what its edges ran at. */
export async function toolFacts(
  db: Db,
  machine: Machine,
  material: string | null,
): Promise<ReadonlyMap<number, Facts>> {
  const found = await factRows(db, `${machine.id} ${material ?? ''}`);
  const reference = referenceOf(machine);
  // where the plane or the master was never said, a register tells no gauge length
  const known =
    reference.school === 'gaugeLength' ||
    (reference.school === 'touchOff' ? reference.planeConstant : reference.masterLength) !== 0;
  return new Map(
    found.map(({ tool, gaugeLength, speed, edges, ...facts }) => [
      tool,
      {
        ...facts,
        preset: gaugeLength === null || !known ? null : registerFromGaugeLength(gaugeLength, reference),
        usual: speed === null ? null : { speed, edges },
      },
    ]),
  );
}

const factRows = gathered((db, keys: readonly string[]) =>
  rows<{
    of: string;
    tool: number;
    since: number;
    held: Length | null;
    gaugeLength: Length | null;
    diameter: Length;
    teeth: number;
    leftHand: boolean;
    solid: string[] | null;
    speed: number | null;
    edges: number;
  }>(
    db,
    `SELECT coalesce(q.key, '') AS "of", s.tool, greatest(s.entry, a.changed_entry)::bigint AS since, r.value AS held, t.gauge_length AS "gaugeLength", a.diameter, a.teeth, a.left_hand AS "leftHand", w.solid,
       e.speed, coalesce(e.edges, 0)::integer AS edges
     FROM unnest($1::text[], $2::integer[], $3::text[]) AS q (key, machine_id, material)
     JOIN placement s ON s.machine_id = q.machine_id JOIN assembly a ON a.id = s.assembly_id
     LEFT JOIN register r ON r.machine_id = s.machine_id AND r.row = s.tool AND r.kind = 'lengthGeometry'
     LEFT JOIN LATERAL (SELECT p.gauge_length FROM presetting p WHERE p.assembly_id = a.id AND p.entry > a.changed_entry
                        ORDER BY p.id DESC LIMIT 1) t ON true
     LEFT JOIN LATERAL (SELECT percentile_cont(0.5) WITHIN GROUP (ORDER BY n.speed) AS speed, count(*) AS edges FROM edge_end n
                        WHERE n.assembly_id = a.id AND n.speed IS NOT NULL AND n.material IS NOT DISTINCT FROM q.material) e ON true
     LEFT JOIN LATERAL (SELECT coalesce(array_agg(k.number ORDER BY k.number) FILTER (WHERE NOT k.coolant), '{}') AS solid FROM assembly_part w
                        JOIN component k ON k.id = w.component_id WHERE w.assembly_id = a.id AND w.role IN ('knob', 'holder', 'extension', 'nut', 'cutter')
                        HAVING bool_or(w.role = 'cutter') AND bool_or(w.role = 'holder')) w ON true
     ORDER BY s.tool`,
    [
      keys,
      keys.map((key) => Number(key.slice(0, key.indexOf(' ')))),
      keys.map((key) => key.slice(key.indexOf(' ') + 1) || null),
    ],
  ),
);

const wearRows = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; row: number; kind: string; value: Length; entry: number }>(
    db,
    `SELECT r.machine_id AS "of", r.row, r.kind, r.value, coalesce((SELECT max(l.id) FROM ledger l WHERE l.register_id = r.id), 0)::bigint AS entry
     FROM register r WHERE r.machine_id = ANY($1) AND r.kind = ANY($2) AND r.value <> 0 ORDER BY r.row, r.id`,
    [ids, WEAR_KINDS],
  ),
);

/** Wear that rows of a machine hold, each with the entry that put it there. */
export async function wearHeld(
  db: Db,
  machineId: number,
): Promise<ReadonlyMap<number, NonNullable<RowState['wear']>>> {
  const found = await wearRows(db, machineId);
  const byRow = new Map<number, typeof found>();
  for (const each of found) byRow.set(each.row, [...(byRow.get(each.row) ?? []), each]);
  return byRow;
}
