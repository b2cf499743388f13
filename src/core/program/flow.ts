import { ALL } from './doubts.ts';
import { Expression, isUnknown, unknown } from './expression.ts';
import type { ProgramIndex, Stored } from './program-index.ts';
import type { ReaderState } from './reader-state.ts';
import { SubCalls } from './sub-calls.ts';
import type { Variables } from './variables.ts';

/** Blocks in loops and repeats that are followed at most, beyond the lines that there are. */
const MOST_REPEATS = 1_500_000;
/** Set to raise an alarm or to show a message, and the control's clocks (common practice of this family, from memory). */
const [ALARM, FIRST_OWN, MESSAGES] = [3000, 1000, [3000, 3199] as const];

const NOTHING: ReadonlySet<string> = new Set();

interface Loop {
  number: number;
  line: number;
}

/** A place that a jump may have gone to: until there everything is run only perhaps. */
interface Join {
  line: number;
  told: boolean;
  tell: () => void;
}

/** How the run goes from block to block: jumps, loops, calls and their ends. What stands in a block is worked out by `step`. */
export class Flow {
  over = false;
  /** What was run by itself returns to whoever calls it: it is a subprogram. */
  returned = false;
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
  private joins: Join[] = [];
  private readonly most: number;
  private readonly step: (first: boolean) => boolean;

