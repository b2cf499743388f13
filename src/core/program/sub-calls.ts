import { LETTER } from './letters.ts';
import { ALL, type Affected } from './doubts.ts';
import type { Flow } from './flow.ts';
import type { Stored } from './program-index.ts';
import type { Value } from './expression.ts';

const { G, M, P, L, N } = LETTER;
const DEEPEST_CALL = 12;
/** Repeats that a packed P carries before the four digits of a program. */
const PACKED = 10_000;

/** What hangs on a word whose value is not known, by its letter; the others are of positions. */
const HANGS: Readonly<Record<string, readonly Affected[]>> = {
  T: ['tools'],
  H: ['length'],
  D: ['radius'],
  S: ['speed', 'time', 'life'],
  F: ['speed', 'time', 'life'],
  P: ALL,
  M: ALL,
  G: ALL,
  L: ['life', 'time'],
  N: [],
};
const POSITION: readonly Affected[] = ['depth', 'time', 'life'];

/** Calls of other programs and what ends a program: read in place where it is at hand, named where it is not. */
export class SubCalls {
  private readonly flow: Flow;
  private readonly running: number[] = [];
  /** A macro that every move calls (G66), and its arguments. */
  private modal: { program: Stored; words: { letter: string; value: Value }[] } | null = null;

  /** A macro is called by every move. */
  get isModal(): boolean {
    return this.modal !== null;
  }

  constructor(flow: Flow) {
    this.flow = flow;
  }

  /** The main program runs: it cannot be called again. */
  begin(from: number): void {
    this.running.push(from);
  }

  lost(words: readonly { letter: string; because: string }[]): void {
    for (const { letter, because } of words)
      this.flow.state.doubt(
        'unknownValue',
        `${letter} hangs on ${because}.`,
        `Say what ${because.split(' ')[0]!} is, or ask the programmer.`,
        HANGS[letter] ?? POSITION,
      );
  }

  /** What follows a block: a call in it is run, and an end in it ends. */
  after(program: Stored, depth: number, called: boolean): 'next' | 'return' {
    const { state } = this.flow;
    const { words } = state;
    if (words.has(67, G)) this.modal = null;
    const kind = words.has(97, M) ? 'local' : words.has(98, M) ? 'sub' : words.has(198, M) ? 'away' : null;
    if (kind) this.call(kind, program, depth);
    else if (words.has(65, G) || words.has(66, G)) this.macro(words.has(66, G), depth);
    else if ((words.has(99, M) || words.has(30, M) || words.has(2, M)) && this.flow.goesOn(program))
      return 'next';
    else if (words.has(99, M)) {
      const to = words.value(P);
      if (called && to !== null)
        state.doubt(
          'noLabel',
          `Returns to N${to} of whoever called it: that was not followed.`,
          'Ask the programmer where it goes on.',
          ALL,
        );
      if (!called) this.flow.over = this.flow.returned = true;
      return 'return';
    } else if (words.has(30, M) || words.has(2, M)) {
      this.flow.over = true;
      return 'return';
    } else if (this.modal && this.moves()) {
      const { modal } = this;
      this.modal = null;
      this.enter(modal.program, modal.program.from, 1, depth, modal.words);
      this.modal = modal;
    }
    return 'next';
  }

  private moves = () =>
    [LETTER.X, LETTER.Y, LETTER.Z].some((letter) => this.flow.state.words.find(letter) >= 0);

  private call(kind: 'local' | 'sub' | 'away', program: Stored, depth: number): void {
    const { state, index } = this.flow;
    const { words } = state;
    const target = words.value(P);
    const times = words.value(L);
    if (kind === 'local') {
      const label = target === null ? null : index.label(target, -1, program);
      if (label === null) return this.missing(`N${target ?? '…'}`, null);
      return this.enter({ ...program, from: label }, label, times ?? 1, depth);
    }
    const { name, remark } = words.block;
    if (this.isNet(target)) return;
    if (target === null)
      return this.missing(
        name || remark ? `"${name || remark}"` : 'a program whose number is not known',
        null,
      );
    const direct = index.byNumber(target);
    const packed = !direct && target >= PACKED ? index.byNumber(target % PACKED) : undefined;
    const found = direct ?? packed;
    if (!found) {
      const number = target >= PACKED && times === null ? target % PACKED : target;
      return this.missing(`O${String(number).padStart(4, '0')}`, number);
    }
    this.enter(found, found.from, packed ? Math.floor(target / PACKED) : (times ?? 1), depth);
  }

  private macro(modal: boolean, depth: number): void {
    const { state, index } = this.flow;
    const { words } = state;
    const target = words.value(P);
    if ((target !== null && target === state.dialect.toolCallMacro) || this.isNet(target)) return;
    const found = target === null ? undefined : index.byNumber(target);
    if (!found)
      return this.missing(
        target === null ? 'a macro whose number is not known' : `O${String(target).padStart(4, '0')}`,
        target,
      );
    const { letters, values, count } = words.block;
    const given: { letter: string; value: Value }[] = [];
    for (let i = 0; i < count; i += 1)
      if (letters[i] !== G && letters[i] !== P && letters[i] !== L && letters[i] !== N)
        given.push({ letter: String.fromCharCode(letters[i]!), value: values[i]! });
    if (modal) this.modal = { program: found, words: given };
    else this.enter(found, found.from, words.value(L) ?? 1, depth, given);
  }

  /** The check of lengths that the profile writes itself: it moves nothing and sets nothing. */
  private isNet = (target: number | null) =>
    target !== null && target === this.flow.state.dialect.net?.program;

  private enter(
    program: Stored,
    from: number,
    times: number,
    depth: number,
    given?: readonly { letter: string; value: Value }[],
  ): void {
    const { state, variables } = this.flow;
    if (this.running.includes(from))
      return state.doubt(
        'selfCall',
        `Calls O${program.number} from within itself: that never ends, and was not followed.`,
        'Mend the program before it runs.',
        ALL,
      );
    if (depth >= DEEPEST_CALL)
      return state.doubt(
        'deepCall',
        `Calls nested more than ${DEEPEST_CALL} deep: not followed further.`,
        'Ask the programmer; controls nest four to ten deep.',
        ALL,
      );
    const line = state.line;
    this.running.push(from);
    for (let i = 0; i < Math.max(1, Math.min(99_999, times)) && this.flow.spend(); i += 1) {
      if (given) variables.enter(given);
      this.flow.run(program, from, true, depth + 1);
      if (given) variables.leave();
      if (this.flow.over) break;
    }
    this.running.pop();
    state.line = line;
  }

  private missing(what: string, number: number | null): void {
    this.flow.state.doubt(
      'missingSub',
      `Calls ${what}, which is not here: what it does is not counted.`,
      number === null
        ? 'Bring it in with the program, or ask the programmer what it does.'
        : `Bring in ${what}.`,
      ALL,
      number === null ? {} : { wants: String(number) },
    );
  }
}
