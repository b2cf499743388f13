import { LETTER } from './letters.ts';
import { asWord, type Word } from './block-words.ts';
import { isDrilling, isKnown, isLength, isTurning, NOT_FOLLOWED } from './codes.ts';
import type { Dialect } from './dialect.ts';
import { ALL } from './doubts.ts';
import { aliasOf } from './net-profile.ts';
import { PLANES } from './path-length.ts';
import type { ReaderState } from './reader-state.ts';

const { G, M, S, F, P, Q, U, W, X, L } = LETTER;
/** Metres a minute in feet a minute. */
const FOOT = 0.3048;
/** Preparatory codes, spindle, feed and stops: what stays in force until something else is said. */
export class Modes {
  private readonly state: ReaderState;
  private readonly dialect: Dialect;
  private readonly lifeCodes: readonly Word[];
  private readonly throughCodes: readonly Word[];
  private readonly own: ReadonlySet<string>;
  private readonly metric: number;
  private readonly inch: number;
  private readonly firstUnits: { unit: 'mm' | 'in'; set: boolean };

  constructor(state: ReaderState) {
    this.state = state;
    const { dialect } = state;
    this.dialect = dialect;
    this.lifeCodes = dialect.lifeCodes.map(asWord);
    this.throughCodes = (dialect.throughCodes ?? []).map(asWord);
    this.own = new Set([
      ...(dialect.throughCodes ?? []),
      ...dialect.toolCallCodes,
      ...dialect.lengthCodes,
      ...dialect.lifeCodes,
      ...(dialect.harmlessCodes ?? []),
      ...[aliasOf(dialect.net)].filter((code) => code !== null),
      dialect.unitCodes.mm,
      dialect.unitCodes.in,
    ]);
    this.metric = asWord(dialect.unitCodes.mm).number;
    this.inch = asWord(dialect.unitCodes.in).number;
    this.firstUnits = { unit: dialect.units, set: false };
  }

  /** The unit that the program begins with. */
  get unit(): 'mm' | 'in' {
    return this.firstUnits.unit;
  }

  apply(): void {
    const { state } = this;
    const { letters, values, count } = state.words.block;
    for (let i = 0; i < count; i += 1) {
      if (letters[i] === G) this.preparatory(values[i]!);
      else if (letters[i] === M) this.miscellaneous(values[i]!);
    }
    const f = state.words.value(F);
    if (f !== null) state.cut.feed = state.inverseTime ? f : f * state.words.mm;
    this.speed();
    const call = state.recorder.now;
    if (state.words.hasAny(this.lifeCodes))
      call?.lifeCounts.push({ line: state.line + 1, quantity: state.words.value(Q) ?? 1 });
    if (call && state.words.hasAny(this.throughCodes)) call.throughCoolant ??= state.line + 1;
  }

  private speed(): void {
    const { cut, words, recorder } = this.state;
    const s = words.value(S);
    if (s !== null && isCeiling(this.state)) {
      cut.ceiling = s;
      this.state.ceilingBy = words.has(50, G) ? 50 : 92;
      if (recorder.now) recorder.now.speedCeiling = s;
    } else if (s !== null && cut.surface !== 0) cut.surface = words.mm === 1 ? s : s * FOOT;
    else if (s !== null) {
      cut.speed = s;
      recorder.speed(s);
    }
    if (!Number.isNaN(cut.surface)) return;
    cut.surface = 0;
    this.state.doubt(
      'noSurfaceSpeed',
      'G96 stands without an S of its own: the surface speed is whatever was set before.',
      'Ask the programmer for its S.',
      ['speed', 'time', 'life'],
    );
  }

  private miscellaneous(code: number): void {
    const { state } = this;
    if (code === 1) state.recorder.now?.optionalStops.push(state.line + 1);
    else if (code === 0) state.recorder.now?.stops!.push(state.line + 1);
    else if (code === 3 || code === 13) state.spindle = 'cw';
    else if (code === 4 || code === 14) state.spindle = 'ccw';
    else if (code === 5) state.spindle = 'off';
    else if (code === 7 || code === 8 || this.isThrough(code)) state.coolant.add(code);
    else if (code === 9) state.coolant.clear();
    else if (code === 89) for (const through of this.throughCodes) state.coolant.delete(through.number);
    else if (!isKnown('M', code, this.dialect.kind)) this.unknown(`M${code}`);
  }

  private isThrough = (code: number) =>
    this.throughCodes.some((each) => each.letter === M && each.number === code);

  private unknown(name: string): void {
    if (this.own.has(name)) return;
    this.state.doubt(
      'unknownCode',
      `${name} is not known: it may do anything.`,
      `Look it up in the machine’s manual, and say in its profile that it is harmless, or what it is.`,
      ALL,
      { wants: name },
    );
  }

