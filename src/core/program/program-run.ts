import { LETTER } from './letters.ts';
import { BlockWords } from './block-words.ts';
import { CallRecorder } from './call-recorder.ts';
import type { Dialect } from './dialect.ts';
import { ALL, Doubts } from './doubts.ts';
import { Flow } from './flow.ts';
import { Modes } from './modes.ts';
import { Moves } from './moves.ts';
import { ProgramIndex } from './program-index.ts';
import { ReaderState } from './reader-state.ts';
import { modesNow, type Stand } from './stand.ts';
import type { ProgramReading, ToolCall } from './reading.ts';
import { lineBounds } from './lines.ts';
import type { Beside } from './tool-names.ts';
import { ToolWords } from './tool-words.ts';
import { Variables } from './variables.ts';

const { F, G, M, N, O } = LETTER;

/** Letters of positions, their centre, radius and feed, motion and number. */
const PLAIN = [...'XYZUVWIJKRFGN'].reduce((bits, letter) => bits | (1 << (letter.charCodeAt(0) - 65)), 0);

/** What is known beside the text: programs of the store, and what somebody said of its variables. */
export interface Beyond {
  /** Texts that the program may call, each with its O. */
  library?: readonly string[];
  /** Values of variables that the program does not set. */
  known?: readonly { variable: number; value: number }[];
  /** Takes no straight cuts together: slower, and the same. Whoever checks the reader asks for it. */
  blockByBlock?: boolean;
}

/** A run through a program with its modal state, as a control would read it; one object, one file, used once. */
export class ProgramRun {
  private readonly words: BlockWords;
  private readonly state: ReaderState;
  private readonly modes: Modes;
  private readonly tools: ToolWords;
  private readonly moves: Moves;
  private readonly flow: Flow;
  private readonly own: number;
  private number = '';
  private title = '';

  constructor(
    text: string,
    dialect: Dialect,
    { library = [], known = [], blockByBlock = false }: Beyond = {},
  ) {
    this.words = new BlockWords(library.length === 0 ? text : [text, ...library].join('\n'), dialect);
    this.own = library.length === 0 ? this.words.lines : lineBounds(text).length / 2;
    const doubts = new Doubts();
    this.state = new ReaderState(
      this.words,
      dialect,
      new CallRecorder(dialect.automaticRow, dialect.kind === 'lathe'),
      doubts,
    );
    this.modes = new Modes(this.state);
    this.tools = new ToolWords(this.state);
    const variables = new Variables();
    for (const { variable, value } of known) variables.set(variable, value);
    const index = new ProgramIndex(this.words.text, this.words.bounds, this.own);
    this.flow = new Flow(this.state, index, variables, this.own, (first) => this.step(first));
    this.flow.together = !blockByBlock;
    this.moves = new Moves(this.state, this.flow);
  }

  main(): void {
    const { program, sure } = this.flow.index.main(this.own);
    if (!sure) {
      this.state.line = program.from;
      this.state.doubt(
        'mainProgram',
        `Several programs stand in this file, and which of them is run is not certain: O${program.number} was followed.`,
        'Bring in the program that is run by itself, with what it calls.',
        ALL,
      );
    }
    this.flow.main(program);
  }

  /** It calls no tool and returns: whoever calls it has the tool in the spindle. */
  get isSubprogram(): boolean {
    return this.flow.returned && this.state.recorder.calls().length === 0;
  }

  /** Text of the line that raised the alarm which ended the run; null: none did. */
  get alarm(): string | null {
    const at = this.flow.alarm;
    return at === null
      ? null
      : this.words.text.slice(this.words.bounds[at * 2], this.words.bounds[at * 2 + 1]);
  }

  /**
   * Runs up to a line, and says how everything stands before it.
   * @param line from 0, in the file itself
   * @returns null: the run never comes there
   */
  upTo(line: number): Stand | null {
    let stand: Stand | null = null;
    let call: Stand['call'] = null;
    const begun = () => this.state.recorder.soFar();
    this.flow.before = (at, depth) => {
      const now = begun();
      if (now && now.order !== call?.order)
        call = {
          order: now.order,
          line: now.line,
          alone: depth === 0,
          before: modesNow(this.state, this.tools.stagedNow),
        };
      if (at !== line) return false;
      this.words.scan(at);
      const own = this.words.has(0, G) || this.words.has(1, G);
      stand = {
        ...modesNow(this.state, this.tools.stagedNow),
        call,
        soFar: now,
        depth,
        perhaps: this.flow.perhaps,
        own,
      };
      return true;
    };
    this.main();
    return stand;
  }

