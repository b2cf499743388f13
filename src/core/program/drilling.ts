import { LETTER } from './letters.ts';
import { boringShift } from './boring-shift.ts';
import { cutSeconds } from './cut-time.ts';
import type { Flow } from './flow.ts';
import type { Point } from './path-length.ts';
import type { ReaderState } from './reader-state.ts';

const { X, Y, Z, I, J, K, L, Q, R } = LETTER;
/** Canned cycles in which the tool also feeds on its way out. */
const FEEDS_OUT = new Set([74, 84, 85, 89]);
/** Canned cycles that stop the spindle oriented and shift off the wall. */
const SHIFTING = new Set([76, 87]);

/** Canned cycles of drilling: each position is a hole. */
export class Drilling {
  private readonly state: ReaderState;
  private readonly flow: Flow;
  private readonly target: () => Point | null;
  /** Degrees by which rotary axes turn in the block. */
  private readonly turned: () => number;

  constructor(state: ReaderState, flow: Flow, target: () => Point | null, turned: () => number) {
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
    const [z, r] = [words.dimension(Z), words.dimension(R)];
    const initial = state.at.z;
    if (r !== null) cycle.r = state.absolute ? r : initial + r;
    if (z !== null) cycle.z = state.absolute ? z : cycle.r + z;
    const turned = this.turned() > 0;
    const moves =
      [X, Y].some((letter) => words.find(letter) >= 0) || turned || named || dialect.kind === 'lathe';
    const times = words.value(L) ?? (dialect.turningCycles ? null : words.value(K)) ?? 1;
    if (!moves || times <= 0) return;
    const depth = Math.abs(cycle.r - cycle.z);
    const distance = depth * (FEEDS_OUT.has(cycle.code) ? 2 : 1);
    for (let i = 0; i < times && this.flow.spend(); i += 1) {
      const target = this.target() ?? state.at;
      state.recorder.hole(target);
      if (dialect.kind === 'mill') state.reached(target);
      state.made(distance, cutSeconds(distance, state.cut), cycle.z, Math.abs(target.x));
      state.at = { x: target.x, y: target.y, z: state.returnToR ? cycle.r : initial };
    }
  }

  private shift(): void {
    const { words, recorder, line } = this.state;
    const said = boringShift({ q: words.dimension(Q), i: words.dimension(I), j: words.dimension(J) });
    if (said) recorder.now?.boringShifts.push({ line: line + 1, ...said });
  }
}