  private preparatory(code: number): void {
    const { state, dialect } = this;
    const { cut } = state;
    if (code === this.metric || code === this.inch) this.units(code === this.metric);
    else if (code <= 3) {
      state.motion = code;
      state.cycle = null;
      state.simple = null;
    } else if (code === 17 || code === 18 || code === 19) state.plane = PLANES[code];
    else if (code >= 54 && code < 60) this.workOffset(code);
    else if (code === 68 || code === 69) this.frame(code);
    else if (code === 80) state.cycle = null;
    else if (code === 96) cut.surface = cut.surface || NaN;
    else if (code === 97) cut.surface = 0;
    else if (code === 40) state.radius.on = false;
    else if (code === 49) state.lengthen(null);
    else if (code === 15 || (code === 50 && dialect.kind === 'mill')) this.frame(code);
    else if (NOT_FOLLOWED[code] && !this.own.has(`G${code}`)) this.notFollowed(code);
    else if (code === 10) this.writes();
    else if (dialect.turningCycles && [90, 92, 94, 98, 99, 32, 33].includes(code)) this.turning(code);
    else if (code === 90) state.absolute = true;
    else if (code === 91) state.absolute = false;
    else if (code === 93) state.inverseTime = true;
    else if (code === 94 || code === 95) {
      cut.perRevolution = code === 95;
      state.inverseTime = false;
    } else if (code === 98) state.returnToR = false;
    else if (code === 99) state.returnToR = true;
    else if (!isDrilling(code, dialect.turningCycles) && !isTurning(code, dialect.turningCycles))
      if (!isKnown('G', code, dialect.kind) && !isLength(code, dialect)) this.unknown(`G${code}`);
  }

  /** Coordinates are turned, scaled or read as polar, or no more: what it stands at by them, its next words say. */
  private frame(code: number): void {
    const { state } = this;
    if (!state.frame.code(code, state.line)) return;
    state.known = 0;
    if (code === 50 || code === 51) state.highest = null;
  }

  private workOffset(code: number): void {
    const { state } = this;
    const p = state.words.value(P);
    const offset = Number.isInteger(code) || p === null ? `G${code}` : `G${code} P${p}`;
    if (offset === state.workOffset) return;
    state.workOffset = offset;
    // it stands where it stood: what that is from another zero, nobody knows
    state.known = 0;
    state.highest = null;
  }

  private units(metric: boolean): void {
    this.state.words.mm = metric ? 1 : 25.4;
    if (this.firstUnits.set) return;
    this.firstUnits.unit = metric ? 'mm' : 'in';
    this.firstUnits.set = true;
  }

  private turning(code: number): void {
    const { state } = this;
    if (code === 98 || code === 99) {
      state.cut.perRevolution = code === 99;
      state.inverseTime = false;
    } else if (code === 32 || code === 33) state.motion = 1;
    else if (!isCeiling(state)) {
      state.motion = code;
      state.simple = null;
    }
  }

  private notFollowed(code: number): void {
    const [what, affects] = NOT_FOLLOWED[code]!;
    this.frame(code);
    this.state.doubt(
      'unknownCode',
      `G${code} ${what}: that is not counted.`,
      'Look at the program: depth, time and life are at least what is shown.',
      affects,
      { wants: `G${code}` },
    );
  }

  /** G10 writes a register: an offset, a work offset, or a tool life. */
  private writes(): void {
    const { state } = this;
    const [p, l] = [state.words.value(P), state.words.value(L)];
    // L2 and L20 are work offsets; what else there is may be a tool's
    const place = l === 2 || l === 20;
    // a lathe's U and W add
    const steps = this.dialect.turningCycles && [U, W].some((letter) => state.words.find(letter) >= 0);
    state.recorder.now?.writes!.push(state.line + 1);
    state.doubt(
      'writes',
      place
        ? `Writes a work offset${p === null ? '' : ` (P${p})`}.`
        : `Writes into the offset table${p === null ? '' : ` (row ${p})`}: what stands in the record is not what it runs with.`,
      place ? 'Look that it is the one of this set-up.' : 'Take the line out, or say what it writes.',
      place ? ['depth'] : ['length', 'radius', 'life'],
      state.absolute && !steps ? {} : { adds: true },
    );
  }
}

/** A ceiling of the spindle speed, not a move and not a speed. */
export const isCeiling = (state: ReaderState) =>
  state.words.find(S) >= 0 && (state.words.has(50, G) || (state.words.has(92, G) && state.words.find(X) < 0));
