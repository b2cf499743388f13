import { asWornAfter, wearWitness, type Moved, type WearWitness } from '../core/life/wear-witness.ts';
import type { Assembly } from './assemblies.ts';
import type { Db } from './db.ts';
import { evidenceOf } from './evidence.ts';
import { machineById } from './machines.ts';
import { cutNow } from './members.ts';
import { featuresOn } from './programs.ts';

/** What one size says of the edge that is in. */
export interface SizeWitness {
  featureId: number;
  programNumber: string;
  feature: string;
  /** Parts measured on this edge. */
  parts: number;
  /** Null: too few parts or edges to tell. */
  witness: WearWitness | null;
  /** Uses after which it is as worn as the others at their limit; null: it hardly moves, or it cannot be told. */
  sameAfter: number | null;
}

/** The sizes that a loaded tool cuts, as witnesses of how fast its edge wears; those in which something was measured. */
export async function sizeWitnesses(db: Db, assembly: Assembly): Promise<SizeWitness[]> {
  if (assembly.machineId === null || assembly.tool === null || assembly.fullLife === null) return [];
  const machine = (await machineById(db, assembly.machineId))!;
  // a size with another tool at its other end moves with that one as well
  const own = (await cutNow(db, machine.id, await featuresOn(db, machine.id), assembly.tool)).filter(
    ({ tool, other }) => tool === assembly.tool && (other === null || other.tool === tool),
  );
  const found = await Promise.all(
    own.map(async (feature): Promise<SizeWitness | null> => {
      const evidence = await evidenceOf(db, machine, feature);
      const size = evidence.features.findIndex(({ id }) => id === feature.id);
      const { moves } = evidence.sizes[size]!;
      const breaks = evidence.edges
        .filter(({ register }) => moves.some((each) => each.register === register))
        .map(({ at }) => at);
      const setUps = evidence.setUps.filter((each) => each.size === size);
      const parts = evidence.readings.flatMap(({ size: of, held, at, measured }): Moved[] =>
        of === size && held !== null
          ? [
              {
                at,
                moved: measured - moves.reduce((sum, { register, by }) => sum + by * held[register]!, 0),
                setUp: setUps.filter((each) => each.at <= at).length,
              },
            ]
          : [],
      );
      if (parts.length === 0) return null;
      const edges: Moved[][] = [[]];
      let before = -Infinity;
      for (const part of [...parts].sort((a, b) => a.at - b.at)) {
        if (breaks.some((at) => at > before && at <= part.at)) edges.push([]);
        edges.at(-1)!.push(part);
        before = part.at;
      }
      // renewed since the last of them was measured: nothing is known of the edge that is in
      if (breaks.some((at) => at > before)) edges.push([]);
      const witness = wearWitness(edges);
      return {
        featureId: feature.id,
        programNumber: feature.programNumber,
        feature: feature.name,
        parts: edges.at(-1)!.length,
        witness,
        sameAfter: witness && asWornAfter(witness, assembly.fullLife!),
      };
    }),
  );
  return found.filter((each) => each !== null);
}
