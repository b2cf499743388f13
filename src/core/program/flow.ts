import { LETTER } from './letters.ts';
import { ALL } from './doubts.ts';
import { Logic, type Loop } from './logic.ts';
import type { ProgramIndex, Stored } from './program-index.ts';
import type { ReaderState } from './reader-state.ts';
import { SubCalls } from './sub-calls.ts';
import { Streak } from './streak.ts';
import type { Variables } from './variables.ts';

/** Blocks in loops and repeats that are followed at most, beyond the lines that there are. */
const MOST_REPEATS = 1_500_000;

/** Tool calls that are followed at most: no job has so many, a loop that never ends does. */
const MOST_CALLS = 5000;

/** Blocks from one word of how far the run is to the next. */
const BETWEEN_WORDS = 50_000;

const NOTHING: ReadonlySet<string> = new Set();

/** A place that a jump may have gone to: until there everything is run only perhaps. */
export interface Join {
  line: number;
  told: boolean;
  tell: () => void;
}

/** How the run goes from block to block: jumps, loops, calls and their ends. What stands in a block is worked out by `step`. */
export class Flow {
  over = false;
  /** What was run by itself returns to whoever calls it: it is a subprogram. */
  returned = false;
  /** Line index of the alarm that ended the run; null: none did. */
  alarm: number | null = null;
  /** Line index of the block that is worked on. */
  at = 0;
  /** Letters of the block whose values are not known. */
  lost: ReadonlySet<string> = NOTHING;
  readonly variables: Variables;
  readonly state: ReaderState;
  readonly index: ProgramIndex;
  /** Lines of the file itself; behind them stands what came from the store. */
  readonly own: number;
  private readonly subs: SubCalls;
  /** Asked before each block of the file itself: whether the run ends there. */
  before: ((line: number, depth: number) => boolean) | null = null;
  joins: Join[] = [];
  private readonly logic: Logic;
  private readonly streak: Streak;
  /** Told now and then how far the run is: a line index, of how many there are. */
  told: ((line: number, of: number) => void) | null = null;
  private tellAt = BETWEEN_WORDS;
  /** Whether straight cuts are taken together; block by block they come to the same. */
  together = true;
  private readonly most: number;
  private readonly step: (first: boolean) => boolean;

  constructor(
    state: ReaderState,
    index: ProgramIndex,
    variables: Variables,
    own: number,
    step: (first: boolean) => boolean,
    most = MOST_REPEATS,
  ) {
    this.state = state;
    this.index = index;
    this.variables = variables;
    this.own = own;
    this.step = step;
    this.subs = new SubCalls(this);
    this.logic = new Logic(this);
    this.streak = new Streak(state);
    this.most = state.words.lines + most;
  }

  get perhaps(): boolean {
    return this.joins.length > 0;
  }

  /** Counts work; false once there was too much of it. */
  spend(work = 1): boolean {
    this.state.work += work;
    if (this.state.work > this.most && !this.over) {
      this.state.doubt(
        'tooLong',
        `More than ${(this.most - this.state.words.lines).toLocaleString('en-GB')} blocks in loops and repeats: the rest is not counted.`,
        'Look whether a loop or a repeat ever ends.',
        ALL,
      );
      this.over = true;
    }
    if (this.state.recorder.count > MOST_CALLS && !this.over) {
      this.state.doubt(
        'tooLong',
        `More than ${MOST_CALLS} tool calls: the rest is not counted.`,
        'Look whether a loop or a repeat ever ends.',
        ALL,
      );
      this.over = true;
    }
    return !this.over;
  }

  evaluate = (from: number, to: number) => this.state.words.evaluate(from, to, this.variables);

  /** An end that is come to only perhaps ends nothing: the run goes on where the jump around it leads. */
  goesOn(program: Stored): boolean {
    const ahead = this.joins.filter(({ line }) => line > this.at && line < program.to);
    if (ahead.length === 0) return false;
    this.state.resume = Math.min(...ahead.map(({ line }) => line)) - 1;
    return true;
  }

  main(program: Stored): void {
    this.subs.begin(program.from);
    this.run(program, program.from, false, 0);
  }

  /** Runs a program from a line on, to its end or its return. */
  run(program: Stored, from: number, called: boolean, depth: number): void {
    const loops: Loop[] = [];
    const { state } = this;
    const { words } = state;
    for (let line = from; line < program.to;) {
      // straight cuts together, where nothing else can come between them
      if (state.shown && this.together && !this.before && this.joins.length === 0 && !this.subs.isModal) {
        const next = this.streak.take(
          line,
          Math.min(program.to, line + Math.min(this.most - state.work, BETWEEN_WORDS)),
        );
        if (next > line) {
          this.howFar(line);
          if (next <= this.own) state.line = next - 1;
          line = next;
          continue;
        }
      }
      if (!this.spend()) return;
      this.howFar(line);
      if (line < this.own) state.line = line;
      if (this.joins.length > 0)
        this.joins = this.joins.filter((join) => join.line > line || join.line < from);
      this.at = line;
      this.lost = NOTHING;
      if (this.before?.(line, depth)) {
        this.over = true;
        return;
      }
      const block = words.scan(line);
      if (block.logic >= 0) {
        // logic is worked out anew each time: as much work as some blocks
        if (!this.spend(4)) return;
        line = this.logic.next(line, program, loops);
        continue;
      }
      if (block.expressions > 0) {
        const lost = words.resolve(this.variables);
        this.lost = new Set(lost.map(({ letter }) => letter));
        this.subs.lost(lost);
      }
      if (this.joins.length > 0 && block.count > (words.find(LETTER.N) < 0 ? 0 : 1)) this.tell();
      state.recorder.perhaps = this.perhaps;
      const more = this.step(line === program.from);
      if ((more || this.subs.isModal) && this.subs.after(program, depth, called) === 'return') return;
      if (this.over) return;
      line = state.resume !== null ? state.resume + 1 : line + 1;
      state.resume = null;
    }
  }

  private howFar(line: number): void {
    if (!this.told || this.state.work < this.tellAt) return;
    this.tellAt = this.state.work + BETWEEN_WORDS;
    this.told(Math.min(line, this.own), this.own);
  }

  /** Something is done that is done only perhaps: why, is told once. */
  private tell(): void {
    for (const join of this.joins)
      if (!join.told) {
        join.told = true;
        join.tell();
      }
  }
}
