import { CENTRE, LATHE_AXES, LETTER, MILL_AXES } from './letters.ts';
import { asWord } from './block-words.ts';
import { isDrilling, isTurning } from './codes.ts';
import { cutSeconds } from './cut-time.ts';
import { Drilling } from './drilling.ts';
import type { Flow } from './flow.ts';
import { isCeiling } from './modes.ts';
import { arcLength, straightLength, type Point } from './path-length.ts';
import type { ReaderState } from './reader-state.ts';
import { TurningBlocks } from './turning-blocks.ts';

const { G, X, Y, Z, U, V, W } = LETTER;
const { A, B, C, I, J, K, R } = LETTER;
/** Data setting, dwell, local offset, scaling and rotation: their X, Y, Z and R are no move. */
const NO_MOTION = ['G4', 'G10', 'G51', 'G52', 'G68'].map(asWord);
const ROTARY = [A, B, C];

/** What moves: straight, on arcs, in cycles of drilling and of turning; by feed it cuts. */
export class Moves {
  private readonly state: ReaderState;
  private readonly turning: TurningBlocks;
  private readonly drilling: Drilling;
  private readonly lathe: boolean;
  /** What a difference in X counts for. */
  private readonly half: number;
  private readonly angles = new Map<number, number>();

  constructor(state: ReaderState, flow: Flow) {
    this.state = state;
    this.lathe = state.dialect.kind === 'lathe';
    this.half = this.lathe ? 0.5 : 1;
    this.turning = new TurningBlocks(state, flow, () => this.target());
    this.drilling = new Drilling(
      state,
      flow,
      () => this.target(),
      () => this.turned(),
    );
  }

  apply(): void {
    const { state } = this;
    const { words, dialect } = state;
    const wrong = words.notPosition();
    if (wrong !== null)
      return state.doubt(
        'notPosition',
        `${wrong} is no position on any machine: the block was left out.`,
        'Look at the number: a decimal point, or a digit too many.',
        ['depth', 'life', 'time'],
      );
    const code = words.find(G) < 0 ? null : this.cycleCode();
    if (words.has(28, G) || words.has(30, G) || words.has(53, G)) return this.home();
    if (words.hasAny(NO_MOTION) || isCeiling(state)) return;
    if ((words.has(92, G) && !dialect.turningCycles) || (words.has(50, G) && this.lathe)) return;
    if (code !== null && isTurning(code, dialect.turningCycles)) return this.turning.cycle(code);
    if (code !== null) state.cycle = { code, z: state.at.z, r: state.at.z };
    if (state.cycle) return this.drilling.apply(code !== null);
    const turned = this.turned();
    const target = this.target() ?? (this.isFullCircle() ? state.at : null);
    if (!target) return turned > 0 ? this.rotate(turned) : undefined;
    if (state.motion === 90 || state.motion === 92 || state.motion === 94) return this.turning.simple(target);
    if (turned > 0 && state.motion !== 0) this.mixed();
    this.cutTo(target);
  }

  /** Degrees by which rotary axes turn in this block. */
  private turned(): number {
    const { words, absolute } = this.state;
    let most = 0;
    for (const letter of ROTARY) {
      const value = words.value(letter);
      if (value === null) continue;
      const from = this.angles.get(letter) ?? 0;
      const to = absolute ? value : from + value;
      most = Math.max(most, Math.abs(to - from));
      this.angles.set(letter, to);
    }
    return most;
  }

  /** A rotary axis alone by feed: degrees a minute. How far its edge goes hangs on the radius that nobody knows. */
  private rotate(degrees: number): void {
    const { state } = this;
    if (state.motion === 0 || this.lathe) return;
    state.doubt(
      'rotary',
      'A rotary axis turns by feed: its time is counted, the way that is cut is not.',
      'Time in cut is at least what is shown.',
      ['life'],
    );
    const seconds = state.inverseTime
      ? 60 / state.cut.feed
      : state.cut.feed > 0 && !state.cut.perRevolution
        ? (degrees / state.cut.feed) * 60
        : 0;
    state.made(1e-6, Number.isFinite(seconds) ? seconds : 0, state.at.z);
  }

