import { LETTER } from './letters.ts';
import { emptyBlock } from './block.ts';
import { isDigit, scanBlock } from './scan.ts';

/** A program within a text: its number, and its lines from the one with O up to the next program. */
export interface Stored {
  number: number;
  from: number;
  to: number;
}

const { N, O, M, P } = LETTER;
const [COLON, SPACE] = [58, 32];

/** Where programs and sequence numbers stand in a text that is split into lines. */
export class ProgramIndex {
  readonly programs: Stored[];
  private readonly text: string;
  private readonly bounds: Int32Array;
  private labels: Map<number, number[]> | null = null;

  /** @param own lines of the file itself; what was brought in from the store stands behind them */
  constructor(text: string, bounds: Int32Array, own: number) {
    this.text = text;
    this.bounds = bounds;
    this.programs = this.find();
    const first = this.programs[0];
    // what stands before the first O, or a text without any, is a program as well
    if (!first || this.hasWords(0, first.from))
      this.programs.unshift({ number: NaN, from: 0, to: first?.from ?? own });
  }

  byNumber = (number: number) => this.programs.find((program) => program.number === number);
  programAt = (line: number) => this.programs.findLast((program) => program.from <= line)!;

  /**
   * The program that the control runs: the only one that ends the run and that no other calls; else the first.
   * @param own lines of the file itself
   */
  main(own: number): { program: Stored; sure: boolean } {
    const here = this.programs.filter(({ from }) => from < own);
    if (here.length === 1) return { program: here[0]!, sure: true };
    const facts = here.map((program) => ({ program, ...this.look(program) }));
    const called = new Set(facts.flatMap(({ calls }) => calls));
    const free = facts.filter(({ program }) => !called.has(program.number));
    const ending = free.filter(({ ends }) => ends);
    if (ending.length === 1) return { program: ending[0]!.program, sure: true };
    return {
      program: (ending[0] ?? free[0] ?? facts[0]!).program,
      sure: ending.length === 0 && free.length <= 1,
    };
  }

  /** The line of a sequence number within a program: the next one behind a line, else the first from its top. */
  label(number: number, behind: number, program: Stored): number | null {
    const lines = (this.labels ??= this.findLabels()).get(number);
    if (!lines) return null;
    const within = lines.filter((line) => line >= program.from && line < program.to);
    return within.find((line) => line > behind) ?? within[0] ?? null;
  }

  /** Lines of a sequence number that stands more than once within a program; empty: it does not. */
  doubled(number: number, program: Stored): number[] {
    const lines = ((this.labels ??= this.findLabels()).get(number) ?? []).filter(
      (line) => line >= program.from && line < program.to,
    );
    return lines.length > 1 ? lines : [];
  }

  private firstSign(line: number): number {
    let at = this.bounds[line * 2]!;
    const end = this.bounds[line * 2 + 1]!;
    while (at < end && this.text.charCodeAt(at) <= SPACE) at += 1;
    return at < end ? at : -1;
  }

  private find(): Stored[] {
    const found: Stored[] = [];
    const lines = this.bounds.length / 2;
    for (let line = 0; line < lines; line += 1) {
      const at = this.firstSign(line);
      if (at < 0) continue;
      const sign = this.text.charCodeAt(at);
      if (sign !== COLON && (sign & ~32) !== O) continue;
      const number = this.numberAt(at + 1, this.bounds[line * 2 + 1]!);
      if (number === null) continue;
      const last = found.at(-1);
      if (last) last.to = line;
      found.push({ number, from: line, to: lines });
    }
    return found;
  }

  private numberAt(at: number, end: number): number | null {
    let [value, digits] = [0, 0];
    while (at < end && this.text.charCodeAt(at) === SPACE) at += 1;
    for (; at < end && isDigit(this.text.charCodeAt(at)); at += 1, digits += 1)
      value = value * 10 + this.text.charCodeAt(at) - 48;
    return digits === 0 ? null : value;
  }

  private findLabels(): Map<number, number[]> {
    const found = new Map<number, number[]>();
    for (let line = 0; line < this.bounds.length / 2; line += 1) {
      let at = this.firstSign(line);
      // a stroke of block delete may stand before it
      if (at >= 0 && this.text.charCodeAt(at) === 47) at += 1;
      if (at < 0 || (this.text.charCodeAt(at) & ~32) !== N) continue;
      const number = this.numberAt(at + 1, this.bounds[line * 2 + 1]!);
      if (number === null) continue;
      const known = found.get(number);
      if (known) known.push(line);
      else found.set(number, [line]);
    }
    return found;
  }

  private hasWords(from: number, to: number): boolean {
    const block = emptyBlock();
    for (let line = from; line < to; line += 1) {
      scanBlock(this.text, this.bounds[line * 2]!, this.bounds[line * 2 + 1]!, block);
      if (block.count > 0 || block.logic >= 0) return true;
    }
    return false;
  }

  /** Whether a program ends the run, and which programs it calls. */
  private look({ from, to }: Stored): { ends: boolean; calls: number[] } {
    const block = emptyBlock();
    const calls: number[] = [];
    let ends = false;
    for (let line = from; line < to; line += 1) {
      scanBlock(this.text, this.bounds[line * 2]!, this.bounds[line * 2 + 1]!, block);
      for (let i = 0; i < block.count; i += 1) {
        if (block.letters[i] === M && (block.values[i] === 30 || block.values[i] === 2)) ends = true;
        if (block.letters[i] === P) calls.push(block.values[i]!, block.values[i]! % 10_000);
      }
    }
    return { ends, calls };
  }
}
