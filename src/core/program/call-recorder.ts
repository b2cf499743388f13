import { nanometres } from '../units/length.ts';
import type { BoringShift } from './boring-shift.ts';
import { CutSides } from './cut-side.ts';
import type { CutState } from './cut-time.ts';
import type { RowUse, ToolCall } from './reading.ts';

interface Tally {
  call: ToolCall;
  seconds: number;
  millimetres: number;
  deepest: number;
  sides: CutSides;
}

/** Gathers what happens under each tool call. One call a T, in the order they come; a T called again is a new call. */
export class CallRecorder {
  private readonly tallies: Tally[] = [];
  private readonly automaticRow: number | null;
  private readonly turns: boolean;
  private open: Tally | null = null;
  private line = 0;
  private lastRemark = '';

  constructor(automaticRow: number | null, turns: boolean) {
    this.automaticRow = automaticRow;
    this.turns = turns;
  }

  see(line: number, remark: string): void {
    this.line = line;
    if (this.open) this.open.call.lastLine = line;
    if (remark === '') return;
    this.lastRemark = remark;
  }

  call(tool: number, line: number, remark: string, cut: CutState): void {
    const call: ToolCall = {
      order: this.tallies.length + 1,
      tool,
      line,
      lastLine: line,
      remark: remark || this.lastRemark,
      lengthRows: [],
      radiusRows: [],
      speeds: null,
      surfaceSpeed: null,
      speedCeiling: Number.isFinite(cut.ceiling) ? cut.ceiling : null,
      feeds: [],
      holes: 0,
      cutMilliseconds: 0,
      feedDistance: nanometres(0),
      deepest: null,
      optionalStops: [],
      lifeCounts: [],
      usesRadiusCompensation: false,
      boringShifts: [],
      cutSide: null,
    };
    this.lastRemark = '';
    if (this.open) this.open.call.lastLine = line - 1;
    this.open = { call, seconds: 0, millimetres: 0, deepest: Infinity, sides: new CutSides() };
    this.tallies.push(this.open);
  }

  putAway(): void {
    this.open = null;
  }

  lengthRow(row: number, line: number): void {
    if (this.open) note(this.open.call.lengthRows, this.follow(row), line, row === this.automaticRow);
  }

  radiusRow(row: number, line: number): void {
    if (this.open && row !== 0)
      note(this.open.call.radiusRows, this.follow(row), line, row === this.automaticRow);
  }

  /** A row number that means "the tool in the spindle" is that tool's own row. */
  private follow = (row: number) => (row === this.automaticRow ? this.open!.call.tool : row);

  speed(cut: CutState): void {
    const call = this.open?.call;
    if (!call) return;
    if (cut.surface > 0) call.surfaceSpeed = widen(call.surfaceSpeed, cut.surface);
    else call.speeds = widen(call.speeds, cut.speed);
  }

  ceiling(speed: number): void {
    if (this.open) this.open.call.speedCeiling = Math.min(speed, this.open.call.speedCeiling ?? Infinity);
  }

  compensation(): void {
    if (this.open) this.open.call.usesRadiusCompensation = true;
  }

  boringShift(shift: BoringShift): void {
    this.open?.call.boringShifts.push(shift);
  }

  optionalStop(line: number): void {
    this.open?.call.optionalStops.push(line);
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

  /** Where the tool went, feeding or not: X as it is written, a diameter on a lathe. */
  move(from: { x: number; z: number }, to: { x: number; z: number }, feeds: boolean): void {
    this.open?.sides.move(from, to, feeds);
  }

  /** One pass of a simple cycle: rapid to its line, along it, feeding back off it. */
  passes(start: { x: number; z: number }, end: { x: number; z: number }, faces: boolean): void {
    const first = faces ? { x: start.x, z: end.z } : { x: end.x, z: start.z };
    const last = faces ? { x: end.x, z: start.z } : { x: start.x, z: end.z };
    this.move(start, first, false);
    this.move(first, end, true);
    this.move(end, last, true);
  }

  hole(at: { x: number; z: number }, millimetres: number, seconds: number, z: number, cut: CutState): void {
    if (!this.open) return;
    this.open.call.holes += 1;
    this.open.sides.hole(at);
    this.cut(millimetres, seconds, z, cut);
  }

  calls(): ToolCall[] {
    return this.tallies.map(({ call, seconds, millimetres, deepest, sides }) => ({
      ...call,
      cutSide: this.turns ? sides.side() : null,
      cutMilliseconds: Math.round(seconds * 1000),
      feedDistance: nanometres(Math.round(millimetres * 1e6)),
      deepest: Number.isFinite(deepest) ? nanometres(Math.round(deepest * 1e6)) : null,
    }));
  }
}

function note(rows: RowUse[], row: number, line: number, automatic: boolean): void {
  if (!rows.some((use) => use.row === row && use.automatic === automatic))
    rows.push({ row, line, automatic });
}

const widen = (range: { least: number; most: number } | null, value: number) =>
  range
    ? { least: Math.min(range.least, value), most: Math.max(range.most, value) }
    : { least: value, most: value };
