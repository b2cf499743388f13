import type { Dialect } from './dialect.ts';
import { Expression, isUnknown, type Value } from './expression.ts';
import { lineBounds } from './lines.ts';
import { emptyBlock, type Block } from './block.ts';
import { scanBlock } from './scan.ts';
import type { Variables } from './variables.ts';

/** A letter and number such as M6, taken apart once. */
export interface Word {
  letter: number;
  number: number;
}
export const asWord = (text: string): Word => ({ letter: text.charCodeAt(0), number: Number(text.slice(1)) });

/** No position of a machine lies further out, in inches. */
const FAR = 100_000 / 25.4;

/** The words of one block at a time of a program's text; one scratch block is used over and over. */
export class BlockWords {
  readonly block: Block = emptyBlock();
  /** Millimetres in one unit of the program's present units. */
  mm: number;
  readonly text: string;
  readonly bounds: Int32Array;
  private readonly dialect: Dialect;

  constructor(text: string, dialect: Dialect) {
    this.text = text;
    this.dialect = dialect;
    this.bounds = lineBounds(text);
    this.mm = dialect.units === 'mm' ? 1 : 25.4;
  }

  get lines(): number {
    return this.bounds.length / 2;
  }

  scan(line: number): Block {
    scanBlock(this.text, this.bounds[line * 2]!, this.bounds[line * 2 + 1]!, this.block);
    return this.block;
  }

  /** The value of an expression in the text. */
  evaluate(from: number, to: number, variables: Variables): Value {
    return new Expression(this.text, from, to, (number) => variables.get(number)).value();
  }

  /**
   * Puts a value in place of each expression of the block. A word whose value is not known, or that is vacant, leaves the block.
   * @returns the letters of those that are not known, and because of what
   */
  resolve(variables: Variables): { letter: string; because: string }[] {
    const { block } = this;
    const lost: { letter: string; because: string }[] = [];
    let kept = 0;
    block.present = 0;
    for (let i = 0; i < block.count; i += 1) {
      let value = block.values[i]!;
      const computed = Number.isNaN(value);
      if (computed) {
        const found = this.evaluate(block.from[i]!, block.to[i]!, variables);
        if (isUnknown(found)) {
          lost.push({ letter: String.fromCharCode(block.letters[i]!), because: found.because });
          continue;
        }
        if (found === null) continue;
        value = found;
      }
      block.letters[kept] = block.letters[i]!;
      block.values[kept] = value;
      block.pointed[kept] = block.pointed[i]! || computed;
      block.digits[kept] = block.digits[i]!;
      block.present |= 1 << (block.letters[kept]! - 65);
      kept += 1;
    }
    block.count = kept;
    return lost;
  }

  value(letter: number): number | null {
    const at = this.find(letter);
    return at < 0 ? null : this.block.values[at]!;
  }

  /** A dimension in millimetres; respects controls that take X100 for a hundred least increments. */
  dimension(letter: number): number | null {
    const at = this.find(letter);
    if (at < 0) return null;
    const { values, pointed } = this.block;
    const scale =
      this.dialect.pointless === 'leastIncrement' && !pointed[at] ? (this.mm === 1 ? 1e-3 : 1e-4) : 1;
    return values[at]! * scale * this.mm;
  }

  /** The place of the first word of a letter in the block; -1: there is none. */
  find(letter: number): number {
    const { letters, count, present } = this.block;
    if ((present & (1 << (letter - 65))) === 0) return -1;
    for (let i = 0; i < count; i += 1) if (letters[i] === letter) return i;
    return -1;
  }

  has(code: number, letter: number): boolean {
    const { letters, values, count, present } = this.block;
    if ((present & (1 << (letter - 65))) === 0) return false;
    for (let i = 0; i < count; i += 1) if (letters[i] === letter && values[i] === code) return true;
    return false;
  }

  hasAny(words: readonly Word[]): boolean {
    for (const { letter, number } of words) if (this.has(number, letter)) return true;
    return false;
  }

  /** Whether some number of the block is further out than any machine. */
  farOut(): boolean {
    const { values, count } = this.block;
    for (let i = 0; i < count; i += 1) if (values[i]! > FAR || values[i]! < -FAR) return true;
    return false;
  }

  /** The first position of the block that no machine has, as it is written; null: all may be. */
  notPosition(): string | null {
    const { letters, values, count } = this.block;
    for (let i = 0; i < count; i += 1) {
      const letter = letters[i]!;
      // U V W X Y Z and I J K R
      if ((letter >= 85 && letter <= 90) || (letter >= 73 && letter <= 75) || letter === 82)
        if (Math.abs(values[i]!) * this.mm > FAR * 25.4) return `${String.fromCharCode(letter)}${values[i]}`;
    }
    return null;
  }
}
