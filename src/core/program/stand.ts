import type { Point } from './path-length.ts';
import type { ReaderState } from './reader-state.ts';

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
  spindle: 'off' | 'cw' | 'ccw';
  coolant: number[];
  workOffset: string;
  /** Null: none; NaN: not known. */
  lengthRow: number | null;
  radius: { row: number | null; on: boolean };
  /** Line of a rotation that is in force. */
  rotated: number | null;
  at: Point;
  /** The highest Z since the tool came. */
  highest: number;
  /** T that is staged; null: none; NaN: not known. */
  staged: number | null;
}

/** How everything stands before a block. */
export interface Stand extends ModesNow {
  /** The call of the tool that is in, the modes right behind it, and whether it stands in the program itself. */
  call: { order: number; line: number; alone: boolean; before: ModesNow } | null;
  /** What that tool has done so far. */
  soFar: { order: number; tool: number; line: number; seconds: number; holes: number } | null;
  depth: number;
  perhaps: boolean;
  /** The block says itself that it goes straight. */
  own: boolean;
}

/** What is in force now. */
export function modesNow(state: ReaderState, staged: number | null): ModesNow {
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
    ceiling: Number.isFinite(state.cut.ceiling) ? state.cut.ceiling : null,
    spindle: state.spindle,
    coolant: [...state.coolant],
    workOffset: state.workOffset,
    lengthRow: state.length.row,
    radius: { ...state.radius },
    rotated: state.rotated === null ? null : state.rotated + 1,
    at: { x: state.at.x / state.words.mm, y: state.at.y / state.words.mm, z: state.at.z / state.words.mm },
    highest: state.highest / state.words.mm,
    staged,
  };
}
