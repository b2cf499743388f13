import type { Dialect } from './dialect.ts';
import { emptyBlock, lineBounds, scanBlock, type Block } from './scan.ts';

const [N, O] = ['N'.charCodeAt(0), 'O'.charCodeAt(0)];

/** A letter and number such as M6, taken apart once. */
export interface Word {
  letter: number;
  number: number;
}
export const asWord = (text: string): Word => ({ letter: text.charCodeAt(0), number: Number(text.slice(1)) });

/** The words of one block at a time of a program's text; one scratch block is used over and over. */
export class BlockWords {
  readonly block: Block = emptyBlock();
  /** Millimetres in one unit of the program's present units. */
  mm: number;
  private readonly text: string;
  private readonly bounds: number[];
  private readonly dialect: Dialect;
  private sequenceLines: Map<number, number> | null = null;
  private programLines: Map<number, number> | null = null;

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

  value(letter: number): number | null {
    const { letters, values, count, present } = this.block;
    if ((present & (1 << (letter - 65))) === 0) return null;
    for (let i = 0; i < count; i += 1) if (letters[i] === letter) return values[i]!;
    return null;
  }

  /** A dimension in millimetres; respects controls that take X100 for a hundred least increments. */
  dimension(letter: number): number | null {
    const { letters, values, pointed, count, present } = this.block;
    if ((present & (1 << (letter - 65))) === 0) return null;
    for (let i = 0; i < count; i += 1) {
      if (letters[i] !== letter) continue;
      const scale =
        this.dialect.pointless === 'leastIncrement' && !pointed[i] ? (this.mm === 1 ? 1e-3 : 1e-4) : 1;
      return values[i]! * scale * this.mm;
    }
    return null;
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

  /** Line of each N number. */
  sequence(): Map<number, number> {
    return (this.sequenceLines ??= this.index(N));
  }

  /** Line of each O number. */
  programs(): Map<number, number> {
    return (this.programLines ??= this.index(O));
  }

  private index(letter: number): Map<number, number> {
    const found = new Map<number, number>();
    const scratch = emptyBlock();
    for (let i = 0; i < this.lines; i += 1) {
      scanBlock(this.text, this.bounds[i * 2]!, this.bounds[i * 2 + 1]!, scratch);
      if (scratch.count > 0 && scratch.letters[0] === letter && !found.has(scratch.values[0]!))
        found.set(scratch.values[0]!, i);
    }
    return found;
  }
}
