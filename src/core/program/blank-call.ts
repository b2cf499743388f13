import { nanometres } from '../units/length.ts';
import type { CutState } from './cut-time.ts';
import type { ToolCall } from './reading.ts';

/** A tool call under which nothing has happened yet. */
export function blankCall(
  order: number,
  tool: number,
  line: number,
  perhaps: boolean,
  cut: CutState,
): ToolCall {
  return {
    order,
    tool,
    line,
    lastLine: line,
    remark: '',
    perhaps,
    lengthRows: [],
    radiusRows: [],
    speeds: null,
    surfaceSpeed: null,
    speedCeiling: Number.isFinite(cut.ceiling) ? cut.ceiling : null,
    topSpeed: null,
    noCeiling: null,
    feeds: [],
    holes: 0,
    cutMilliseconds: 0,
    feedDistance: nanometres(0),
    deepest: null,
    optionalStops: [],
    stops: [],
    writes: [],
    lifeCounts: [],
    usesRadiusCompensation: false,
    compensations: [],
    withoutLength: null,
    withoutSpindle: null,
    withoutFeed: null,
    turns: [],
    boringShifts: [],
    cutSide: null,
  };
}
