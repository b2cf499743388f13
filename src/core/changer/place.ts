import type { Flag } from '../life/flag.ts';
import type { AssemblyShape } from '../assembly/silhouette.ts';
import type { Length } from '../units/length.ts';
import type { LifeBasis } from '../life/count.ts';

/** An assembly as it stands in a machine. */
export interface PlacedAssembly extends AssemblyShape {
  id: number;
  number: string;
  name: string;
  flag: Flag | null;
  basis: LifeBasis | null;
  /** Of one that is counted by wear, what a part takes. */
  perPart?: number | null;
  remaining: number | null;
  fullLife: number | null;
  /** The lowest greatest speed in its stack; null when none is known. */
  speedLimit: number | null;
  /** Grams, and newton metres about the gauge line; null when nobody knows. */
  mass: number | null;
  /** Its mass was reckoned when it was built: not all of its pieces are weighed. */
  massReckoned: boolean;
  moment: number | null;
  /** Whether its length was written into its row since it was put here. */
  measured: boolean;
}

/**
 * The pocket that the tool in a place belongs in whatever is planned: declared wide for its T, or kept for it, as for a probe, which goes back
 * to its pocket from the spindle. Null: none is.
 */
export function ownPocketOf(
  places: readonly PlaceRow[],
  { kind, number, tool, reserved, assembly }: PlaceRow,
) {
  const pockets = places.filter((each) => each.kind === 'pocket');
  const tied = pockets.find((each) => tool !== null && each.tied === tool);
  if (tied) return tied.number;
  if (kind === 'pocket') return reserved ? number : null;
  const kept =
    assembly?.kind === 'probe' ? pockets.find((each) => each.reserved && !each.assembly) : undefined;
  return kept?.number ?? null;
}

/** A pocket, station, fork or the spindle, and what stands in it. */
export interface PlaceRow {
  id: number;
  kind: 'pocket' | 'spindle';
  number: number;
  inService: boolean;
  reserved: boolean;
  /** Declared wide: the pockets beside it stay empty, and it is tied to one T. */
  wide: boolean;
  tied: number | null;
  heavy: boolean;
  /** The largest diameter that goes in, where pockets differ; null: as the plate says. */
  cell: Length | null;
  tool: number | null;
  since: Date | null;
  assembly: PlacedAssembly | null;
}
