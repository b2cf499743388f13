import { unknown, type Value } from './expression.ts';

/** Arguments of a macro call by letter: `G65 P9 X1.` puts 1 into #24. Common practice of this family, from memory. */
const ARGUMENTS: Readonly<Record<string, number>> = {
  A: 1,
  B: 2,
  C: 3,
  I: 4,
  J: 5,
  K: 6,
  D: 7,
  E: 8,
  F: 9,
  H: 11,
  M: 13,
  Q: 17,
  R: 18,
  S: 19,
  T: 20,
  U: 21,
  V: 22,
  W: 23,
  X: 24,
  Y: 25,
  Z: 26,
};
const LOCALS = 33;

export interface VariableNow {
  number: number;
  /** Null: vacant. */
  value: Value;
}

/** Variables as far as the program itself has set them: local ones by level, all others once. What was never set is not known. */
export class Variables {
  private readonly levels: Map<number, Value>[] = [new Map()];
  private readonly common = new Map<number, Value>();
  /** Set by the program itself. */
  private readonly assigned = new Set<number>();

  /** @param line for the words: where it was asked for */
  get(number: number): Value {
    if (number === 0) return null;
    if (number <= LOCALS) return this.levels.at(-1)!.get(number) ?? null;
    const known = this.common.get(number);
    return known === undefined ? unknown(`#${number}`) : known;
  }

  /** What somebody said of a variable that the program does not set. */
  told(number: number, value: number): void {
    this.set(number, value);
    this.assigned.delete(number);
  }

  set(number: number, value: Value): void {
    if (!Number.isInteger(number) || number <= 0) return;
    if (this.levels.length === 1 || number > LOCALS) this.assigned.add(number);
    if (number <= LOCALS) this.levels.at(-1)!.set(number, value);
    else this.common.set(number, value);
  }

  /** Those that the program has set, as they are now outside of any macro. */
  now(): VariableNow[] {
    return [...this.assigned]
      .sort((a, b) => a - b)
      .map((number) => ({
        number,
        value: (number <= LOCALS ? this.levels[0]! : this.common).get(number) ?? null,
      }));
  }

  /** A level of its own for a macro, with the arguments of its call. */
  enter(call: readonly { letter: string; value: Value }[]): void {
    const level = new Map<number, Value>();
    for (const { letter, value } of call) {
      const number = ARGUMENTS[letter];
      if (number !== undefined) level.set(number, value);
    }
    this.levels.push(level);
  }

  leave(): void {
    if (this.levels.length > 1) this.levels.pop();
  }
}
