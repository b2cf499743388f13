import { KNOWN } from './extents.ts';
import { CENTRE, LATHE_AXES, LETTER, MILL_AXES } from './letters.ts';
import { asWord } from './block-words.ts';
import { isDrilling, isTurning } from './codes.ts';
import { cutSeconds } from './cut-time.ts';
import { Drilling } from './drilling.ts';
import type { Flow } from './flow.ts';
import { isCeiling } from './modes.ts';
import { nanometres } from '../units/length.ts';
import { arcLength, STILL, straightLength, type Point } from './path-length.ts';
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

  constructor(state: ReaderState, flow: Flow) {
    this.state = state;
    this.lathe = state.dialect.kind === 'lathe';
    this.half = this.lathe ? 0.5 : 1;
    this.turning = new TurningBlocks(state, flow, () => this.target());
    this.drilling = new Drilling(
      state,
      flow,
      () => this.target(),
      () => void this.turned(),
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
    if (words.has(52, G) && !this.lathe) return this.shift();
    // with a ceiling beside it or not
    if (words.has(50, G) && this.lathe) return this.setHere(50);
    if (words.hasAny(NO_MOTION) || isCeiling(state)) return;
    if (words.has(92, G) && !dialect.turningCycles) return this.setHere(92);
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
      const from = this.state.angles.get(letter) ?? 0;
      const to = absolute ? value : from + value;
      const by = Math.abs(Number.isNaN(from) ? to : to - from);
      if (by > most) most = by;
      this.state.angles.set(letter, to);
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

  /** To a place of the machine: where that is in the program's coordinates, nobody knows. */
  private home(): void {
    const { state } = this;
    const { words } = state;
    state.cycle = null;
    if (!words.has(53, G)) this.homeBy();
    const named = [X, Y, Z, ...ROTARY].filter((letter) => words.find(letter) >= 0);
    for (const letter of ROTARY) if (words.find(letter) >= 0) state.angles.set(letter, NaN);
    if (this.lathe) return;
    const goes = (letter: number) => named.length === 0 || named.includes(letter);
    if (goes(X)) state.known &= ~KNOWN.x;
    if (goes(Y)) state.known &= ~KNOWN.y;
    if (!goes(Z)) return;
    state.highest = null;
    state.at = { ...state.at, z: Math.max(state.at.z, 100) };
  }

  /** A word of G28 and G30 is a place to go by: absolute, it counts from the zero of the part. */
  private homeBy(): void {
    const { state, lathe } = this;
    const { words, at, recorder } = state;
    const call = recorder.now;
    // on a mill a height that the program has not said may be any
    if (!call || call.homeBy || !state.absolute || (!lathe && state.highest === null)) return;
    for (const [axis, letter, now] of [
      ['X', X, at.x],
      ['Z', Z, at.z],
    ] as const) {
      const by = axis === 'X' && !lathe ? null : words.dimension(letter);
      if (by === null || by > now - STILL) continue;
      call.homeBy = { line: state.line + 1, axis, at: nanometres(Math.round(by * 1e6)) };
      return;
    }
  }

  /** G52 on a mill: zero lies elsewhere from now on. */
  private shift(): void {
    const { state } = this;
    const { words, at } = state;
    const given = { x: words.dimension(X), y: words.dimension(Y), z: words.dimension(Z) };
    const by = state.frame.local(
      Object.fromEntries(Object.entries(given).filter(([, value]) => value !== null)),
      state.line,
    );
    state.at = { x: at.x - by.x, y: at.y - by.y, z: at.z - by.z };
    if (state.highest !== null) state.highest -= by.z;
    if (by.z !== 0) this.deepFrom('G52');
  }

  /** G92, or G50 on a lathe: the place where it stands has these numbers from now on; by U and W it has so much more. */
  private setHere(code: 50 | 92): void {
    const { state } = this;
    const { words, at } = state;
    if ((words.block.present & (this.lathe ? LATHE_AXES : MILL_AXES)) === 0) return;
    const axis = (now: number, letter: number, step: number) =>
      words.dimension(letter) ?? now + (step === 0 ? 0 : (words.dimension(step) ?? 0));
    state.frame.set(code, state.line);
    state.at = {
      x: axis(at.x, X, this.lathe ? U : 0),
      y: axis(at.y, Y, 0),
      z: axis(at.z, Z, this.lathe ? W : 0),
    };
    if (this.lathe || words.dimension(Z) === null) return;
    state.highest = state.at.z;
    this.deepFrom('G92');
  }

  private deepFrom(code: string): void {
    this.state.doubt(
      'shifted',
      `${code} moves the zero in Z: depths behind it are counted from there.`,
      'Look how deep the tools go from the zero of the set-up.',
      ['depth'],
    );
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
    if (motion === 0 && !state.lengthCame && state.lengthsByWord && !this.lathe) this.unlengthened();
    // on a lathe X is a diameter: a move counts half of it
    if (motion === 1)
      this.feed(straightLength((target.x - at.x) * this.half, target.y - at.y, target.z - at.z), target);
    else if (motion === 2 || motion === 3) this.feed(this.arc(target), target);
    state.at = target;
  }

  /** By rapid to a Z that counts for the nose of the spindle, or with the length of the tool before. */
  private unlengthened(): void {
    const { state } = this;
    const call = state.recorder.now;
    // in the block of the change itself the tool before moves
    if (!call || !state.absolute || state.words.find(Z) < 0 || call.line === state.line + 1) return;
    call.rapidWithoutLength ??= state.line + 1;
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
