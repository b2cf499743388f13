import { LETTER } from './letters.ts';
import { cutSeconds } from './cut-time.ts';
import type { Flow } from './flow.ts';
import type { Point } from './path-length.ts';
import type { ReaderState } from './reader-state.ts';
import {
  followContour,
  MOST_PASSES,
  repeated,
  roughFacing,
  roughLengthwise,
  threadPasses,
  type Corner,
  type Swept,
} from './turning-cycles.ts';

const { F, K, P, Q, R, D } = LETTER;
const { U, W, X, Z } = LETTER;

/** Millimetres below which nobody steps: what comes to less was not meant in thousandths. */
const LEAST_STEP = 0.01;

/** Cycles of turning as they stand in blocks: simple ones pass by pass, and those of G70 to G76. */
export class TurningBlocks {
  private readonly state: ReaderState;
  private readonly flow: Flow;
  private readonly target: () => Point | null;
  /** What the first of two lines of a cycle has said for the second. */
  private stock = { depth: 1, finishing: 1, times: 0 };

  constructor(state: ReaderState, flow: Flow, target: () => Point | null) {
    this.state = state;
    this.flow = flow;
    this.target = target;
  }

  /** G90 turn, G94 face, G92 thread: rapid in, feed along, back to the start; one pass a block, and what a block leaves out stays. */
  simple(given: Point): void {
    const { state } = this;
    const { at, motion, words } = state;
    const held = state.simple ?? { x: at.x, z: at.z };
    const target = {
      x: words.find(X) >= 0 || words.find(U) >= 0 ? given.x : held.x,
      z: words.find(Z) >= 0 || words.find(W) >= 0 ? given.z : held.z,
    };
    state.simple = target;
    const along = motion === 94 ? Math.abs(at.x - target.x) / 2 : Math.abs(target.z - at.z);
    const out = motion === 92 ? 0 : motion === 94 ? Math.abs(target.z - at.z) : Math.abs(at.x - target.x) / 2;
    const nearest = Math.min(Math.abs(at.x), Math.abs(target.x));
    state.made(along + out, cutSeconds(along + out, state.cut, target.x), target.z, nearest);
    state.recorder.passes(at, target, motion === 94);
  }

  cycle(code: number): void {
    const { state } = this;
    const { words } = state;
    const [p, q] = [words.value(P), words.value(Q)];
    const start = { x: state.at.x, z: state.at.z };
    if (code === 74 || code === 75) return this.groove(code);
    if (code === 76) return this.thread();
    if (p === null || q === null) {
      this.stock.depth = Math.abs(words.dimension(code === 72 ? W : U) ?? this.stock.depth);
      this.stock.times = words.value(R) ?? 0;
      return;
    }
    const depth = code === 73 ? 0 : (this.amount(D) ?? this.stock.depth);
    const stock = { x: words.dimension(U) ?? 0, z: words.dimension(W) ?? 0 };
    const times = Math.min(MOST_PASSES, Math.max(1, words.value(D) ?? this.stock.times));
    const contour = this.contour(p, q);
    if (!contour) return;
    // what feeds the contour names are for finishing; roughing has its own
    const rough = contour.map((corner) => ({ ...corner, feed: 0 }));
    const { cut } = state;
    const swept: Swept =
      code === 70
        ? followContour(contour, cut)
        : code === 72
          ? roughFacing(start, rough, depth, cut)
          : code === 73
            ? repeated(followContour(rough, cut), times)
            : roughLengthwise(start, rough, depth, stock, cut);
    contour.slice(1).forEach((corner, i) => state.recorder.move(contour[i]!, corner, i > 0));
    const feed = cut.feed;
    if (code === 70) cut.feed = contour.find((corner) => corner.feed > 0)?.feed ?? feed;
    state.made(
      swept.distance,
      swept.seconds,
      Math.min(...contour.map((corner) => corner.z)),
      Math.min(...contour.map((corner) => Math.abs(corner.x))),
    );
    cut.feed = feed;
  }

