import { assemblyCells, type AssemblyRow } from '../core/formats/assembly-file.ts';
import { componentCells, type ComponentRow } from '../core/formats/component-file.ts';
import type { LifeBasis } from '../core/life/count.ts';
import type { AssetRow } from '../core/formats/cutting-tool-asset.ts';
import type { FileKind } from '../core/formats/columns.ts';
import type { Dimensions } from '../core/component/kinds.ts';
import { rows, type Db } from './db.ts';

interface KnownAssembly extends Omit<AssemblyRow, 'life' | 'items' | 'insertCount'> {
  remaining: number | null;
  basis: LifeBasis | null;
  fullLife: number | null;
  items: AssemblyRow['items'] | null;
  insertCount: number | null;
  standsIn: string | null;
  measured: boolean;
}

const ASSEMBLY_CELLS = `SELECT a.number, a.name, a.kind, a.interface, a.holder, a.diameter, a.corner_radius AS "cornerRadius", a.stick_out AS "stickOut",
    a.gauge_length AS "gaugeLength", a.holder_diameter AS "holderDiameter", a.teeth, a.left_hand AS "leftHand", c.basis, c.full_life AS "fullLife", c.value AS remaining, a.flag,
    (SELECT jsonb_object_agg(p.role, k.number) FROM assembly_part p JOIN component k ON k.id = p.component_id WHERE p.assembly_id = a.id) AS items,
    (SELECT p.count FROM assembly_part p WHERE p.assembly_id = a.id AND p.role = 'insert') AS "insertCount",
    m.name AS "standsIn", s.tool, p.number AS pocket, coalesce(p.kind = 'spindle', false) AS spindle,
    EXISTS (SELECT 1 FROM presetting t WHERE t.assembly_id = a.id AND t.entry > a.changed_entry) AS measured
  FROM assembly a LEFT JOIN life_counter c ON c.assembly_id = a.id LEFT JOIN placement s ON s.assembly_id = a.id
    LEFT JOIN place p ON p.id = s.place_id LEFT JOIN machine m ON m.id = s.machine_id`;

const asRow = (known: KnownAssembly): AssemblyRow => ({
  ...known,
  life:
    known.basis && known.fullLife
      ? { basis: known.basis, limit: known.fullLife, left: known.remaining }
      : null,
  items: known.items ?? {},
  insertCount: known.insertCount ?? 1,
});

/** Assemblies as a file would say them; all of them, or those of some numbers. */
export async function assemblyRows(
  db: Db,
  numbers: readonly string[] | null,
): Promise<(AssetRow & { standsIn: string | null })[]> {
  const found = await rows<KnownAssembly & { tool: number | null; pocket: number | null; spindle: boolean }>(
    db,
    `${ASSEMBLY_CELLS} WHERE $1::text[] IS NULL OR a.number = ANY($1) ORDER BY a.number`,
    [numbers],
  );
  return found.map((each) => ({
    ...asRow(each),
    standsIn: each.standsIn,
    measured: each.measured,
    stands: each.tool === null ? null : { tool: each.tool, pocket: each.pocket ?? 0, spindle: each.spindle },
  }));
}

/** Components as a file would say them; all that are in use, or those of some numbers. */
export const componentRows = (db: Db, numbers: readonly string[] | null) =>
  rows<ComponentRow & { dimensions: Dimensions }>(
    db,
    `SELECT number, name, kind, dimensions, interface, series, flat, coolant, left_hand AS "leftHand", material, torque, cost_cents AS "costCents", edges, regrinds,
       shelf, stock, minimum, maximum FROM component WHERE merged_into IS NULL AND ($1::text[] IS NULL OR number = ANY($1)) ORDER BY number`,
    [numbers],
  );

/** Cells of what is known by these numbers, and where it stands. */
export async function knownCells(db: Db, kind: FileKind, numbers: readonly string[]) {
  const known = new Map<string, { cells: Record<string, string>; standsIn: string | null }>();
  if (kind === 'assemblies')
    for (const each of await assemblyRows(db, numbers))
      known.set(each.number, { cells: assemblyCells(each), standsIn: each.standsIn });
  else
    for (const each of await componentRows(db, numbers))
      known.set(each.number, { cells: componentCells(each), standsIn: null });
  return known;
}

/** How numbers on record are written that differ from these by their capitals alone, by their small letters. */
export async function otherCapitals(
  db: Db,
  kind: FileKind,
  numbers: readonly string[],
): Promise<Map<string, string>> {
  const small = [...new Set(numbers.map((number) => number.toLowerCase()))];
  const found = await rows<{ number: string }>(
    db,
    kind === 'assemblies'
      ? 'SELECT number FROM assembly WHERE lower(number) = ANY($1) AND number <> ALL($2)'
      : 'SELECT number FROM component WHERE merged_into IS NULL AND lower(number) = ANY($1) AND number <> ALL($2)',
    [small, numbers],
  );
  return new Map(found.map(({ number }) => [number.toLowerCase(), number]));
}
