import { LETTER } from './letters.ts';
import { asWord, type Word } from './block-words.ts';
import { ALL } from './doubts.ts';
import { isLength } from './codes.ts';
import type { ReaderState } from './reader-state.ts';

const { G, T, H, D, P } = LETTER;
/** A T above this is no tool: a slip of the keys, or digits that mean something else. */
const MOST_TOOL = 99_999;
/** A T that is called and not known. */
const NOT_KNOWN = NaN;

/** Calls of tools, and the rows of lengths and radii that they are run with. */
export class ToolWords {
  private readonly state: ReaderState;
  private readonly callCodes: readonly Word[];
  /** The T that was staged last; null: none; NaN: one that is not known. */
  private staged: number | null = null;
  /** The row that an H named last: a length code without one takes it. */
  private lastH: number | null = null;

  constructor(state: ReaderState) {
    this.state = state;
    this.callCodes = state.dialect.toolCallCodes.map(asWord);
  }

  get stagedNow(): number | null {
    return this.staged;
  }

  /** @param lost letters of the block whose values are not known */
  apply(lost: ReadonlySet<string>): void {
    if (this.callCodes.length === 0) {
      this.turret(lost);
      this.compensation(lost);
      return;
    }
    this.change(lost);
    this.lengths(lost);
    this.compensation(lost);
  }

  /** The macro of the machine that changes the tool: G65 P… T…. */
  isMacro(): boolean {
    const { words, dialect } = this.state;
    return dialect.toolCallMacro !== null && words.has(65, G) && words.value(P) === dialect.toolCallMacro;
  }

  private turret(lost: ReadonlySet<string>): void {
    const { words, dialect, recorder } = this.state;
    if (lost.has('T')) {
      this.state.length = { row: NaN, fresh: true };
      return recorder.away();
    }
    const at = words.find(T);
    if (at < 0) return;
    const { rowDigits } = dialect;
    const [word, digits] = [words.block.values[at]!, words.block.digits[at]!];
    if (rowDigits > 0 && digits > 2 * rowDigits && digits > rowDigits + 2) return this.wide(word, digits);
    const scale = 10 ** rowDigits;
    const [tool, row] = [Math.floor(word / scale), word % scale];
    if (rowDigits > 0 && row === 0) {
      // T0300 cancels the row of the tool that is there; of another station it turns to it without one
      if (tool !== 0 && tool !== recorder.now?.tool) this.called(tool);
      this.state.length = { row: null, fresh: true };
      return;
    }
    this.called(tool);
    if (rowDigits === 0) return;
    this.state.length = { row, fresh: true };
    recorder.lengthRow(row, this.state.line + 1);
  }

  private wide(word: number, digits: number): void {
    this.state.recorder.away();
    this.state.doubt(
      'wideT',
      `T${String(word).padStart(digits, '0')} has ${digits} digits, and the machine’s profile reads ${2 * this.state.dialect.rowDigits}: which tool and row it means is not known.`,
      'Look how the control reads it, and change the profile or the program.',
      ALL,
    );
  }

  private change(lost: ReadonlySet<string>): void {
    const { words, recorder } = this.state;
    const word = words.value(T);
    if (lost.has('T')) this.staged = NOT_KNOWN;
    else if (word !== null) this.staged = word;
    if (!words.hasAny(this.callCodes) && !this.isMacro()) return;
    this.state.spindle = 'off';
    this.state.highest = null;
    this.state.lengthCame = false;
    this.state.said = 0;
    this.state.cutUnsaid = false;
    this.state.length.fresh = false;
    this.state.radius = { row: null, on: this.state.radius.on };
    this.state.at = { ...this.state.at, z: Math.max(this.state.at.z, 0) };
    if (this.staged === null) {
      this.state.doubt(
        'noTool',
        'A tool change with no T before it: it changes to whatever was staged last.',
        'Ask the programmer which tool it is.',
        ALL,
      );
      recorder.away();
    } else if (Number.isNaN(this.staged)) recorder.away();
    else if (this.staged !== 0) this.called(this.staged);
    else recorder.putAway();
  }

  private called(tool: number): void {
    const { recorder, line, cut } = this.state;
    if (!Number.isInteger(tool) || tool > MOST_TOOL || tool < 0) {
      recorder.away();
      return this.state.doubt(
        'wideT',
        `T${tool} is no tool of a machine.`,
        'Look at the number: a digit too many, or a row that stands with it.',
        ALL,
      );
    }
    recorder.call(tool, line + 1, cut);
  }

  private lengths(lost: ReadonlySet<string>): void {
    const { state } = this;
    const { words, recorder, dialect } = state;
    const applies = words.find(G) >= 0 && this.appliesLength();
    if (lost.has('H')) {
      if (applies || state.length.row !== null) state.lengthen(NaN);
      return;
    }
    const h = words.value(H);
    if (h !== null) this.lastH = h;
    // H alone takes another row while a length is in force
    if (!applies && (h === null || state.length.row === null || dialect.lengthCodes.length === 0)) return;
    const row = h ?? this.lastH;
    if (row === null) {
      state.doubt(
        'unknownValue',
        'A length code without an H: the row is whatever was called before.',
        'Ask the programmer for its H.',
        ['length'],
      );
      state.lengthen(NaN);
    } else if (row === 0) state.lengthen(null);
    else {
      state.lengthen(recorder.follow(row));
      recorder.lengthRow(row, state.line + 1);
    }
  }

  private appliesLength(): boolean {
    const { block } = this.state.words;
    for (let i = 0; i < block.count; i += 1)
      if (block.letters[i] === G && isLength(block.values[i]!, this.state.dialect)) return true;
    return false;
  }

  private compensation(lost: ReadonlySet<string>): void {
    const { state } = this;
    const { words, recorder, radius } = state;
    const on = words.has(41, G) || words.has(42, G);
    if (this.callCodes.length > 0 && (lost.has('D') || (words.find(D) >= 0 && !state.cycle))) {
      radius.row = lost.has('D') ? NaN : words.value(D);
      if (!lost.has('D')) recorder.radiusRow(radius.row!, state.line + 1);
    }
    if (!on) return;
    radius.on = true;
    recorder.compensation(
      state.line + 1,
      this.callCodes.length === 0 ? undefined : Number.isNaN(radius.row) ? undefined : radius.row,
    );
  }
}
