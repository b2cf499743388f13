import type { ChangerShape } from './layout.ts';
import type { NoArm } from './where.ts';

/** A tool in the magazine or the spindle. */
export interface RoomTool {
  tool: number;
  heavy: boolean;
  /** Half its largest width, millimetres. */
  radius: number;
  /** The only pocket it may be put into (declared wide, or kept for the probe); null: any. */
  home: number | null;
  /** Why the changer must not carry it; nothing: it may. */
  noArm?: NoArm | null;
}

export interface RoomPocket {
  number: number;
  content: RoomTool | null;
  /** In service, not reserved, not beside a declared wide pocket, not declared itself, and its tool may be carried. */
  usable: boolean;
}

/** A random-access magazine as it stands. */
export interface RoomState {
  shape: ChangerShape;
  pockets: readonly RoomPocket[];
  spindle: RoomTool | null;
  /** The pocket that was called last: where the magazine stands. */
  at: number;
}

/** One call of a pocket: the spindle's content and the pocket's change places; nothing else moves (H5). */
export interface Call {
  pocket: number;
  /** T that goes from the spindle into the pocket; null: the spindle was empty. */
  puts: number | null;
  /** T that comes to the spindle; null: the pocket was empty. */
  takes: number | null;
}

export interface RoomWish {
  /** Middle of the window; null: the best of all. */
  centre: number | null;
  /** Pockets in a row: three for a wide tool, five for two that share the gap. */
  span: number;
  /** The spindle must be empty at the end, to load through it. */
  spindleEmpty: boolean;
}

export interface RoomPlan {
  centre: number;
  window: number[];
  calls: Call[];
  seconds: number;
  heavyMoved: number;
}
