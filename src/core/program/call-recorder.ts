import { nanometres } from '../units/length.ts';
import { blankCall } from './blank-call.ts';
import type { BoringShift } from './boring-shift.ts';
import { CutSides } from './cut-side.ts';
import type { CutState } from './cut-time.ts';
import { Extents } from './extents.ts';
import { Plunges } from './plunges.ts';
import type { RowUse, ToolCall } from './reading.ts';
import { ToolNames } from './tool-names.ts';

/** How far a tool has cut: millimetres, seconds, and the lowest Z. */
interface Path {
  seconds: number;
  millimetres: number;
  deepest: number;
}

interface Tally extends Path {
  call: ToolCall;
  sides: CutSides;
  plunges: Plunges;
  extents: Extents;
}

/** What is in force while a tool cuts. */
export interface InForce {
  /** Index of the line, from 0. */
  line: number;
  /** Row of the length, null: none, NaN: not known; and whether it was applied since the tool came. */
  length: { row: number | null; fresh: boolean };
  lengthsByWord: boolean;
  spindle: 'off' | 'cw' | 'ccw';
  cut: CutState;
}

/** Gathers what happens under each tool call. One call a T, in the order they come; a T called again is a new call. */
export class CallRecorder {
  /** What is run now is run only perhaps. */
  perhaps = false;
  readonly names = new ToolNames();
  private readonly tallies: Tally[] = [];
  private readonly automaticRow: number | null;
  private readonly turns: boolean;
  private open: Tally | null = null;
  /** A tool was called that nobody knows, or put away: what is cut now is nobody's. */
  private gone = false;

  constructor(automaticRow: number | null, turns: boolean) {
    this.automaticRow = automaticRow;
    this.turns = turns;
  }

  /** How many calls there were. */
  get count(): number {
    return this.tallies.length;
  }
  get isOpen(): boolean {
    return this.open !== null;
  }
  get isAway(): boolean {
    return this.gone;
  }
  get openTool(): number | null {
    return this.open?.call.tool ?? null;
  }

  see(line: number): void {
    if (this.open) this.open.call.lastLine = line;
  }

  call(tool: number, line: number, cut: CutState): void {
    this.gone = false;
    const call = blankCall(this.tallies.length + 1, tool, line, this.perhaps, cut);
    if (this.open) this.open.call.lastLine = Math.max(this.open.call.line, line - 1);
    this.open = {
      call,
      seconds: 0,
      millimetres: 0,
      deepest: Infinity,
      sides: new CutSides(),
      plunges: new Plunges(this.turns),
      extents: new Extents(),
    };
    this.tallies.push(this.open);
    this.names.called(call);
  }

  /** The tool is put away, and nothing is in the spindle. */
  putAway(): void {
    this.open = null;
    this.gone = false;
  }

  /** A tool came that nobody knows; it has been said. */
  away(): void {
    this.open = null;
    this.gone = true;
  }

  lengthRow(row: number, line: number): void {
    if (this.open) note(this.open.call.lengthRows, this.follow(row), line, row === this.automaticRow);
  }

  radiusRow(row: number, line: number): void {
    if (this.open && row !== 0)
      note(this.open.call.radiusRows, this.follow(row), line, row === this.automaticRow);
  }

  /** A row number that means "the tool in the spindle" is that tool's own row. */
  follow = (row: number) => (row === this.automaticRow ? (this.open?.call.tool ?? row) : row);

  speed(speed: number): void {
    if (this.open) this.open.call.speeds = widen(this.open.call.speeds, speed);
  }

  ceiling(speed: number): void {
    if (this.open) this.open.call.speedCeiling = speed;
  }

  /** G41 or G42. @param row null: no D since the tool came; undefined: not by a row, or not known */
  compensation(line: number, row: number | null | undefined): void {
    if (!this.open) return;
    this.open.call.usesRadiusCompensation = true;
    const { compensations } = this.open.call;
    if (row !== undefined && !compensations!.some((each) => each.line === line))
      compensations!.push({ line, row: row && this.follow(row) });
  }

  boringShift(shift: BoringShift): void {
    this.open?.call.boringShifts.push(shift);
  }

  optionalStop(line: number): void {
    this.open?.call.optionalStops.push(line);
  }

  stop(line: number): void {
    this.open?.call.stops!.push(line);
  }

  throughCoolant(line: number): void {
    if (this.open) this.open.call.throughCoolant ??= line;
  }

  writes(line: number): void {
    this.open?.call.writes!.push(line);
  }

  lifeCount(line: number, quantity: number): void {
    this.open?.call.lifeCounts.push({ line, quantity });
  }

  cut(millimetres: number, seconds: number, z: number, cut: CutState): void {
    if (!this.open || millimetres <= 0) return;
    this.open.millimetres += millimetres;
    this.open.seconds += seconds;
    this.open.deepest = Math.min(this.open.deepest, z);
    const per = cut.perRevolution ? 'revolution' : 'minute';
    const { feeds } = this.open.call;
    const known = feeds.find((range) => range.per === per);
    if (!known) feeds.push({ least: cut.feed, most: cut.feed, per });
    else {
      known.least = Math.min(known.least, cut.feed);
      known.most = Math.max(known.most, cut.feed);
    }
  }

