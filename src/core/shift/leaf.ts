import type { Verdict } from '../readiness/check.ts';
import type { HeldBack } from '../breakage/quarantine.ts';
import type { Flag } from '../life/flag.ts';
import type { LifeBasis } from '../life/count.ts';
import type { Shift } from './calendar.ts';
import type { Came } from './came.ts';
import type { CrossedRegister } from '../correction/crossed-moves.ts';
import { listed } from '../words/listed.ts';
import { unseenBy, type LikelyMade } from './likely-made.ts';
import type { Length, LengthUnit } from '../units/length.ts';

/** A tool that will stop its machine, and when. */
export interface ForecastTool {
  tool: number;
  number: string;
  name: string;
  assemblyId: number;
  basis: LifeBasis;
  remaining: number;
  fullLife: number;
  flag: Flag | null;
  afterParts: number;
  at: Date | null;
  /** Not run out by the record, but by now, if the machine ran on since somebody counted. */
  byNow: boolean;
  /** It runs out while nobody is there: when they went; null: somebody is. */
  gone: Date | null;
  /** A loose assembly of the same kind and diameter that could take over. */
  sister: string | null;
}

export interface LeafJob {
  number: string;
  title: string;
  quantity: number;
  made: number;
  programId: number;
}

export interface MachineForecast {
  machineId: number;
  machine: string;
  job: LeafJob | null;
  /** Parts of it made by now, if it ran on since it was last told of; null: no job runs. */
  likely: LikelyMade | null;
  ends: Date | null;
  runsOut: ForecastTool[];
  /** The next job on the list and how it stands. */
  next: (LeafJob & { verdict: Verdict; findings: number; lacks: number[] }) | null;
}

export interface LeafCorrection {
  id: number;
  state: string;
  machine: string;
  unit: LengthUnit;
  increment: Length;
  feature: string;
  tool: number;
  row: number;
  registerKind: string;
  change: Length;
  to: Length;
  stops: number;
  lastStop: string | null;
  /** Why an approved one is not to be keyed before its row was read off. */
  held: string | null;
  tookWords: string | null;
  /** The part it was worked out from, and the last part cut since; null where its job does not run. */
  part: number;
  cut: number | null;
}

export interface LeafNote {
  id: number;
  leaf: string;
  kind: 'note' | 'question' | 'promise';
  machine: string | null;
  person: string;
  at: Date;
  text: string;
  answer: string | null;
  answeredBy: string | null;
}

export interface LeafEntry {
  id: number;
  at: Date;
  kind: string;
  stage: string;
  person: string;
  machine: string | null;
  said: string;
}

export interface Signature {
  side: 'leaving' | 'coming';
  person: string;
  at: Date;
  state: SignedState;
}

/** What a signature was set under: the sums of the leaf at that moment. */
export interface SignedState {
  waiting: number;
  questions: number;
  /** In the order of urgency; leaves signed before flags were kept say none. */
  runsOut: {
    machine: string;
    tool: number;
    number: string;
    at: string | null;
    afterParts: number;
    flag?: Flag | null;
  }[];
  /** What was read out; leaves signed before it wrote itself say none. */
  spoken?: string[];
}

export interface LeafData {
  shift: Shift;
  standing: 'past' | 'present' | 'coming';
  forecast: MachineForecast[];
  waiting: LeafCorrection[];
  stray: LeafCorrection[];
  /** Machines whose control was last seen to hold something else than the record, with in how many registers nobody has said why. */
  controls: { machineId: number; machine: string; differing: number }[];
  /** Registers that two people moved in answer to the same, that one took back, or that go to and fro. */
  crossed: CrossedRegister[];
  notes: LeafNote[];
  questions: LeafNote[];
  /** What was promised and is not kept yet. */
  promises: LeafNote[];
  /** The handover in words; what was read out when it was signed, of a past leaf. */
  spoken: string[];
  renewals: {
    assemblyId: number;
    number: string;
    name: string;
    machine: string | null;
    tool: number | null;
    done: number;
  }[];
  /** Components of which the crib holds fewer than its minimum. */
  short: { id: number; number: string; name: string; stock: number; minimum: number }[];
  /** Of a past leaf what was foreseen for it and what came; null when no forecast was signed. */
  came: Came[] | null;
  /** `rows`: those that still hold the tool before; none: it was not measured at all since it came. */
  toMeasure: { machine: string; machineId: number; tool: number; number: string; rows: number[] }[];
  /** Tools that a job which was begun calls and that are not in its machine. */
  lacking: { machineId: number; machine: string; program: string; tools: number[] }[];
  /** First parts that are being brought to size. */
  firstParts: { machineId: number; machine: string; program: string; begunBy: string }[];
  /** What is to be had ready for this shift and the next, and lines of the crib that will fall below their minimum. */
  ahead: { edges: number; build: number; falls: { number: string; at: Date }[] } | null;
  /** Broken tools whose parts are held back. */
  heldBack: HeldBack[];
  signatures: Signature[];
}

/** A step of setting up a new cell, and whether it was taken. */
export interface BeginningStep {
  name: 'shifts' | 'people' | 'machine' | 'tools' | 'program' | 'job' | 'plan' | 'reading';
  done: boolean;
}

/** Whole parts that a machine made since they were counted last, if it ran on. */
export const madeSince = ({ job, likely }: Pick<MachineForecast, 'job' | 'likely'>): number =>
  job ? unseenBy({ cut: job.made, likely }) : 0;

/** T of a machine as they are said, one after the other. */
export const toolList = (tools: readonly number[]): string => tools.map((tool) => `T${tool}`).join(', ');

/** Why a tool that is loaded waits to be measured, after its T and number. */
export const toMeasureWords = ({ rows }: { rows: readonly number[] }): string =>
  rows.length === 0
    ? 'has not been measured since it was loaded'
    : `has not been measured into ${rows.length === 1 ? 'row' : 'rows'} ${listed(rows)} since it was loaded`;
