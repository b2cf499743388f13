import type { LengthUnit } from '../units/length.ts';
import { cutSeconds, type CutState } from './cut-time.ts';
import { asWord, BlockWords, type Word } from './block-words.ts';
import type { Dialect } from './dialect.ts';
import { boringShift } from './boring-shift.ts';
import { CallRecorder } from './call-recorder.ts';
import { arcLength, PLANES, straight, type Plane, type Point } from './path-length.ts';
import type { ProgramReading, Remark } from './reading.ts';
import { followContour, roughFacing, roughLengthwise, threadPasses, type Corner } from './turning-cycles.ts';

const code = (letter: string) => letter.charCodeAt(0);
const [G, M, T, S, F, H] = [code('G'), code('M'), code('T'), code('S'), code('F'), code('H')];
const [D, L, O, P, Q, R] = [code('D'), code('L'), code('O'), code('P'), code('Q'), code('R')];
const [U, V, W, X, Y, Z] = [code('U'), code('V'), code('W'), code('X'), code('Y'), code('Z')];
const [I, J, K] = [code('I'), code('J'), code('K')];
const MOST_BLOCKS = 5_000_000;
const DEEPEST_CALL = 8;
/** Canned cycles in which the tool also feeds on its way out. */
const FEEDS_OUT = new Set([74, 84, 85, 89]);

/** Canned cycles that stop the spindle oriented and shift off the wall. */
const SHIFTING = new Set([76, 87]);

/** Data setting, dwell, local offset, scaling and rotation: their X, Y, Z and R are no move. */
const NO_MOTION = ['G4', 'G10', 'G51', 'G52', 'G68'].map(asWord);

/** A run through the program with its modal state, as a control would read it; one object, one file, used once. */
export class ProgramRun {
  private readonly words: BlockWords;
  private readonly recorder: CallRecorder;
  private readonly remarks: Remark[] = [];
  private readonly remarked = new Set<string>();
  private readonly dialect: Dialect;
  private readonly toolCallCodes: readonly Word[];
  private readonly lengthCodes: readonly Word[];
  private readonly lifeCodes: readonly Word[];
  private blocks = 0;
  private number = '';
  private title = '';
  private staged: number | null = null;
  private readonly firstUnits: { unit: LengthUnit; set: boolean };
  private absolute = true;
  private motion = 0;
  private plane: Plane;
  private at: Point = { x: 0, y: 0, z: 0 };
  private cycle: { code: number; z: number; r: number } | null = null;
  private returnToR = false;
  private readonly cut: CutState;
  private stock: { depth: number; first: number; finishing: number } = { depth: 1, first: 0.2, finishing: 1 };
  /** Line index of the last contour block of a roughing cycle: the program goes on behind it. */
  private resume: number | null = null;

  constructor(text: string, dialect: Dialect) {
    this.dialect = dialect;
    this.words = new BlockWords(text, dialect);
    this.toolCallCodes = dialect.toolCallCodes.map(asWord);
    this.lengthCodes = dialect.lengthCodes.map(asWord);
    this.lifeCodes = dialect.lifeCodes.map(asWord);
    this.firstUnits = { unit: dialect.units, set: false };
    this.plane = dialect.kind === 'lathe' ? PLANES[18] : PLANES[17];
    this.cut = {
      feed: 0,
      perRevolution: dialect.feed === 'perRevolution',
      speed: 0,
      surface: 0,
      ceiling: Infinity,
    };
    this.recorder = new CallRecorder(dialect.automaticRow, dialect.kind === 'lathe');
  }

  result(): ProgramReading {
    return {
      number: this.number,
      title: this.title,
      units: this.firstUnits.unit,
      calls: this.recorder.calls(),
      remarks: this.remarks,
      lines: this.words.lines,
    };
  }

  main(): void {
    this.run(0, 0, false);
  }