  result(): ProgramReading {
    const doubts = this.state.doubts.list;
    return {
      number: this.number,
      title: this.title,
      units: this.modes.unit,
      calls: this.withLeft(this.state.recorder.calls()),
      remarks: this.isSubprogram ? doubts.filter(({ code }) => code !== 'cutBeforeTool') : doubts,
      lines: this.own,
    };
  }

  /** With what is left in force at the end, at the last call; where nothing is, nothing is noted. */
  private withLeft(calls: ToolCall[]): ToolCall[] {
    const { absolute, radius, rotated } = this.state;
    const left = [
      ...(absolute ? [] : (['G91'] as const)),
      ...(radius.on ? (['G41'] as const) : []),
      ...(rotated === null ? [] : (['G68'] as const)),
    ];
    const last = calls.at(-1);
    if (left.length > 0 && last && !this.isSubprogram) last.left = left;
    return calls;
  }

  /** What stands in one block, but for calls and ends. @returns whether it may call or end something */
  private step(first: boolean): boolean {
    const { words, state } = this;
    const { block } = words;
    state.recorder.see(state.line + 1);
    if (this.isPlain()) {
      state.recorder.names.words();
      this.moves.plain();
      return false;
    }
    state.shown = false;
    if (block.strange !== '')
      state.doubt(
        'unknownWord',
        `"${block.strange.trim()}" is not a word and was skipped.`,
        'Look at the line: a letter without its number, or a sign that does not belong there.',
        ALL,
      );
    const program = words.value(O);
    const beside = this.beside(first);
    state.recorder.names.see(block.remark, beside);
    if (program !== null && this.number === '') {
      this.number = `O${String(program).padStart(4, '0')}`;
      this.title = block.remark;
    }
    if (block.count > 0) this.work();
    state.recorder.names.over(beside);
    return true;
  }

  /** Nothing but positions, a feed and a straight or round motion: most blocks of a long program. Motion and feed are taken at once. */
  private isPlain(): boolean {
    const { words, state } = this;
    const { block } = words;
    if (block.count === 0 || (block.present & ~PLAIN) !== 0 || block.remark !== '') return false;
    if (block.strange !== '' || block.deletable !== 0 || block.expressions > 0) return false;
    let motion = state.motion;
    let cycle = state.cycle !== null;
    let feed = -1;
    for (let i = 0; i < block.count; i += 1) {
      const value = block.values[i]!;
      if (block.letters[i] === G) {
        if (value !== 0 && value !== 1 && value !== 2 && value !== 3) return false;
        motion = value;
        cycle = false;
      } else if (block.letters[i] === F) feed = value;
    }
    if (cycle || motion > 3 || state.inverseTime) return false;
    if (motion !== state.motion) {
      state.motion = motion;
      state.simple = null;
    }
    state.cycle = null;
    if (feed >= 0) state.cut.feed = feed * words.mm;
    return true;
  }

  private work(): void {
    const { words } = this;
    if (words.has(65, G) || words.has(66, G)) {
      if (this.tools.isMacro()) this.tools.apply(this.flow.lost);
      return;
    }
    this.deletable();
    this.modes.apply();
    this.tools.apply(this.flow.lost);
    this.moves.apply();
  }

  /** A block that is run or not, by a switch on the panel. */
  private deletable(): void {
    const { words, state } = this;
    const { block } = words;
    if (block.deletable === 0) return;
    // stops and numbers alone change nothing that is read
    for (let i = 0; i < block.count; i += 1) {
      const stop = block.letters[i] === M && (block.values[i] === 0 || block.values[i] === 1);
      if (!stop && block.letters[i] !== N)
        return state.doubt(
          'blockDelete',
          `Runs only while block delete${block.deletable > 1 ? ` ${block.deletable}` : ''} is off; it was counted.`,
          'Say how the switch stands for this job.',
          ALL,
        );
    }
  }

  private beside(first: boolean): Beside {
    const { words } = this;
    const { block } = words;
    if (words.find(O) >= 0 && first) return 'program';
    if (block.count === 0 || (block.count === 1 && words.find(N) >= 0)) {
      // the first remark of a program without a title is its title
      if (block.remark !== '' && this.title === '' && this.number !== '') {
        this.title = block.remark;
        return 'program';
      }
      return 'nothing';
    }
    return words.has(0, M) || words.has(1, M) ? 'stop' : 'words';
  }
}
