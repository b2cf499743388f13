import { nanometres } from '../units/length.ts';
import { CutSides } from './cut-side.ts';
import { Extents } from './extents.ts';
import { Plunges } from './plunges.ts';
import type { ToolCall } from './reading.ts';

/** How far a tool has cut: millimetres, seconds, and the lowest Z. */
export interface Path {
  seconds: number;
  millimetres: number;
  deepest: number;
}

export interface Tally extends Path {
  call: ToolCall;
  sides: CutSides;
  plunges: Plunges;
  extents: Extents;
}

export const newTally = (call: ToolCall, turns: boolean): Tally => ({
  call,
  seconds: 0,
  millimetres: 0,
  deepest: Infinity,
  sides: new CutSides(),
  plunges: new Plunges(turns),
  extents: new Extents(),
});

/** A call with all that was tallied under it. */
export const told = (
  { call, seconds, millimetres, deepest, sides, plunges, extents }: Tally,
  turns: boolean,
): ToolCall => ({
  ...call,
  ...(!turns && { extents: extents.list() }),
  holes: call.holes + plunges.holes(),
  cutSide: turns ? sides.side() : null,
  cutMilliseconds: whole(seconds * 1000),
  feedDistance: nanometres(whole(millimetres * 1e6)),
  deepest: Number.isFinite(deepest) ? nanometres(whole(deepest * 1e6)) : null,
});

/** A whole number that can be kept, however far the sums of a strange program went. */
const whole = (value: number) =>
  Number.isNaN(value)
    ? 0
    : Math.max(-Number.MAX_SAFE_INTEGER, Math.min(Number.MAX_SAFE_INTEGER, Math.round(value)));
