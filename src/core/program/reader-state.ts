import type { BlockWords } from './block-words.ts';
import type { CallRecorder } from './call-recorder.ts';
import type { CutState } from './cut-time.ts';
import type { Dialect } from './dialect.ts';
import type { Affected, Doubt, DoubtCode, Doubts } from './doubts.ts';
import { KNOWN } from './extents.ts';
import { Frame } from './frame.ts';
import { LETTER } from './letters.ts';
import { PLANES, type Plane, type Point } from './path-length.ts';

const BOTH = KNOWN.x | KNOWN.y;

/** A canned cycle of drilling that is in force: where it ends, and from where it feeds. */
export interface Cycle {
  code: number;
  z: number;
  r: number;
  /** From the side of a lathe: the diameter at which it ends; `r` is one then, too. */
  x?: number;
}

/** What is in force from block to block, as a control would hold it. Positions in millimetres, X of a lathe a diameter. */
export class ReaderState {
  readonly words: BlockWords;
  readonly dialect: Dialect;
  readonly recorder: CallRecorder;
  readonly doubts: Doubts;
  /** The line that is named, from 0: in a program of the store it is the line that called it. */
  line = 0;
  absolute = true;
  motion = 0;
  plane: Plane;
  at: Point = { x: 0, y: 0, z: 0 };
  cycle: Cycle | null = null;
  /** Target of a simple turning cycle, which the next blocks go on with. */
  simple: { x: number; z: number } | null = null;
  returnToR = false;
  readonly cut: CutState;
  inverseTime = false;
  /** The code that set the ceiling of the speed. */
  ceilingBy: 50 | 92 = 50;
  spindle: 'off' | 'cw' | 'ccw' = 'off';
  /** A mill whose lengths are applied by a code; a lathe's rows come with its T. */
  readonly lengthsByWord: boolean;
  /** Row of the length in force; null: none; NaN: one that is not known. And whether it was applied since the tool came. */
  length: { row: number | null; fresh: boolean } = { row: null, fresh: false };
  /** A length was applied since the tool came. */
  lengthCame = false;
  /** Row that a D gave last; null: none since the tool came. Side of the compensation, 0: off. */
  radius: { row: number | null; on: boolean } = { row: null, on: false };
  /** Work offset in force, as it is called; and coolant, by its codes. */
  workOffset = '';
  readonly coolant = new Set<number>();
  /** Axes whose place the program has said, at all and since the tool came: bits of `KNOWN`. */
  known = 0;
  said = 0;
  /** The tool that is in has cut where X or Y stood from before it came. */
  cutUnsaid = false;
  readonly frame = new Frame();
  /** Angles of rotary axes that the program has turned, by letter; NaN: sent home. */
  readonly angles = new Map<number, number>();
  /** The highest Z it was at since where it stands in Z was said; null: not since the tool came, was sent home, or Z counts from elsewhere. */
  highest: number | null = null;
  /** A cut was made with all that is in force now: another like it shows nothing new. */
  shown = false;
  /** Blocks and repeats that were worked through. */
  work = 0;
  /** A line index that the reading goes on from, behind a contour that was taken with its cycle. */
  resume: number | null = null;

  constructor(words: BlockWords, dialect: Dialect, recorder: CallRecorder, doubts: Doubts) {
    this.words = words;
    this.dialect = dialect;
    this.recorder = recorder;
    this.doubts = doubts;
    this.lengthsByWord = dialect.kind === 'lathe' || dialect.lengthCodes.length > 0;
    this.plane = dialect.kind === 'lathe' ? PLANES[18] : PLANES[17];
    this.cut = {
      feed: 0,
      perRevolution: dialect.feed === 'perRevolution',
      speed: 0,
      surface: 0,
      ceiling: Infinity,
    };
  }

  doubt(
    code: DoubtCode,
    text: string,
    settle: string,
    affects: readonly Affected[],
    more: Pick<Doubt, 'wants' | 'adds'> = {},
  ): void {
    const tool = this.recorder.now?.tool ?? null;
    this.doubts.add({ code, line: this.line + 1, text, settle, affects, tool, ...more });
  }

  /** Another row is applied as the length, or none: where Z stands by it, its next word says. */
  lengthen(row: number | null): void {
    if (row !== this.length.row) this.highest = null;
    if (row !== null) this.lengthCame = true;
    this.length = { row, fresh: true };
  }

  /** A sequence number that is gone to and stands twice: the control takes the next one, whoever wrote it may have meant the other. */
  doubled(number: number, lines: readonly number[]): void {
    if (lines.length === 0) return;
    this.doubt(
      'doubledN',
      `N${number} is gone to, and stands on lines ${lines
        .slice(0, 4)
        .map((line) => line + 1)
        .join(' and ')}: the next one was taken.`,
      'Number the blocks anew: a control may take another one.',
      ['depth', 'life', 'time'],
    );
  }

  /** A place of a mill that the tool comes to: of axes that have had a word of their own. In coordinates that were moved nobody is told where. */
  reached(target: Point): void {
    if ((this.known & this.said) !== BOTH && this.absolute) {
      const named =
        (this.words.find(LETTER.X) >= 0 ? KNOWN.x : 0) | (this.words.find(LETTER.Y) >= 0 ? KNOWN.y : 0);
      this.known |= named;
      this.said |= named;
    }
    // in a canned cycle Z is its depth
    if (this.highest === null && this.absolute && this.cycle === null && this.words.find(LETTER.Z) >= 0)
      this.highest = target.z;
    else if (this.highest !== null && target.z > this.highest) this.highest = target.z;
    if (!this.frame.isMoved) this.recorder.reaches(this.workOffset, target, this.known);
  }

  /**
   * A cut that has just been made: who made it, and what was in force.
   * @param nearest smallest diameter it came to, on a lathe
   */
  made(millimetres: number, seconds: number, z: number, nearest = 0): void {
    if (!(millimetres > 0)) return;
    const { recorder, cut } = this;
    if (!recorder.isOpen) {
      if (!recorder.isAway)
        this.doubt(
          'cutBeforeTool',
          'Cuts before any tool is called.',
          'Ask the programmer which tool it is: the one that happens to be in the spindle would cut.',
          ['tools', 'length', 'radius', 'life'],
        );
      return;
    }
    recorder.cut(millimetres, seconds, z, cut);
    recorder.inForce(this, nearest);
    this.length.fresh = true;
    if (this.said !== BOTH) this.cutUnsaid = true;
    this.shown = (this.known & this.said) === BOTH && this.highest !== null;
  }
}