  /** G74 along Z, G75 along X, in pecks: as many places as the step across fits in. */
  private groove(code: number): void {
    const { state } = this;
    const { at } = state;
    const target = this.target();
    if (!target) return;
    const [wide, deep] = [Math.abs(target.x - at.x) / 2, Math.abs(target.z - at.z)];
    const [depth, across, by] =
      code === 75 ? [wide, deep, this.amount(Q) ?? 0] : [deep, wide, this.amount(P) ?? 0];
    const places =
      across > 0 && by > 0
        ? Math.floor(across / by + 1e-9) + 1 + (across % by > 1e-6 ? 1 : 0)
        : across > 0
          ? 2
          : 1;
    const distance = depth * places;
    const nearest = Math.min(Math.abs(at.x), Math.abs(target.x));
    state.made(distance, cutSeconds(distance, state.cut, at.x, target.x), Math.min(at.z, target.z), nearest);
    // down the centre line it is a hole
    state.recorder.move(code === 74 && across === 0 ? at : { x: at.x, z: target.z }, target, true);
  }

  /**
   * A depth or a step of a cycle, millimetres: with a point as it is written; without one in the control's thousandths (ten-thousandths of
   * an inch), but for a number too small to be meant so. Null: the word is not there.
   */
  private amount(letter: number): number | null {
    const { words, dialect } = this.state;
    const at = words.find(letter);
    if (at < 0) return null;
    const value = Math.abs(words.block.values[at]!);
    if (words.block.pointed[at]) return value * words.mm;
    const thousandths = value * (words.mm === 1 ? 1e-3 : 25.4e-4);
    return thousandths < LEAST_STEP && dialect.pointless === 'asWritten' ? value * words.mm : thousandths;
  }

  /** Threading in passes, on two lines (height P, first depth Q) or on one (K, D). */
  private thread(): void {
    const { state } = this;
    const { words } = state;
    const z = words.dimension(Z) ?? (words.find(W) >= 0 ? state.at.z + words.dimension(W)! : null);
    if (z === null) {
      this.stock.finishing = Math.max(1, Math.floor((words.value(P) ?? 0) / 10_000));
      return;
    }
    const twoLines = words.find(K) < 0;
    const height = (twoLines ? this.amount(P) : this.amount(K)) ?? 0;
    const first = this.amount(twoLines ? Q : D) ?? height;
    const passes = threadPasses(height, first, twoLines ? this.stock.finishing : 1);
    const distance = Math.abs(z - state.at.z) * passes;
    const feed = state.cut.feed;
    state.made(distance, cutSeconds(distance, { ...state.cut, surface: 0, feed }), z, Math.abs(state.at.x));
  }

  /** The blocks N…P to N…Q as corners, from the next N of that number; X may be a diameter or an increment, arcs count as their chord. */
  private contour(p: number, q: number): Corner[] | null {
    const { state, flow } = this;
    const { words } = state;
    const here = flow.at;
    const program = flow.index.programAt(here);
    const from = flow.index.label(p, here, program);
    const to = from === null ? null : flow.index.label(q, from - 1, program);
    if (from === null || to === null || to < from) {
      state.doubt(
        'noContour',
        `The contour N${p} to N${q} was not found: this cycle is not counted.`,
        'Ask the programmer for its blocks.',
        ['depth', 'life', 'time'],
      );
      return null;
    }
    for (const number of [p, q]) state.doubled(number, flow.index.doubled(number, program));
    const corners: Corner[] = [{ x: state.at.x, z: state.at.z, feed: 0 }];
    const held = { at: state.at, motion: state.motion };
    let feed = 0;
    for (let i = from; i <= to && flow.spend(); i += 1) {
      words.scan(i);
      if (words.block.expressions > 0) words.resolve(flow.variables);
      const said = words.value(F);
      if (said !== null) feed = said * words.mm;
      const target = words.notPosition() === null ? this.target() : null;
      if (!target) continue;
      corners.push({ x: target.x, z: target.z, feed });
      state.at = target;
    }
    state.at = held.at;
    state.motion = held.motion;
    if (from > here) state.resume = to;
    words.scan(here);
    return corners;
  }
}
