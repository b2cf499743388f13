import { KNOWN } from './extents.ts';
import type { FrameCode, FrameNow } from './frame.ts';
import type { Point } from './path-length.ts';
import type { ReaderState } from './reader-state.ts';
import type { VariableNow, Variables } from './variables.ts';

/** What is in force between two blocks, in the program's own unit. */
export interface ModesNow {
  absolute: boolean;
  metric: boolean;
  plane: 17 | 18 | 19;
  motion: number;
  cycle: number | null;
  feed: number;
  feedBy: 'minute' | 'revolution' | 'inverse';
  speed: number;
  /** Metres or feet a minute; 0: set revolutions. */
  surface: number;
  ceiling: number | null;
  /** The code that set it. */
  ceilingBy: 50 | 92;
  spindle: 'off' | 'cw' | 'ccw';
  coolant: number[];
  workOffset: string;
  /** Null: none; NaN: not known. */
  lengthRow: number | null;
  radius: { row: number | null; on: boolean };
  /** What moves the coordinates, and what moved them at any time before. */
  frames: FrameNow[];
  framesBefore: FrameCode[];
  /** Rotary axes that were turned, in degrees; NaN: sent home. */
  angles: { letter: string; degrees: number }[];
  /** Variables that the program has set. */
  variables: VariableNow[];
  at: Point;
  /** Axes of which the program has not said where they stand since the tool came, or since they were sent home. */
  unplaced: ('X' | 'Y' | 'Z')[];
  /** The highest Z since the tool came. */
  highest: number | null;
  /** T that is staged; null: none; NaN: not known. */
  staged: number | null;
}

/** The call of a tool: its line, whether it stands in the program itself, whether it takes what was staged before; and the modes there. */
export interface CallOf {
  order: number;
  line: number;
  alone: boolean;
  staged: boolean;
  before: ModesNow;
}

/** How everything stands before a block. */
export interface Stand extends ModesNow {
  /** The call of the tool that is in, the modes right behind it, and whether it stands in the program itself. */
  call: CallOf | null;
  /** What that tool has done so far. */
  soFar: { order: number; tool: number; line: number; seconds: number; holes: number } | null;
  depth: number;
  perhaps: boolean;
  /** X or Y has not been said since the tool came; and the tool has cut so, where they stood from before. */
  unsaid: boolean;
  cutUnsaid: boolean;
  /** The block says itself that it goes straight. */
  own: boolean;
}

/** What is in force now. */
export function modesNow(state: ReaderState, staged: number | null, variables: Variables): ModesNow {
  const { known, highest } = state;
  return {
    absolute: state.absolute,
    metric: state.words.mm === 1,
    plane: state.plane[2] === 'z' ? 17 : state.plane[2] === 'y' ? 18 : 19,
    motion: state.motion,
    cycle: state.cycle?.code ?? null,
    feed: state.cut.feed / state.words.mm,
    feedBy: state.inverseTime ? 'inverse' : state.cut.perRevolution ? 'revolution' : 'minute',
    speed: state.cut.speed,
    surface: state.cut.surface / (state.words.mm === 1 ? 1 : 0.3048),
    ceilingBy: state.ceilingBy,
    ceiling: Number.isFinite(state.cut.ceiling) ? state.cut.ceiling : null,
    spindle: state.spindle,
    coolant: [...state.coolant],
    workOffset: state.workOffset,
    lengthRow: state.length.row,
    radius: { ...state.radius },
    frames: state.frame.now(),
    framesBefore: state.frame.were(),
    angles: [...state.angles].map(([letter, degrees]) => ({ letter: String.fromCharCode(letter), degrees })),
    variables: variables.now(),
    unplaced: [
      ...(known & KNOWN.x ? [] : (['X'] as const)),
      ...(known & KNOWN.y ? [] : (['Y'] as const)),
      ...(highest === null ? (['Z'] as const) : []),
    ],
    at: { x: state.at.x / state.words.mm, y: state.at.y / state.words.mm, z: state.at.z / state.words.mm },
    highest: highest === null ? null : highest / state.words.mm,
    staged,
  };
}