  constructor(
    state: ReaderState,
    index: ProgramIndex,
    variables: Variables,
    own: number,
    step: (first: boolean) => boolean,
  ) {
    this.state = state;
    this.index = index;
    this.variables = variables;
    this.own = own;
    this.step = step;
    this.subs = new SubCalls(this);
    this.most = state.words.lines + MOST_REPEATS;
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
        'More than a million and a half blocks in loops and repeats: the rest is not counted.',
        'Look whether a loop or a repeat ever ends.',
        ALL,
      );
      this.over = true;
    }
    return !this.over;
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
      if (!this.spend()) return;
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
        line = this.logic(line, program, loops);
        continue;
      }
      if (block.expressions > 0) {
        const lost = words.resolve(this.variables);
        this.lost = new Set(lost.map(({ letter }) => letter));
        this.subs.lost(lost);
      }
      if (this.joins.length > 0 && block.count > (words.find(78) < 0 ? 0 : 1)) this.tell();
      state.recorder.perhaps = this.perhaps;
      const more = this.step(line === program.from);
      if ((more || this.subs.isModal) && this.subs.after(program, depth, called) === 'return') return;
      if (this.over) return;
      line = state.resume !== null ? state.resume + 1 : line + 1;
      state.resume = null;
    }
  }

  /** Something is done that is done only perhaps: why, is told once. */
  private tell(): void {
    for (const join of this.joins)
      if (!join.told) {
        join.told = true;
        join.tell();
      }
  }

  private logic(line: number, program: Stored, loops: Loop[]): number {
    const { words } = this.state;
    const end = this.withoutRemark(line);
    const from = words.block.logic;
    const text = words.text.slice(from, end);
    if (text.startsWith('#')) return this.assign(from, end, line);
    const word = /^[A-Z]+/i.exec(text)?.[0].toUpperCase() ?? '';
    if (word === 'GOTO') return this.jump(from + 4, end, line, program);
    if (word === 'IF') return this.decide(from + 2, end, line, program);
    if (word === 'WHILE' || word === 'DO') return this.loop(from, end, line, program, loops);
    if (word === 'END') return this.loopEnd(text, line, loops);
    if (['POPEN', 'PCLOS', 'BPRNT', 'DPRNT'].some((output) => word.startsWith(output))) return line + 1;
    this.lostLogic(text);
    return line + 1;
  }

  /** Where the logic of a line ends: before its remark. */
  private withoutRemark(line: number): number {
    const { text, bounds } = this.state.words;
    const end = bounds[line * 2 + 1]!;
    for (let at = this.state.words.block.logic; at < end; at += 1)
      if (text[at] === '(' || text[at] === ';') return at;
    return end;
  }

  private evaluate = (from: number, to: number) => this.state.words.evaluate(from, to, this.variables);

  private assign(from: number, end: number, line: number): number {
    const { text } = this.state.words;
    const equals = text.indexOf('=', from);
    if (equals < 0 || equals > end) {
      this.lostLogic(text.slice(from, end));
      return line + 1;
    }
    const number = this.evaluate(from + 1, equals);
    if (number === null || isUnknown(number)) {
      this.lostLogic(text.slice(from, end));
      return line + 1;
    }
    if (number === ALARM) return this.alarm(line);
    if (number >= FIRST_OWN && (number < MESSAGES[0] || number > MESSAGES[1]))
      this.state.doubt(
        'writes',
        `Sets #${number}, which is the control’s own: it may be an offset or a work offset.`,
        'Say what it is, or ask the programmer.',
        ['length', 'radius', 'depth'],
      );
    const value = this.evaluate(equals + 1, end);
    this.variables.set(
      number,
      isUnknown(value) && !value.because.includes('(line')
        ? unknown(`${value.because} (line ${this.state.line + 1})`)
        : this.perhaps
          ? unknown(`#${number}, which is set on line ${this.state.line + 1} only perhaps`)
          : value,
    );
    return line + 1;
  }

  /** An alarm ends the run; where it is raised only perhaps, the run goes on where the jump around it leads. */
  private alarm(line: number): number {
    const ahead = this.joins.filter((join) => join.line > line).sort((a, b) => a.line - b.line)[0];
    if (ahead) return ahead.line;
    this.over = true;
    return line + 1;
  }

  private jump(from: number, end: number, line: number, program: Stored): number {
    const target = this.target(from, end, line, program);
    if (target === null) return line + 1;
    // who jumped to a place before this one's target comes in there
    const ahead = this.joins.filter((join) => join.line > line).sort((a, b) => a.line - b.line)[0];
    if (ahead && ahead.line <= target && target > line) {
      this.joins.push({ ...ahead, line: target });
      return ahead.line;
    }
    return target;
  }

  private target(from: number, end: number, line: number, program: Stored): number | null {
    const number = this.evaluate(from, end);
    const found = number === null || isUnknown(number) ? null : this.index.label(number, line, program);
    if (typeof number === 'number') this.state.doubled(number, this.index.doubled(number, program));
    if (found === null) {
      const what =
        number !== null && isUnknown(number) ? `hangs on ${number.because}` : `N${number} is not there`;
      this.state.doubt(
        'noLabel',
        `Jumps, and ${what}: the run was followed on the next line.`,
        'Ask the programmer where it goes.',
        ALL,
      );
    }
    return found;
  }

  private decide(from: number, end: number, line: number, program: Stored): number {
    const { text } = this.state.words;
    const condition = new Expression(text, from, end, (number) => this.variables.get(number));
    const said = condition.value();
    let at = condition.at;
    while (at < end && text.charCodeAt(at) <= 32) at += 1;
    const rest = text.slice(at, end).toUpperCase();
    const unsure = isUnknown(said) ? said : null;
    const holds = !unsure && said !== null && said !== 0;
    if (rest.startsWith('GOTO')) {
      if (holds) return this.jump(at + 4, end, line, program);
      return unsure ? this.perhapsJump(at + 4, end, line, program, unsure.because) : line + 1;
    }
    if (!rest.startsWith('THEN')) {
      this.lostLogic(text.slice(from - 2, end));
      return line + 1;
    }
    at += 4;
    while (at < end && text.charCodeAt(at) <= 32) at += 1;
    if (text[at] !== '#') {
      if (unsure || holds) this.lostLogic(text.slice(from - 2, end));
      return line + 1;
    }
    if (holds) return this.assign(at, end, line);
    if (unsure) {
      const equals = text.indexOf('=', at);
      const number = equals < 0 ? null : this.evaluate(at + 1, equals);
      if (typeof number === 'number' && number !== ALARM) this.variables.set(number, unsure);
    }
    return line + 1;
  }

  private perhapsJump(from: number, end: number, line: number, program: Stored, because: string): number {
    const target = this.target(from, end, line, program);
    if (target === null) return line + 1;
    const at = this.state.line;
    const tell = () => {
      const held = this.state.line;
      this.state.line = at;
      this.state.doubt(
        'perhaps',
        target > line
          ? `Whether what stands behind it runs, down to line ${target + 1}, hangs on ${because}.`
          : `How often it goes back to line ${target + 1} hangs on ${because}: once was counted.`,
        `Say what ${because.split(' ')[0]!.replace(/,$/, '')} is, or ask the programmer.`,
        ALL,
      );
      this.state.line = held;
    };
    if (target > line) this.joins.push({ line: target, told: false, tell });
    else tell();
    return line + 1;
  }

  private loop(from: number, end: number, line: number, program: Stored, loops: Loop[]): number {
    const { text } = this.state.words;
    const number = Number(/DO\s*(\d+)/i.exec(text.slice(from, end))?.[1] ?? NaN);
    const endAt = this.endOf(number, line, program);
    if (endAt === null) {
      this.lostLogic(text.slice(from, end));
      return line + 1;
    }
    const wanted = text.slice(from, from + 5).toUpperCase() === 'WHILE';
    const said = wanted ? this.evaluate(from + 5, end) : 1;
    if (isUnknown(said)) {
      this.state.doubt(
        'perhaps',
        `How often the loop down to line ${endAt + 1} runs hangs on ${said.because}: once was counted.`,
        `Say what ${said.because.split(' ')[0]!} is, or ask the programmer.`,
        ALL,
      );
      return line + 1;
    }
    if (!said) return endAt + 1;
    if (loops.at(-1)?.line !== line) loops.push({ number, line });
    return line + 1;
  }

  private loopEnd(text: string, line: number, loops: Loop[]): number {
    const number = Number(/\d+/.exec(text)?.[0] ?? NaN);
    const at = loops.findLastIndex((loop) => loop.number === number);
    if (at < 0) return line + 1;
    const [loop] = loops.splice(at);
    return loop!.line;
  }

  private endOf(number: number, line: number, program: Stored): number | null {
    const { words } = this.state;
    const wanted = new RegExp(`END\\s*${number}(?!\\d)`, 'i');
    for (let i = line + 1; i < program.to; i += 1) {
      if (!this.spend()) return null;
      if (wanted.test(words.text.slice(words.bounds[i * 2]!, words.bounds[i * 2 + 1]!))) return i;
    }
    return null;
  }

  private lostLogic(text: string): void {
    this.state.doubt(
      'lostLogic',
      `"${text.trim().slice(0, 40)}" was not understood: what it decides is not known.`,
      'Ask the programmer what it does.',
      ALL,
    );
  }
}
