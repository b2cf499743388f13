import type { LookedReading } from '$core/formats/readings-file';
import type { LengthUnit } from '$core/units/length';
import type { PlannedSize } from '$core/inspection/plan-check';

/** A file that was looked at and not taken yet. */
export interface PlanLookSeen {
  programId: number;
  program: string;
  sizes: PlannedSize[];
  faults: string[];
  doubts: string[];
}
export interface ReadingsLookSeen {
  programId: number;
  program: string;
  job: string | null;
  unit: LengthUnit;
  now: Date;
  readings: LookedReading[];
}
