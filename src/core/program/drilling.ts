import { LETTER } from './letters.ts';
import { boringShift } from './boring-shift.ts';
import { cutSeconds } from './cut-time.ts';
import type { BlockWords } from './block-words.ts';
import type { Flow } from './flow.ts';
import { STILL, type Point } from './path-length.ts';
import type { Cycle, ReaderState } from './reader-state.ts';

const { A, B, C, H, I, J, K, L, Q, R, W, X, Y, Z } = LETTER;
const has = (words: BlockWords, letter: number) => words.find(letter) >= 0;
/** Canned cycles in which the tool also feeds on its way out. */
const FEEDS_OUT = new Set([74, 84, 85, 89]);
/** Canned cycles that stop the spindle oriented and shift off the wall. */
const SHIFTING = new Set([76, 87]);

/** Canned cycles of drilling: each position is a hole. */
export class Drilling {
  private readonly state: ReaderState;
  private readonly flow: Flow;
  private readonly target: () => Point | null;
  /** Takes up where rotary axes turn to in the block. */
  private readonly turned: () => void;

  constructor(state: ReaderState, flow: Flow, target: () => Point | null, turned: () => void) {
    this.state = state;
    this.flow = flow;
    this.target = target;
    this.turned = turned;
  }

  /** @param named the block names the cycle itself */
  apply(named: boolean): void {
    const { state } = this;
    const { words, dialect } = state;
    const cycle = state.cycle!;
    if (SHIFTING.has(cycle.code)) this.shift();
    this.turned();
    const here = { ...state.at };
    const to = this.target() ?? here;
    this.planes(cycle, here, to);
    const lathe = dialect.kind === 'lathe';
    // a place is named, along an axis or around one; where it already stands it drills as well
    const moves =
      (lathe ? this.target() !== null : has(words, X) || has(words, Y)) ||
      [A, B, C].some((letter) => has(words, letter)) ||
      (lathe && has(words, H));
    const times = this.times();
    if (!(moves || named) || times <= 0) return;
    const side = cycle.x !== undefined;
    const depth = side ? Math.abs(cycle.r - cycle.x!) / 2 : Math.abs(cycle.r - cycle.z);
    const distance = depth * (FEEDS_OUT.has(cycle.code) || (cycle.code === 88 && lathe) ? 2 : 1);
    const place = { ...here };
    for (let i = 0; i < times && this.flow.spend(); i += 1) {
      // from the side X is the depth, and the tool comes back to where it stood
      const target = i === 0 ? to : (this.target() ?? place);
      Object.assign(place, target, side ? { x: here.x } : {});
      state.recorder.hole(side ? { ...place, x: cycle.x! } : place);
      if (!lathe) state.reached(place);
      const bottom = side ? place.z : cycle.z;
      this.turning(cycle.code, () =>
        state.made(distance, cutSeconds(distance, state.cut), bottom, Math.abs(side ? cycle.x! : place.x)),
      );
      state.at = { ...place, z: side ? place.z : state.returnToR ? cycle.r : here.z };
    }
  }

  /** From where to where the cycle goes: along Z; on a lathe 87 to 89 from the side, where their X is another than the one it stands at. */
  private planes(cycle: Cycle, here: Point, to: Point): void {
    const { words, absolute, dialect } = this.state;
    const [z, r] = [words.dimension(Z), words.dimension(R)];
    const lathe = dialect.kind === 'lathe';
    if (lathe && cycle.code >= 87 && Math.abs(to.x) > STILL && Math.abs(to.x - here.x) > STILL)
      cycle.x = to.x;
    if (cycle.x !== undefined) {
      if (cycle.x === to.x || r !== null) cycle.r = r !== null && r < 0 ? here.x + 2 * r : here.x;
      return;
    }
    const step = !absolute || (lathe && r !== null && r < 0 && here.z + r > (z ?? cycle.z));
    if (r !== null) cycle.r = step ? here.z + r : r;
    const down = lathe && z === null ? words.dimension(W) : null;
    if (z !== null) cycle.z = absolute ? z : cycle.r + z;
    else if (down !== null) cycle.z = cycle.r + down;
  }

  /** A tapping cycle turns a spindle that stands by itself: right-handed, but for the left-handed one of mills (rigid; common practice, no source). */
  private turning(code: number, cut: () => void): void {
    const { state } = this;
    const lathe = state.dialect.kind === 'lathe';
    const taps = code === 84 || code === (lathe ? 88 : 74);
    if (!taps || state.spindle !== 'off' || !(state.cut.speed > 0)) return cut();
    state.spindle = code === 74 ? 'ccw' : 'cw';
    cut();
    state.spindle = 'off';
  }

  /** How often the block drills: L, or K where it can be a number; beside I or J, or with a point, K is the least peck. */
  private times(): number {
    const { words } = this.state;
    const l = words.value(L);
    if (l !== null) return l;
    const k = words.find(K);
    if (k < 0 || words.block.pointed[k] || words.find(I) >= 0 || words.find(J) >= 0) return 1;
    return words.block.values[k]!;
  }

  private shift(): void {
    const { words, recorder, line } = this.state;
    const said = boringShift({ q: words.dimension(Q), i: words.dimension(I), j: words.dimension(J) });
    if (said) recorder.now?.boringShifts.push({ line: line + 1, ...said });
  }
}