  private mixed(): void {
    if (this.lathe || this.state.inverseTime) return;
    this.state.doubt(
      'rotary',
      'A rotary axis turns while others feed: time and life are counted by the straight axes alone.',
      'Time in cut is at least what is shown.',
      ['life', 'time'],
    );
  }

  private cycleCode(): number | null {
    const { letters, values, count } = this.state.words.block;
    const turning = this.state.dialect.turningCycles;
    let found: number | null = null;
    for (let i = 0; i < count; i += 1)
      if (letters[i] === G && (isDrilling(values[i]!, turning) || isTurning(values[i]!, turning)))
        found = values[i]!;
    return found;
  }

  private isFullCircle(): boolean {
    const { motion, words } = this.state;
    return (motion === 2 || motion === 3) && (words.block.present & CENTRE) !== 0;
  }

  private home(): void {
    this.state.cycle = null;
    this.turned();
    if (!this.lathe) this.state.at = { ...this.state.at, z: Math.max(this.state.at.z, 100) };
  }

  private target(): Point | null {
    const { words, at } = this.state;
    const { present } = words.block;
    if ((present & (this.lathe ? LATHE_AXES : MILL_AXES)) === 0) return null;
    return {
      x: this.axis(at.x, X, this.lathe ? U : 0),
      y: this.axis(at.y, Y, this.lathe ? V : 0),
      z: this.axis(at.z, Z, this.lathe ? W : 0),
    };
  }

  /** Where an axis goes: by its word, or by the step that a lathe has a letter of its own for. */
  private axis(now: number, letter: number, step: number): number {
    const { words, absolute } = this.state;
    const to = words.dimension(letter);
    if (to !== null) return absolute ? to : now + to;
    return step === 0 ? now : now + (words.dimension(step) ?? 0);
  }

  private cutTo(target: Point): void {
    const { state } = this;
    const { at, motion } = state;
    state.recorder.move(at, target, motion !== 0);
    if (!this.lathe) state.reached(target);
    if (target.z > state.highest) state.highest = target.z;
    // on a lathe X is a diameter: a move counts half of it
    if (motion === 1)
      this.feed(straightLength((target.x - at.x) * this.half, target.y - at.y, target.z - at.z), target);
    else if (motion === 2 || motion === 3) this.feed(this.arc(target), target);
    state.at = target;
  }

  private arc(target: Point): number {
    const { words, plane, motion, at } = this.state;
    const [first, second] = plane;
    const offset = { x: words.dimension(I), y: words.dimension(J), z: words.dimension(K) };
    const none = offset.x === null && offset.y === null && offset.z === null;
    return arcLength(
      { ...at, x: at.x * this.half },
      { ...target, x: target.x * this.half },
      motion === 2,
      plane,
      none ? null : { first: offset[first] ?? 0, second: offset[second] ?? 0 },
      words.dimension(R),
    );
  }

  /** A block of positions and a feed alone, in a straight or round motion. */
  plain(): void {
    const { state } = this;
    if (state.words.farOut()) return this.apply();
    const target = this.target() ?? (this.isFullCircle() ? state.at : null);
    if (target) this.cutTo(target);
  }

  private feed(distance: number, target: Point): void {
    const { state } = this;
    const { cut, at } = state;
    const nearest =
      Math.sign(at.x) === Math.sign(target.x) ? Math.min(Math.abs(at.x), Math.abs(target.x)) : 0;
    // inverse time: the block takes one over F minutes, however far it goes
    const seconds = state.inverseTime
      ? cut.feed > 0
        ? 60 / cut.feed
        : 0
      : cutSeconds(distance, cut, at.x, target.x);
    state.made(distance, seconds, Math.min(at.z, target.z), nearest);
  }
}
