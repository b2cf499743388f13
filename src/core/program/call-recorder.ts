import { blankCall } from './blank-call.ts';
import type { CutState } from './cut-time.ts';
import { noteInForce, noteRow, widen, type InForce } from './in-force.ts';
import type { ToolCall } from './reading.ts';
import { newTally, told, type Path, type Tally } from './tally.ts';
import { ToolNames } from './tool-names.ts';

/** Gathers what happens under each tool call. One call a T, in the order they come; a T called again is a new call. */
export class CallRecorder {
  /** What is run now is run only perhaps. */
  perhaps = false;
  readonly names: ToolNames;
  private readonly tallies: Tally[] = [];
  private readonly automaticRow: number | null;
  private readonly turns: boolean;
  private open: Tally | null = null;
  /** A tool was called that nobody knows, or put away: what is cut now is nobody's. */
  private gone = false;

  constructor(automaticRow: number | null, turns: boolean) {
    this.names = new ToolNames(turns ? 'lathe' : 'mill');
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
  /** The call of the tool that is in; null: none is. */
  get now(): ToolCall | null {
    return this.open?.call ?? null;
  }

  see(line: number): void {
    if (this.open) this.open.call.lastLine = line;
  }

  call(tool: number, line: number, cut: CutState): void {
    this.gone = false;
    const call = blankCall(this.tallies.length + 1, tool, line, this.perhaps, cut);
    if (this.open) this.open.call.lastLine = Math.max(this.open.call.line, line - 1);
    this.open = newTally(call, this.turns);
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
    if (this.open) noteRow(this.open.call.lengthRows, this.follow(row), line, row === this.automaticRow);
  }

  radiusRow(row: number, line: number): void {
    if (this.open && row !== 0)
      noteRow(this.open.call.radiusRows, this.follow(row), line, row === this.automaticRow);
  }

  /** A row number that means "the tool in the spindle" is that tool's own row. */
  follow = (row: number) => (row === this.automaticRow ? (this.open?.call.tool ?? row) : row);

  speed(speed: number): void {
    if (this.open) this.open.call.speeds = widen(this.open.call.speeds, speed);
  }

  /** G41 or G42. @param row null: no D since the tool came; undefined: not by a row, or not known */
  compensation(line: number, row: number | null | undefined): void {
    if (!this.open) return;
    this.open.call.usesRadiusCompensation = true;
    const { compensations } = this.open.call;
    if (row !== undefined && !compensations!.some((each) => each.line === line))
      compensations!.push({ line, row: row && this.follow(row) });
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
  inForce(force: InForce, nearest: number): void {
    if (this.open) noteInForce(this.open.call, force, nearest);
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

  calls = (): ToolCall[] => this.tallies.map((tally) => told(tally, this.turns));
}

interface Place {
  x: number;
  y?: number;
  z: number;
}
