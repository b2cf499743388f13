import type { CountedLife } from '../life/count.ts';
import type { GroupRules, MemberRole } from '../life/group.ts';
import type { Flag } from '../life/flag.ts';
import type { LengthMethod } from '../length/transfer.ts';
import type { AssemblyKind } from '../assembly/silhouette.ts';
import type { NoArm } from '../changer/where.ts';
import type { ProgramReading, Remark, ToolCall } from '../program/reading.ts';
import type { Shift } from '../program/boring-shift.ts';
import type { Length } from '../units/length.ts';
import type { RowCorrection } from './corrections-left.ts';
import type { ProbeStand } from './probe.ts';
import type { KeptAway } from './kept-away.ts';
import type { LeftGeometry, PutBackRegister } from './row-geometry.ts';
import type { ShiftSetting } from './oriented.ts';
import type { Proof } from './proven.ts';

/** Who knows the cutter's diameter (H7): the CAM path, or the control's own D geometry. */
export type CutterBy = 'cam' | 'control';

/** A tool as it stands in the machine, found by its T number. */
export interface LoadedTool {
  tool: number;
  assembly: string;
  place: string;
  /** It is in the spindle; undefined: it is not. */
  inSpindle?: boolean;
  /** Why the changer must not carry it; nothing: it may. */
  noArm?: NoArm | null;
  flag: Flag | null;
  measuredSinceLoading: boolean;
  life: CountedLife | null;
  /** How its length came to be; null when nobody said. */
  method?: LengthMethod | null;
  /** The lowest greatest speed in its stack; null when none is known. */
  speedLimit?: number | null;
  /** Its kind; undefined: not asked. */
  kind?: AssemblyKind;
  /** What of it is not as the program asks for, each as a half sentence. */
  misses?: readonly string[];
  /** What cannot be told of it that the program asks for, each as a half sentence. */
  doubts?: readonly string[];
  name?: string;
  /** Entry of the ledger by which it came here, or had its edge changed. */
  since?: number;
  /** Geometry of its rows that is not known to be its own; undefined: not asked. */
  left?: readonly LeftGeometry[];
  /** What the length register of its own row holds, and what it is to hold by the presetter; null: neither. */
  held?: Length | null;
  preset?: Length | null;
  diameter?: Length;
  teeth?: number | null;
  /** The speed that edges of it ran at in this material, metres a minute, and how many of them. */
  usual?: { speed: number; edges: number } | null;
  /** Which way its tip points, by whoever looked since it was put there; null: nobody did. */
  tip?: { way: Shift; person: string } | null;
  leftHand?: boolean;
  /** Pieces of it that let no coolant through, by number; null: its pieces are not on record. */
  solid?: readonly string[] | null;
  /** Of a probe: how it stands to its calibration. */
  probe?: ProbeStand | null;
}

