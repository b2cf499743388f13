import { LETTER } from './letters.ts';
import { BlockWords } from './block-words.ts';
import { CallRecorder } from './call-recorder.ts';
import type { Dialect } from './dialect.ts';
import { ALL, Doubts } from './doubts.ts';
import { Flow } from './flow.ts';
import { Modes } from './modes.ts';
import { ProgramIndex } from './program-index.ts';
import { ReaderState } from './reader-state.ts';
import { Step } from './step.ts';
import { modesNow, type Stand } from './stand.ts';
import type { ProgramReading, ToolCall } from './reading.ts';
import { lineBounds } from './lines.ts';
import { KNOWN } from './extents.ts';
import { ToolWords } from './tool-words.ts';
import { Variables } from './variables.ts';

const { G, T } = LETTER;

/** What is known beside the text: programs of the store, and what somebody said of its variables. */
export interface Beyond {
  /** Texts that the program may call, each with its O. */
  library?: readonly string[];
  /** Values of variables that the program does not set. */
  known?: readonly { variable: number; value: number }[];
  /** Takes no straight cuts together: slower, and the same. Whoever checks the reader asks for it. */
  blockByBlock?: boolean;
  /** Blocks in loops and repeats that are followed at most; a million and a half. */
  most?: number;
  /** Told now and then how far the reading is: a line from 0, of how many the file has. */
  told?: (line: number, of: number) => void;
}

/** Modes other than a program may count on when it begins, by their codes. */
function leftBy({ absolute, radius, frame, plane, cut, inverseTime, words, dialect }: ReaderState): string[] {
  const mill = dialect.kind === 'mill';
  const cycles = !mill && dialect.turningCycles;
  const byTurn = dialect.feed === 'perRevolution';
  return [
    ...(absolute ? [] : ['G91']),
    ...(radius.on ? ['G41'] : []),
    ...frame.now().map(({ code }) => `G${code}`),
    ...(mill && plane[2] !== 'z' ? [plane[2] === 'y' ? 'G18' : 'G19'] : []),
    ...(inverseTime
      ? ['G93']
      : cut.perRevolution === byTurn
        ? []
        : [cycles ? (byTurn ? 'G98' : 'G99') : byTurn ? 'G94' : 'G95']),
    ...((words.mm === 1) === (dialect.units === 'mm')
      ? []
      : [words.mm === 1 ? dialect.unitCodes.mm : dialect.unitCodes.in]),
  ];
}

/** A run through a program with its modal state, as a control would read it; one object, one file, used once. */
export class ProgramRun {
  private readonly words: BlockWords;
  private readonly state: ReaderState;
  private readonly modes: Modes;
  private readonly tools: ToolWords;
  private readonly block: Step;
  private readonly flow: Flow;
  private readonly own: number;

  constructor(
    text: string,
    dialect: Dialect,
    { library = [], known = [], blockByBlock = false, told, most }: Beyond = {},
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
    for (const { variable, value } of known) variables.told(variable, value);
    const index = new ProgramIndex(this.words.text, this.words.bounds, this.own);
    this.flow = new Flow(this.state, index, variables, this.own, (first) => this.block.step(first), most);
    this.flow.together = !blockByBlock;
    this.flow.told = told ?? null;
    this.block = new Step(this.state, this.modes, this.tools, this.flow);
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
          before: this.now(),
          staged: this.isStagedBefore(now.line - 1),
        };
      if (at !== line) return false;
      this.words.scan(at);
      const own = this.words.has(0, G) || this.words.has(1, G);
      stand = {
        ...this.now(),
        call,
        soFar: now,
        depth,
        cutUnsaid: this.state.cutUnsaid,
        unsaid: this.state.cutUnsaid || this.state.said !== (KNOWN.x | KNOWN.y),
        perhaps: this.flow.perhaps,
        own,
      };
      return true;
    };
    this.main();
    return stand;
  }

  private now = () => modesNow(this.state, this.tools.stagedNow, this.flow.variables);

  /** Whether the block of a tool change names no T: it takes the one that was staged. */
  private isStagedBefore(line: number): boolean {
    if (line >= this.own) return false;
    this.words.scan(line);
    return this.words.find(T) < 0;
  }

  result(): ProgramReading {
    const doubts = this.state.doubts.list;
    return {
      number: this.block.number,
      title: this.block.title,
      units: this.modes.unit,
      calls: this.withLeft(this.state.recorder.calls()),
      remarks: this.isSubprogram ? doubts.filter(({ code }) => code !== 'cutBeforeTool') : doubts,
      lines: this.own,
    };
  }

  /** With what is left in force at the end, at the last call; where nothing is, nothing is noted. */
  private withLeft(calls: ToolCall[]): ToolCall[] {
    const left = leftBy(this.state);
    const last = calls.at(-1);
    if (left.length > 0 && last && !this.isSubprogram) last.left = left;
    return calls;
  }
}