  /** Whether the tool that is in has cut sideways: it makes no holes. */
  get mills(): boolean {
    return !this.turns && this.open !== null && this.open.plunges.isSideways;
  }

  /** What the tool that is in has cut so far, to be added to; null: none is in. */
  path = (): Path | null => this.open;

  /** Cuts were made at feeds a minute between these. */
  feeds(least: number, most: number): void {
    const range = this.open?.call.feeds.find(({ per }) => per === 'minute');
    if (!range) return;
    range.least = Math.min(range.least, least);
    range.most = Math.max(range.most, most);
  }

  /**
   * Holds a cut against what is in force in its block.
   * @param nearest the smallest diameter that is cut, millimetres
   */
  inForce({ line, length, lengthsByWord, spindle, cut }: InForce, nearest: number): void {
    const call = this.open?.call;
    if (!call) return;
    if (lengthsByWord && length.row === null) call.withoutLength ??= line + 1;
    else if (!length.fresh && length.row !== null && length.row === length.row)
      note(call.lengthRows, length.row, line + 1, false);
    if (spindle === 'off' || !(cut.speed > 0 || cut.surface > 0)) call.withoutSpindle ??= line + 1;
    else if (!call.turns!.includes(spindle)) call.turns!.push(spindle);
    if (!(cut.feed > 0)) call.withoutFeed ??= line + 1;
    if (cut.surface > 0) this.surface(call, line + 1, cut, nearest);
    else if (cut.speed > 0 && (!call.speeds || cut.speed < call.speeds.least || cut.speed > call.speeds.most))
      call.speeds = widen(call.speeds, cut.speed);
  }

  private surface(call: ToolCall, line: number, cut: CutState, nearest: number): void {
    if (call.surfaceSpeed?.least !== cut.surface || call.surfaceSpeed.most !== cut.surface)
      call.surfaceSpeed = widen(call.surfaceSpeed, cut.surface);
    const reached = Math.min((cut.surface * 1000) / (Math.PI * nearest), cut.ceiling);
    if (Number.isFinite(reached)) call.topSpeed = Math.max(reached, call.topSpeed ?? 0);
    else call.noCeiling ??= line;
  }

  /** Where the tool went, feeding or not: X as it is written, a diameter on a lathe. */
  move(from: Place, to: Place, feeds: boolean): void {
    if (!this.open) return;
    if (this.turns) this.open.sides.move(from, to, feeds);
    this.open.plunges.move(from, to, feeds);
  }

  /** A place in X and Y that the tool comes to. @param known which of them the program has said */
  reaches(offset: string, at: Place, known: number): void {
    this.open?.extents.see(offset, at.x, at.y ?? 0, known);
  }

  /** One pass of a simple cycle: rapid to its line, along it, feeding back off it. */
  passes(start: Place, end: Place, faces: boolean): void {
    const first = faces ? { x: start.x, z: end.z } : { x: end.x, z: start.z };
    const last = faces ? { x: end.x, z: start.z } : { x: start.x, z: end.z };
    this.move(start, first, false);
    this.move(first, end, true);
    this.move(end, last, true);
  }

  hole(at: { x: number; z: number }): void {
    if (!this.open) return;
    this.open.call.holes += 1;
    this.open.sides.hole(at);
  }

  /** What the tool that is in has done so far; null: none is. */
  soFar(): { order: number; tool: number; line: number; seconds: number; holes: number } | null {
    if (!this.open) return null;
    const { call, seconds, plunges } = this.open;
    const { order, tool, line } = call;
    return { order, tool, line, seconds, holes: call.holes + plunges.holes() };
  }

  calls(): ToolCall[] {
    return this.tallies.map(({ call, seconds, millimetres, deepest, sides, plunges, extents }) => ({
      ...call,
      ...(!this.turns && { extents: extents.list() }),
      holes: call.holes + plunges.holes(),
      cutSide: this.turns ? sides.side() : null,
      cutMilliseconds: whole(seconds * 1000),
      feedDistance: nanometres(whole(millimetres * 1e6)),
      deepest: Number.isFinite(deepest) ? nanometres(whole(deepest * 1e6)) : null,
    }));
  }
}

interface Place {
  x: number;
  y?: number;
  z: number;
}

/** A whole number that can be kept, however far the sums of a strange program went. */
const whole = (value: number) =>
  Number.isNaN(value)
    ? 0
    : Math.max(-Number.MAX_SAFE_INTEGER, Math.min(Number.MAX_SAFE_INTEGER, Math.round(value)));

function note(rows: RowUse[], row: number, line: number, automatic: boolean): void {
  if (!rows.some((use) => use.row === row && use.automatic === automatic))
    rows.push({ row, line, automatic });
}

const widen = (range: { least: number; most: number } | null, value: number) =>
  range
    ? { least: Math.min(range.least, value), most: Math.max(range.most, value) }
    : { least: value, most: value };
