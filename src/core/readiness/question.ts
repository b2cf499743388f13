import type { CountedLife } from '../life/count.ts';
import type { GroupRules, MemberRole } from '../life/group.ts';
import type { Flag } from '../life/flag.ts';
import type { LengthMethod } from '../length/transfer.ts';
import type { ProgramReading, ToolCall } from '../program/reading.ts';
import type { ShiftSetting } from './oriented.ts';

/** Who knows the cutter's diameter (H7): the CAM path, or the control's own D geometry. */
export type CutterBy = 'cam' | 'control';

/** A tool as it stands in the machine, found by its T number. */
export interface LoadedTool {
  tool: number;
  assembly: string;
  place: string;
  flag: Flag | null;
  measuredSinceLoading: boolean;
  life: CountedLife | null;
  /** How its length came to be; null when nobody said. */
  method?: LengthMethod | null;
  /** The lowest greatest speed in its stack; null when none is known. */
  speedLimit?: number | null;
  /** What of it is not as the program asks for, each as a half sentence. */
  misses?: readonly string[];
}

export interface RowState {
  row: number;
  /** The length (on a lathe X and Z) geometry is still zero. */
  zero: boolean;
  /** The cutter geometry of the row is still zero; undefined where a row has none. */
  cutterZero?: boolean;
}

/** A group of sisters, which a program calls by its number. */
export interface AskedGroup {
  number: number;
  purpose: string;
  rules: GroupRules;
  /** T that cut the last part; null: none yet. */
  inUse: number | null;
  members: readonly {
    tool: number;
    role: MemberRole;
    /** Its own rows: length and radius rows on a mill, offset rows on a lathe. */
    lengthRows: readonly number[];
    radiusRows: readonly number[];
    /** The control was not told of it yet. */
    fresh: boolean;
  }[];
}

export interface ReadinessQuestion {
  machine: { name: string; kind: 'mill' | 'lathe'; highestSpeed: number } & ShiftSetting;
  program: Pick<ProgramReading, 'calls'> & { name: string; partsPerCycle: number; cutterBy?: CutterBy };
  quantity: number;
  loaded: readonly LoadedTool[];
  rows: readonly RowState[];
  groups?: readonly AskedGroup[];
}

export type FindingCode =
  | 'missing'
  | 'broken'
  | 'locked'
  | 'expired'
  | 'zeroLength'
  | 'notMeasured'
  | 'noLengthRow'
  | 'rowDoesNotFollow'
  | 'otherRow'
  | 'runsOut'
  | 'overSpeed'
  | 'toolSpeed'
  | 'notAsAsked'
  | 'cutterRow'
  | 'mixedLengths'
  | 'boringShift'
  | 'fixedRow'
  | 'groupMember'
  | 'groupStops'
  | 'lifeCount';

export interface Finding {
  /** 'stop': the job must not start; 'look': somebody decides. */
  weight: 'stop' | 'look';
  code: FindingCode;
  tool: number;
  line: number;
  /** One sentence that says what is wrong, and one that says what to do. */
  sentence: string;
  remedy: string;
  /** Part after which the tool is spent, for `runsOut`. */
  afterPart?: number;
}

/** A T that the program calls, with all of its calls, and what stands under it; undefined when nothing does. */
export interface CalledTool {
  tool: number;
  calls: readonly ToolCall[];
  loaded: LoadedTool | undefined;
}

/** One thing to find: what of a called tool stands between the program and its first part. */
export type Finder = (called: CalledTool, question: ReadinessQuestion) => Finding[];