  /** Reads blocks from a line index on. `called` ends at M99; the main program ends at M2, M30 or the next O. */
  private run(from: number, depth: number, called: boolean): void {
    for (let line = from; line < this.words.lines; line += 1) {
      if ((this.blocks += 1) > MOST_BLOCKS) {
        this.remark(line, 'More than five million blocks with repeats: the rest is not counted.');
        return;
      }
      const ended = this.step(line, depth, called, line === from);
      if (ended) return;
      if (this.resume !== null) line = this.resume;
      this.resume = null;
    }
  }

  private step(line: number, depth: number, called: boolean, first: boolean): boolean {
    const block = this.words.scan(line);
    if (block.strange !== '') this.remark(line, `"${block.strange.trim()}" is not a word and was skipped.`);
    if (block.macro)
      this.remark(line, 'Macro variables or logic: the block was not followed, its times are missing.');
    const program = this.words.value(O);
    if (program !== null && !first && (called || this.number !== '')) return true;
    if (program !== null && this.number === '') {
      this.number = `O${String(program).padStart(4, '0')}`;
      this.title = block.remark;
    }
    this.recorder.see(line + 1, block.remark);
    if (block.count === 0) return false;
    this.modes(line);
    this.toolCall(line);
    this.rows(line);
    if (this.callsSubprogram(line, depth)) return false;
    this.move(line);
    return this.words.has(2, M) || this.words.has(30, M) || (this.words.has(99, M) && called);
  }

  private modes(line: number): void {
    const { letters, values, count } = this.words.block;
    for (let i = 0; i < count; i += 1) {
      if (letters[i] === G) this.preparatory(values[i]!);
      else if (letters[i] === M && values[i] === 1) this.recorder.optionalStop(line + 1);
      else if (letters[i] === F) {
        this.cut.feed = values[i]! * this.words.mm;
      }
    }
    const s = this.words.value(S);
    if (s !== null && !this.isCeiling()) {
      if (this.cut.surface !== 0) this.cut.surface = this.words.mm === 1 ? s : s * 0.3048;
      else this.cut.speed = s;
      this.recorder.speed(this.cut);
    } else if (s !== null) {
      this.cut.ceiling = s;
      this.recorder.ceiling(s);
    }
    if (this.words.hasAny(this.lifeCodes)) this.recorder.lifeCount(line + 1, this.words.value(Q) ?? 1);
  }

  private isCeiling = () =>
    this.words.has(50, G) ||
    (this.words.has(92, G) && this.words.value(S) !== null && this.words.value(X) === null);

  private preparatory(code: number): void {
    if (code === 20 || code === 21) {
      this.words.mm = code === 21 ? 1 : 25.4;
      if (!this.firstUnits.set) {
        this.firstUnits.unit = code === 21 ? 'mm' : 'in';
        this.firstUnits.set = true;
      }
    } else if (code <= 3) {
      this.motion = code;
      this.cycle = null;
    } else if (code === 17 || code === 18 || code === 19) this.plane = PLANES[code];
    else if (code === 80) this.cycle = null;
    else if (code === 96) this.cut.surface = this.cut.surface || 1e-9;
    else if (code === 97) this.cut.surface = 0;
    else if (code === 41 || code === 42) this.recorder.compensation();
    else if (this.dialect.turningCycles) {
      if (code === 98) this.cut.perRevolution = false;
      else if (code === 99) this.cut.perRevolution = true;
      else if (code === 90 || code === 92 || code === 94) this.motion = this.isCeiling() ? this.motion : code;
      else if (code === 32 || code === 33) this.motion = 1;
    } else if (code === 90) this.absolute = true;
    else if (code === 91) this.absolute = false;
    else if (code === 94) this.cut.perRevolution = false;
    else if (code === 95) this.cut.perRevolution = true;
    else if (code === 98) this.returnToR = false;
    else if (code === 99) this.returnToR = true;
  }

