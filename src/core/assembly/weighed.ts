import { inUnit } from '../units/length.ts';
import { INTERFACES, silhouette, type AssemblyShape } from './silhouette.ts';
import { massOf, momentOf, stretches } from './solid.ts';

export interface Weighed {
  /** Grams. */
  mass: number;
  /** Newton metres about the gauge line, of what stands out below it. */
  moment: number;
  /** Nobody weighed it or its pieces: reckoned from the outline as steel, and the taper. */
  reckoned: boolean;
}

/** What an assembly weighs: as recorded, or else reckoned from its outline, so that a magazine's load is never left blank. */
export function weighed(
  shape: AssemblyShape & { mass: number | null; moment: number | null; massReckoned?: boolean },
): Weighed {
  const nose = inUnit(shape.gaugeLength, 'mm') - inUnit(shape.stickOut, 'mm');
  const solids = stretches(silhouette(shape), nose, 'steel');
  return {
    mass: shape.mass ?? massOf(solids) + INTERFACES[shape.interface].taperGrams,
    moment: shape.moment ?? momentOf(solids),
    reckoned: shape.mass === null || shape.massReckoned === true,
  };
}
