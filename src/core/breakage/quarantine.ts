import type { CheckVerdict } from './check-verdict.ts';
import type { Length, LengthUnit } from '../units/length.ts';

/** What puts a tool into quarantine. */
export type Fault = Extract<CheckVerdict, 'broken' | 'pullingOut'>;

/** What the inspection of a part that was held back came to. */
export const PART_OUTCOMES = ['good', 'rework', 'scrap'] as const;
export type PartOutcome = (typeof PART_OUTCOMES)[number];

/** How far a quarantine has come. */
export interface QuarantineStand {
  /** Parts that nobody has answered for. */
  open: number;
  replaced: object | null;
  measured: object | null;
}

/** What is still to be done before the flag of a broken tool may be cleared, each a sentence (H12: inspect, replace, measure, and only then clear). */
export function quarantineLacks({ open, replaced, measured }: QuarantineStand): string[] {
  const lacks: string[] = [];
  if (open > 0)
    lacks.push(open === 1 ? 'One part is not inspected yet.' : `${open} parts are not inspected yet.`);
  if (!replaced) lacks.push('The tool is not replaced yet.');
  else if (!measured) lacks.push('The new tool is not measured yet.');
  return lacks;
}

/** A quarantine that is open, as far as it has come. */
export interface HeldBack {
  assemblyId: number;
  number: string;
  name: string;
  machineId: number | null;
  machine: string | null;
  tool: number | null;
  verdict: Fault;
  parts: number;
  open: number;
  replaced: boolean;
  measured: boolean;
}

export interface InspectedPart {
  job: number;
  part: number;
  outcome: PartOutcome;
  found: string;
  person: string;
  at: Date;
}

/** A size that was measured on a part. */
export interface PartRead {
  job: number;
  part: number;
  feature: string;
  measured: Length;
  upper: Length;
  lower: Length;
  nominal: Length;
  unit: LengthUnit;
  /** The size is cut by the tool that is in question. */
  own: boolean;
}

/** A part that is held back. */
export interface HeldPart {
  job: number;
  part: number;
  inMachine: boolean;
  answer: InspectedPart | null;
  read: PartRead[];
}