  private toolCall(line: number): void {
    const word = this.words.value(T);
    const { toolCallCodes, rowDigits } = this.dialect;
    const scale = 10 ** rowDigits;
    if (toolCallCodes.length === 0) {
      if (word === null) return;
      const [tool, row] = [Math.floor(word / scale), word % scale];
      if (rowDigits > 0 && row === 0) return;
      this.recorder.call(tool, line + 1, this.words.block.remark, this.cut);
      if (rowDigits > 0) this.recorder.lengthRow(row, line + 1);
      return;
    }
    if (word !== null) this.staged = word;
    const byCode = this.words.hasAny(this.toolCallCodes);
    const byMacro =
      this.dialect.toolCallMacro !== null &&
      this.words.has(65, G) &&
      this.words.value(P) === this.dialect.toolCallMacro;
    if (!byCode && !byMacro) return;
    if (this.staged === null) this.remark(line, 'A tool change with no T before it.');
    else if (this.staged !== 0) this.recorder.call(this.staged, line + 1, this.words.block.remark, this.cut);
    else this.recorder.putAway();
    this.at = { ...this.at, z: Math.max(this.at.z, 0) };
  }

  private rows(line: number): void {
    if (this.dialect.toolCallCodes.length === 0) return;
    const h = this.words.value(H);
    if (h !== null && this.words.hasAny(this.lengthCodes)) this.recorder.lengthRow(h, line + 1);
    const d = this.words.value(D);
    if (d !== null && !this.cycle) this.recorder.radiusRow(d, line + 1);
  }

  /** M98 P… L… and G65 P…: read in place when kept in the same file, named when kept elsewhere. */
  private callsSubprogram(line: number, depth: number): boolean {
    if (!this.words.has(98, M) && !this.words.has(65, G)) return false;
    const target = this.words.value(P);
    if (target === null || target === this.dialect.toolCallMacro) return false;
    const start = this.words.programs().get(target);
    if (start === undefined) {
      this.remark(line, `Calls O${target}, which is not in this file: what it does is not counted.`);
      return true;
    }
    if (depth >= DEEPEST_CALL) {
      this.remark(line, `Calls nested more than ${DEEPEST_CALL} deep: not followed further.`);
      return true;
    }
    const times = Math.min(9999, Math.max(1, this.words.value(L) ?? 1));
    for (let i = 0; i < times && this.blocks <= MOST_BLOCKS; i += 1) this.run(start, depth + 1, true);
    return true;
  }

  private move(line: number): void {
    const { letters, values, count } = this.words.block;
    let code: number | null = null;
    for (let i = 0; i < count; i += 1) if (letters[i] === G && this.isCycle(values[i]!)) code = values[i]!;
    if (this.words.has(28, G) || this.words.has(30, G) || this.words.has(53, G)) return this.returnHome();
    if (this.words.hasAny(NO_MOTION) || this.isCeiling()) return;
    if (this.words.has(92, G) && !this.dialect.turningCycles) return;
    if (this.dialect.turningCycles && code !== null && code >= 70 && code <= 76)
      return this.turningCycle(code, line);
    if (code !== null) this.cycle = { code, z: this.at.z, r: this.at.z };
    if (this.cycle && SHIFTING.has(this.cycle.code)) this.shift(line);
    if (this.cycle) return this.drill(code !== null);
    const target = this.target() ?? (this.isFullCircle() ? this.at : null);
    if (!target) return;
    if (this.motion === 90 || this.motion === 92 || this.motion === 94) return this.simpleTurning(target);
    this.cutTo(target);
  }

  private shift(line: number): void {
    const said = boringShift({
      q: this.words.dimension(Q),
      i: this.words.dimension(I),
      j: this.words.dimension(J),
    });
    if (said) this.recorder.boringShift({ line: line + 1, ...said });
  }

  private isFullCircle = () =>
    (this.motion === 2 || this.motion === 3) &&
    (this.words.value(I) ?? this.words.value(J) ?? this.words.value(K)) !== null;

