import { traitsOf, type ChangerKind } from './traits.ts';
import type { Flag } from '../life/flag.ts';

export interface PlaceQuestion {
  changer: ChangerKind;
  place: { number: number; kind: 'pocket' | 'spindle'; inService: boolean; reserved: boolean };
  tool: number;
  highestTool: number;
  occupant: string | null;
  /** Where this T is already, if it is. */
  toolElsewhere: string | null;
  /** Where this assembly is already, if it is. */
  assemblyElsewhere: string | null;
  assemblyFlag: Flag | null;
  /** Why it may not stand there because of its width or weight; null when it may. */
  standing: string | null;
  /** What is in the spindle is known to be true. */
  spindleSure: boolean;
  /** Taper or shank of the assembly and of the machine; they must be the same. */
  fits: { assembly: string; machine: string };
}

/** Why an assembly can't be put there under that T, or null. The database holds the same rules underneath. */
export function placingRefusal(q: PlaceQuestion): string | null {
  if (!Number.isInteger(q.tool) || q.tool < 1 || q.tool > q.highestTool)
    return `T must be a whole number from 1 to ${q.highestTool}; T0 means "no tool".`;
  if (!q.spindleSure) return 'Nobody is sure what is in the spindle: say what the control shows first.';
  if (q.assemblyFlag === 'broken')
    return 'This assembly is flagged broken: inspect, replace and clear the flag before it goes into a machine.';
  if (!q.place.inService) return `Pocket ${q.place.number} is out of service.`;
  if (q.place.reserved) return `Pocket ${q.place.number} is reserved.`;
  if (q.occupant) return `${q.occupant} is already there: take it out first.`;
  if (q.toolElsewhere)
    return `T${q.tool} already exists, in ${q.toolElsewhere}: a T number is unique on a machine.`;
  if (q.assemblyElsewhere)
    return `This assembly is in ${q.assemblyElsewhere}: an assembly is in one place only.`;
  if (q.fits.assembly !== q.fits.machine)
    return `It has a ${q.fits.assembly} end; this machine takes ${q.fits.machine}.`;
  if (traitsOf({ kind: q.changer }).ownPlaces && q.place.kind === 'pocket' && q.tool !== q.place.number)
    return `On this changer T${q.place.number} lives in pocket ${q.place.number} and no other T can.`;
  return q.standing;
}
