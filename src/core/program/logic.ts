import { ALL } from './doubts.ts';
import { Expression, isUnknown, unknown } from './expression.ts';
import type { Flow } from './flow.ts';
import { Jumps } from './jumps.ts';
import type { Stored } from './program-index.ts';

/** Set to raise an alarm or to show a message, and the control's clocks (common practice of this family, from memory). */
const [ALARM, FIRST_OWN, MESSAGES] = [3000, 1000, [3000, 3199] as const];

/** A loop that is run: its number, and the line where it begins. */
export interface Loop {
  number: number;
  line: number;
}

/** Lines of macro logic: assignments, decisions, loops. */
export class Logic {
  private readonly flow: Flow;
  private readonly jumps: Jumps;

  constructor(flow: Flow) {
    this.flow = flow;
    this.jumps = new Jumps(flow);
  }

  /** Works a line of logic out. @returns the line that comes next */
  next(line: number, program: Stored, loops: Loop[]): number {
    const { words } = this.flow.state;
    const end = this.withoutRemark(line);
    const from = words.block.logic;
    const text = words.text.slice(from, end);
    if (text.startsWith('#')) return this.assign(from, end, line);
    const word = /^[A-Z]+/i.exec(text)?.[0].toUpperCase() ?? '';
    if (word === 'GOTO') return this.jumps.jump(from + 4, end, line, program);
    if (word === 'IF') return this.decide(from + 2, end, line, program);
    if (word === 'WHILE' || word === 'DO') return this.loop(from, end, line, program, loops);
    if (word === 'END') return this.loopEnd(text, line, loops);
    if (['POPEN', 'PCLOS', 'BPRNT', 'DPRNT'].some((output) => word.startsWith(output))) return line + 1;
    this.lostLogic(text);
    return line + 1;
  }

  /** Where the logic of a line ends: before its remark. */
  private withoutRemark(line: number): number {
    const { text, bounds } = this.flow.state.words;
    const end = bounds[line * 2 + 1]!;
    for (let at = this.flow.state.words.block.logic; at < end; at += 1)
      if (text[at] === '(' || text[at] === ';') return at;
    return end;
  }

  private assign(from: number, end: number, line: number): number {
    const { text } = this.flow.state.words;
    const equals = text.indexOf('=', from);
    if (equals < 0 || equals > end) {
      this.lostLogic(text.slice(from, end));
      return line + 1;
    }
    const number = this.flow.evaluate(from + 1, equals);
    if (number === null || isUnknown(number)) {
      this.lostLogic(text.slice(from, end));
      return line + 1;
    }
    if (number === ALARM) return this.jumps.alarm(line);
    if (number >= FIRST_OWN && (number < MESSAGES[0] || number > MESSAGES[1]))
      this.flow.state.doubt(
        'writes',
        `Sets #${number}, which is the control’s own: it may be an offset or a work offset.`,
        'Say what it is, or ask the programmer.',
        ['length', 'radius', 'depth'],
      );
    const value = this.flow.evaluate(equals + 1, end);
    this.flow.variables.set(
      number,
      isUnknown(value) && !value.because.includes('(line')
        ? unknown(`${value.because} (line ${this.flow.state.line + 1})`)
        : this.flow.perhaps
          ? unknown(`#${number}, which is set on line ${this.flow.state.line + 1} only perhaps`)
          : value,
    );
    return line + 1;
  }

  private decide(from: number, end: number, line: number, program: Stored): number {
    const { text } = this.flow.state.words;
    const condition = new Expression(text, from, end, (number) => this.flow.variables.get(number));
    const said = condition.value();
    let at = condition.at;
    while (at < end && text.charCodeAt(at) <= 32) at += 1;
    const rest = text.slice(at, end).toUpperCase();
    const unsure = isUnknown(said) ? said : null;
    const holds = !unsure && said !== null && said !== 0;
    if (rest.startsWith('GOTO')) {
      if (holds) return this.jumps.jump(at + 4, end, line, program);
      return unsure ? this.jumps.perhaps(at + 4, end, line, program, unsure.because) : line + 1;
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
      const number = equals < 0 ? null : this.flow.evaluate(at + 1, equals);
      if (typeof number === 'number' && number !== ALARM) this.flow.variables.set(number, unsure);
    }
    return line + 1;
  }

  private loop(from: number, end: number, line: number, program: Stored, loops: Loop[]): number {
    const { text } = this.flow.state.words;
    const number = Number(/DO\s*(\d+)/i.exec(text.slice(from, end))?.[1] ?? NaN);
    const endAt = this.endOf(number, line, program);
    if (endAt === null) {
      this.lostLogic(text.slice(from, end));
      return line + 1;
    }
    const wanted = text.slice(from, from + 5).toUpperCase() === 'WHILE';
    const said = wanted ? this.flow.evaluate(from + 5, end) : 1;
    if (isUnknown(said)) {
      this.flow.state.doubt(
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
    const { words } = this.flow.state;
    const wanted = new RegExp(`END\\s*${number}(?!\\d)`, 'i');
    for (let i = line + 1; i < program.to; i += 1) {
      if (!this.flow.spend()) return null;
      if (wanted.test(words.text.slice(words.bounds[i * 2]!, words.bounds[i * 2 + 1]!))) return i;
    }
    return null;
  }

  private lostLogic(text: string): void {
    this.flow.state.doubt(
      'lostLogic',
      `"${text.trim().slice(0, 40)}" was not understood: what it decides is not known.`,
      'Ask the programmer what it does.',
      ALL,
    );
  }
}