export interface RowState {
  row: number;
  /** The length (on a lathe X and Z) geometry is still zero. */
  zero: boolean;
  /** The cutter geometry of the row is still zero; undefined where a row has none. */
  cutterZero?: boolean;
  /** What the cutter geometry holds, as the machine keeps it: radius or diameter. */
  cutter?: Length | null;
  /** The nose radius and the tip direction that a lathe's row holds; undefined or null: it has none. */
  nose?: Length | null;
  tip?: number | null;
  /** Wear that it holds, each with the entry that put it there; 0: none did. */
  wear?: readonly { kind: string; value: Length; entry: number }[];
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

/** A job that is made before the one that is asked about. */
export interface JobBefore {
  job: string;
  parts: number;
  partsPerCycle: number;
  calls: readonly ToolCall[];
}

export interface ReadinessQuestion {
  machine: {
    name: string;
    kind: 'mill' | 'lathe';
    highestSpeed: number;
    /** Whether it is known what is in its spindle; undefined: not asked. */
    spindleSure?: boolean;
    /** What its D rows hold; undefined: not asked. */
    cutter?: 'radius' | 'diameter';
    /** Whether it pumps coolant through the spindle; undefined: not asked. */
    throughCoolant?: boolean;
    /** How far its axes travel; null: not recorded. */
    travel?: { x: Length | null; y: Length | null };
  } & ShiftSetting;
  program: Pick<ProgramReading, 'calls'> & {
    name: string;
    partsPerCycle: number;
    cutterBy?: CutterBy;
    /** What the reader could not know, and what somebody has said of it since. */
    remarks?: readonly Remark[];
    settled?: readonly Settled[];
    /** Whether it was proven as it is; undefined: not asked. */
    proof?: Proof;
  };
  quantity: number;
  /** Jobs that the machine makes first, in their order, with what is left of each; undefined: none. */
  before?: readonly JobBefore[];
  loaded: readonly LoadedTool[];
  rows: readonly RowState[];
  groups?: readonly AskedGroup[];
  /** Registers in which the control held something else than the record when it was last read off; undefined: not asked. */
  differs?: readonly { row: number; kind: string; control: Length; record: Length }[];
  /** Rows that stand away from the part by the allowance of a first part; undefined: not asked. */
  keptAway?: readonly KeptAway[];
  /** Registers that a kept table has set back; undefined: not asked. */
  putBack?: readonly PutBackRegister[];
  /** Places in which record and control did not agree when the pockets were last read off, each with the T that hang together there. */
  tangles?: readonly { tools: readonly number[]; words: string }[];
  /** Corrections of called rows that are not keyed yet, or are doubted by the parts; undefined: not asked. */
  corrections?: readonly RowCorrection[];
}

/** A doubt of the reader that somebody settled: what it was, and what they said. */
export interface Settled {
  code: string;
  line: number;
  text: string;
  said: string;
  person: string;
}

export type FindingCode =
  | 'unknown'
  | 'notProven'
  | 'wearLeft'
  | 'geometryLeft'
  | 'putBack'
  | 'keptAway'
  | 'controlDiffers'
  | 'correctionLeft'
  | 'whereItStands'
  | 'byHandOnly'
  | 'presetLength'
  | 'wrongWay'
  | 'leftInForce'
  | 'homeBy'
  | 'noStop'
  | 'cuttingData'
  | 'probe'
  | 'travel'
  | 'coolant'
  | 'doubled'
  | 'spindleStands'
  | 'noFeed'
  | 'bothWays'
  | 'noCeiling'
  | 'noSuchRow'
  | 'compensation'
  | 'tapFeed'
  | 'tapDrill'
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
  | 'maybeNotAsAsked'
  | 'cutterRow'
  | 'noseRow'
  | 'mixedLengths'
  | 'boringShift'
  | 'fixedRow'
  | 'groupMember'
  | 'groupStops'
  | 'lifeCount';

export interface Finding {
  /** 'stop': the job must not start; 'unknown': it cannot be told; 'look': somebody decides; 'settled': somebody has said what it is. */
  weight: 'stop' | 'unknown' | 'look' | 'settled';
  code: FindingCode;
  /** Null: of no tool, or of one that nobody knows. */
  tool: number | null;
  line: number;
  /** One sentence that says what is wrong, and one that says what to do. */
  sentence: string;
  remedy: string;
  /** Part after which the tool is spent, for `runsOut`. */
  afterPart?: number;
  /** What the reader could not know, as it is settled; and the code that no table knows, where it is one. */
  doubt?: { code: string; line: number; text: string; unknownCode: string | null };
}

/** A T that the program calls, with all of its calls, and what stands under it; undefined when nothing does. */
export interface CalledTool {
  tool: number;
  calls: readonly ToolCall[];
  loaded: LoadedTool | undefined;
}

/** One thing to find: what of a called tool stands between the program and its first part. */
export type Finder = (called: CalledTool, question: ReadinessQuestion) => Finding[];
