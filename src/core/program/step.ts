import { LETTER } from './letters.ts';
import type { BlockWords } from './block-words.ts';
import { ALL } from './doubts.ts';
import type { Flow } from './flow.ts';
import type { Modes } from './modes.ts';
import { Moves } from './moves.ts';
import type { ReaderState } from './reader-state.ts';
import type { Beside } from './tool-names.ts';
import type { ToolWords } from './tool-words.ts';

const { F, G, M, N, O } = LETTER;

/** Letters of positions, their centre, radius and feed, motion and number. */
const PLAIN = [...'XYZUVWIJKRFGN'].reduce((bits, letter) => bits | (1 << (letter.charCodeAt(0) - 65)), 0);

/** What stands in one block: remarks, modes, tools and moves, in the order in which a control takes them. */
export class Step {
  /** The program's number and title, once they were read. */
  number = '';
  title = '';
  private readonly words: BlockWords;
  private readonly state: ReaderState;
  private readonly modes: Modes;
  private readonly tools: ToolWords;
  private readonly flow: Flow;
  private readonly moves: Moves;

  constructor(state: ReaderState, modes: Modes, tools: ToolWords, flow: Flow) {
    this.words = state.words;
    this.state = state;
    this.modes = modes;
    this.tools = tools;
    this.flow = flow;
    this.moves = new Moves(state, flow);
  }

  /** What stands in one block, but for calls and ends. @returns whether it may call or end something */
  step(first: boolean): boolean {
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
      if (
        block.remark !== '' &&
        this.title === '' &&
        this.number !== '' &&
        this.state.recorder.names.mayTitle(block.remark)
      ) {
        this.title = block.remark;
        return 'program';
      }
      return 'nothing';
    }
    return words.has(0, M) || words.has(1, M) ? 'stop' : 'words';
  }
}