  private isCycle(code: number): boolean {
    if (this.dialect.turningCycles) return (code >= 70 && code <= 76) || (code >= 81 && code <= 89);
    return code === 73 || code === 74 || code === 76 || (code >= 81 && code <= 89);
  }

  private returnHome(): void {
    this.cycle = null;
    if (this.dialect.kind === 'mill') this.at = { ...this.at, z: Math.max(this.at.z, 100) };
  }

  private target(): Point | null {
    const lathe = this.dialect.kind === 'lathe';
    const [x, y, z] = [this.words.dimension(X), this.words.dimension(Y), this.words.dimension(Z)];
    const [u, v, w] = lathe
      ? [this.words.dimension(U), this.words.dimension(V), this.words.dimension(W)]
      : [null, null, null];
    if (x === null && y === null && z === null && u === null && v === null && w === null) return null;
    const axis = (now: number, absolute: number | null, step: number | null) =>
      absolute === null ? now + (step ?? 0) : this.absolute ? absolute : now + absolute;
    return { x: axis(this.at.x, x, u), y: axis(this.at.y, y, v), z: axis(this.at.z, z, w) };
  }

  /** On a lathe X is a diameter: a move counts half of it. */
  private metric = (p: Point): Point => (this.dialect.kind === 'lathe' ? { ...p, x: p.x / 2 } : p);

  private cutTo(target: Point): void {
    this.recorder.move(this.at, target, this.motion !== 0);
    const [a, b] = [this.metric(this.at), this.metric(target)];
    if (this.motion === 1) this.feedMove(straight(a, b), target);
    else if (this.motion === 2 || this.motion === 3) {
      const [first, second] = this.plane;
      const offset = { x: this.words.dimension(I), y: this.words.dimension(J), z: this.words.dimension(K) };
      const centre =
        offset.x === null && offset.y === null && offset.z === null
          ? null
          : { first: offset[first] ?? 0, second: offset[second] ?? 0 };
      this.feedMove(arcLength(a, b, this.motion === 2, this.plane, centre, this.words.dimension(R)), target);
    }
    this.at = target;
  }

  private feedMove(distance: number, target: Point): void {
    this.recorder.cut(
      distance,
      cutSeconds(distance, this.cut, this.at.x, target.x),
      Math.min(this.at.z, target.z),
      this.cut,
    );
  }

  private drill(named: boolean): void {
    const cycle = this.cycle!;
    const [z, r] = [this.words.dimension(Z), this.words.dimension(R)];
    const initial = this.at.z;
    if (r !== null) cycle.r = this.absolute ? r : initial + r;
    if (z !== null) cycle.z = this.absolute ? z : cycle.r + z;
    const moves =
      this.words.dimension(X) !== null ||
      this.words.dimension(Y) !== null ||
      named ||
      this.dialect.kind === 'lathe';
    const times = this.words.value(L) ?? (this.dialect.turningCycles ? null : this.words.value(K)) ?? 1;
    if (!moves || times === 0) return;
    const depth = Math.abs(cycle.r - cycle.z);
    const distance = depth * (FEEDS_OUT.has(cycle.code) ? 2 : 1);
    for (let i = 0; i < Math.min(times, 9999); i += 1) {
      const target = this.target() ?? this.at;
      this.recorder.hole(target, distance, cutSeconds(distance, this.cut), cycle.z, this.cut);
      this.at = { x: target.x, y: target.y, z: this.returnToR ? cycle.r : initial };
    }
  }

  /** G90 turn, G94 face, G92 thread: rapid in, feed along, back to the start; one pass a block. */
  private simpleTurning(target: Point): void {
    const along = this.motion === 94 ? Math.abs(this.at.x - target.x) / 2 : Math.abs(target.z - this.at.z);
    const out =
      this.motion === 92
        ? 0
        : this.motion === 94
          ? Math.abs(target.z - this.at.z)
          : Math.abs(this.at.x - target.x) / 2;
    this.recorder.cut(along + out, cutSeconds(along + out, this.cut, target.x), target.z, this.cut);
    this.recorder.passes(this.at, target, this.motion === 94);
  }

