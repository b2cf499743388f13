import { INTERFACES, type AssemblyShape } from '../core/assembly/silhouette.ts';
import { armRefusal, type NoArm } from '../core/changer/where.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { shapeOf, type Machine } from './machines.ts';
import { whereOn } from './places.ts';

/** Grams in a cubic millimetre of steel, as tools are reckoned that nobody weighed. */
const STEEL = 0.00785;

/**
 * Tools of machines that could be over what the changer's plate says, by the rod of steel that each would fit into. How they look is asked of
 * these alone: of a plant's tools hardly any are near its limits.
 */
const largeTools = gathered((db, ids: readonly number[]) =>
  rows<
    AssemblyShape & {
      of: number;
      tool: number;
      declared: boolean;
      mass: number | null;
      moment: number | null;
    }
  >(
    db,
    `SELECT s.machine_id AS "of", s.tool, EXISTS (SELECT FROM place w WHERE w.machine_id = s.machine_id AND w.wide AND w.tied_tool = s.tool) AS declared,
       a.kind, a.interface, a.diameter, a.stick_out AS "stickOut", a.gauge_length AS "gaugeLength", a.holder_diameter AS "holderDiameter", a.outline, a.seats, a.mass, a.moment
     FROM placement s JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
     JOIN unnest($2::text[], $3::float8[], $4::float8[]) AS i (name, flange, taper) ON i.name = a.interface
     CROSS JOIN LATERAL (SELECT coalesce(a.widest, greatest(a.diameter, a.holder_diameter)) / 1e6 AS across, a.gauge_length / 1e6 AS long) f
     CROSS JOIN LATERAL (SELECT i.taper + pi() / 4 * greatest(f.across, i.flange) ^ 2 * f.long * $5 AS rod) r
     WHERE s.machine_id = ANY($1)
       AND (a.interface <> m.interface OR a.gauge_length > m.longest OR f.across > m.widest / 1e6 OR i.flange > m.widest / 1e6
         OR (a.widest IS NULL AND (a.outline IS NOT NULL OR a.seats IS NOT NULL))
         OR coalesce(a.mass, r.rod) > m.heaviest OR coalesce(a.moment, r.rod * 9.80665 * f.long / 1e6) > m.moment)`,
    [
      ids,
      Object.keys(INTERFACES),
      Object.values(INTERFACES).map(({ flange }) => flange),
      Object.values(INTERFACES).map(({ taperGrams }) => taperGrams),
      STEEL,
    ],
  ),
);

/** What stands in a machine and its changer must not carry, by T. */
export async function notCarried(db: Db, machine: Machine): Promise<ReadonlyMap<number, NoArm>> {
  const found = await largeTools(db, machine.id);
  return new Map(
    found.flatMap(({ tool, declared, ...assembly }) => {
      const kept = armRefusal(shapeOf(machine), whereOn(machine, assembly), declared);
      return kept ? [[tool, kept] as const] : [];
    }),
  );
}