  private turningCycle(code: number, line: number): void {
    const [p, q] = [this.words.value(P), this.words.value(Q)];
    const start = { x: this.at.x, z: this.at.z };
    if (code === 74 || code === 75) return this.groove();
    if (code === 76) return this.thread(p);
    if (p === null || q === null) {
      this.stock.depth = Math.abs(this.words.dimension(code === 72 ? W : U) ?? this.stock.depth);
      return;
    }
    const depthHere = this.words.dimension(D);
    const stock = { x: this.words.dimension(U) ?? 0, z: this.words.dimension(W) ?? 0 };
    const contour = this.contour(p, q, line);
    if (!contour) return;
    const depth = depthHere ?? this.stock.depth;
    const cut =
      code === 70
        ? followContour(contour, this.cut)
        : code === 72
          ? roughFacing(start, contour, depth, this.cut)
          : code === 73
            ? repeat(followContour(contour, this.cut), Math.max(1, this.words.value(R) ?? 1))
            : roughLengthwise(start, contour, depth, stock, this.cut);
    contour.slice(1).forEach((corner, i) => this.recorder.move(contour[i]!, corner, i > 0));
    this.recorder.cut(cut.distance, cut.seconds, Math.min(...contour.map((corner) => corner.z)), this.cut);
  }

  private groove(): void {
    const target = this.target();
    if (!target) return;
    const distance =
      this.motion === 75 || target.x !== this.at.x
        ? Math.abs(target.x - this.at.x) / 2
        : Math.abs(target.z - this.at.z);
    this.recorder.cut(distance, cutSeconds(distance, this.cut, this.at.x, target.x), target.z, this.cut);
    this.recorder.move({ x: this.at.x, z: target.z }, target, true);
  }

  private thread(packed: number | null): void {
    const z = this.words.dimension(Z);
    if (z === null) {
      this.stock.finishing = Math.max(1, Math.floor((packed ?? 0) / 10_000));
      return;
    }
    const micro = this.words.mm === 1 ? 1e-3 : 25.4e-4;
    const height =
      (packed ?? 0) * (this.words.block.pointed.some(Boolean) && (packed ?? 0) < 50 ? this.words.mm : micro);
    const first = (this.words.value(Q) ?? 0) * micro;
    const passes = threadPasses(height, first || height, this.stock.finishing);
    const distance = Math.abs(z - this.at.z) * passes;
    this.recorder.cut(distance, cutSeconds(distance, { ...this.cut, surface: 0 }), z, this.cut);
  }

  /** The blocks N…P to N…Q as corners; X may be a diameter or an increment, arcs count as their chord. */
  private contour(p: number, q: number, line: number): Corner[] | null {
    const [from, to] = [this.words.sequence().get(p), this.words.sequence().get(q)];
    if (from === undefined || to === undefined || to < from) {
      this.remark(line, `The contour N${p} to N${q} was not found: this cycle is not counted.`);
      return null;
    }
    const corners: Corner[] = [{ x: this.at.x, z: this.at.z, feed: 0 }];
    const held = { at: this.at, motion: this.motion };
    for (let i = from; i <= to; i += 1) {
      this.words.scan(i);
      const feed = this.words.value(F);
      const target = this.target();
      if (target) corners.push({ x: target.x, z: target.z, feed: feed === null ? 0 : feed * this.words.mm });
      if (target) this.at = target;
    }
    this.at = held.at;
    this.motion = held.motion;
    if (from > line) this.resume = to;
    this.words.scan(line);
    return corners;
  }

  private remark(line: number, text: string): void {
    if (this.remarks.length >= 50 || this.remarked.has(text)) return;
    this.remarked.add(text);
    this.remarks.push({ line: line + 1, text });
  }
}

const repeat = (once: { seconds: number; distance: number }, times: number) => ({
  seconds: once.seconds * times,
  distance: once.distance * times,
});
