import { isDigit } from './scan.ts';

/** A value that a variable may have: a number, nothing at all (vacant), or what nobody knows, and because of what. */
export type Value = number | null | Unknown;
export interface Unknown {
  because: string;
}
export const unknown = (because: string): Unknown => ({ because });
export const isUnknown = (value: Value): value is Unknown => typeof value === 'object' && value !== null;

/** Brackets deeper than this are nobody's program. */
const DEEPEST = 40;
const DEGREES = Math.PI / 180;

const FUNCTIONS: Readonly<Record<string, (value: number) => number>> = {
  SIN: (value) => Math.sin(value * DEGREES),
  COS: (value) => Math.cos(value * DEGREES),
  TAN: (value) => Math.tan(value * DEGREES),
  ASIN: (value) => Math.asin(value) / DEGREES,
  ACOS: (value) => Math.acos(value) / DEGREES,
  SQRT: Math.sqrt,
  SQR: Math.sqrt,
  ABS: Math.abs,
  ROUND: Math.round,
  RND: Math.round,
  FIX: Math.trunc,
  FUP: (value) => (value < 0 ? Math.floor(value) : Math.ceil(value)),
  LN: Math.log,
  EXP: Math.exp,
};

const truth = (said: boolean) => (said ? 1 : 0);
const BINARY: Readonly<Record<string, (a: number, b: number) => number>> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  MOD: (a, b) => a % b,
  AND: (a, b) => a & b,
  OR: (a, b) => a | b,
  XOR: (a, b) => a ^ b,
};
const COMPARED: Readonly<Record<string, (a: number, b: number) => boolean>> = {
  EQ: (a, b) => a === b,
  NE: (a, b) => a !== b,
  GT: (a, b) => a > b,
  GE: (a, b) => a >= b,
  LT: (a, b) => a < b,
  LE: (a, b) => a <= b,
};
const [SUMS, PRODUCTS] = [
  ['+', '-', 'OR', 'XOR'],
  ['*', '/', 'MOD', 'AND'],
];

/**
 * A reader of expressions as macros of this family write them: variables, sums, products, comparisons and functions, angles in degrees,
 * brackets square. Vacant counts as nought but in EQ and NE, where only vacant equals vacant.
 */
export class Expression {
  private depth = 0;
  at: number;
  private readonly text: string;
  private readonly end: number;
  private readonly variable: (number: number) => Value;

  constructor(text: string, at: number, end: number, variable: (number: number) => Value) {
    this.text = text;
    this.at = at;
    this.end = end;
    this.variable = variable;
  }

  /** The value from here on as far as it goes; unknown where it is not an expression. */
  value(): Value {
    const left = this.sum();
    const word = this.takeWord(Object.keys(COMPARED));
    if (word === null) return left;
    const right = this.sum();
    if (isUnknown(left)) return left;
    if (isUnknown(right)) return right;
    // vacant against vacant; against a number it is none
    if ((word === 'EQ' || word === 'NE') && (left === null || right === null))
      return truth((left === right) === (word === 'EQ'));
    return truth(COMPARED[word]!(left ?? 0, right ?? 0));
  }

  private sum = (): Value => this.chain(SUMS!, () => this.chain(PRODUCTS!, () => this.factor()));

  private chain(words: readonly string[], next: () => Value): Value {
    let left = next();
    for (let word = this.takeWord(words); word !== null; word = this.takeWord(words)) {
      const right = next();
      if (isUnknown(left)) continue;
      left = isUnknown(right) ? right : finite(BINARY[word]!(left ?? 0, right ?? 0));
    }
    return left;
  }

  private factor(): Value {
    this.spaces();
    const code = this.at < this.end ? this.text.charCodeAt(this.at) : 0;
    if ((this.depth += 1) > DEEPEST) return this.lost();
    try {
      if (code === 45 || code === 43) {
        this.at += 1;
        const value = this.factor();
        return isUnknown(value) ? value : code === 45 ? -(value ?? 0) : value;
      }
      if (code === 35) {
        this.at += 1;
        const number = this.factor();
        return isUnknown(number) ? number : this.variable(number ?? 0);
      }
      if (code === 91) return this.bracket();
      if (isDigit(code) || code === 46) return this.number();
      return this.called();
    } finally {
      this.depth -= 1;
    }
  }

  private called(): Value {
    const name = this.takeWord(['ATAN', ...Object.keys(FUNCTIONS)]);
    if (name === null) return this.lost();
    const value = this.bracket();
    if (name === 'ATAN') {
      const over = this.takeWord(['/']) === null ? 1 : this.bracket();
      if (isUnknown(value)) return value;
      return isUnknown(over) ? over : finite(Math.atan2(value ?? 0, over ?? 0) / DEGREES);
    }
    return isUnknown(value) ? value : finite(FUNCTIONS[name]!(value ?? 0));
  }

  private bracket(): Value {
    this.spaces();
    if (this.text.charCodeAt(this.at) !== 91 || this.at >= this.end) return this.lost();
    this.at += 1;
    const value = this.value();
    this.spaces();
    if (this.at >= this.end || this.text.charCodeAt(this.at) !== 93) return this.lost();
    this.at += 1;
    return value;
  }

  private number(): Value {
    const from = this.at;
    while (this.at < this.end && (isDigit(this.text.charCodeAt(this.at)) || this.text[this.at] === '.'))
      this.at += 1;
    const value = Number(this.text.slice(from, this.at));
    return Number.isFinite(value) ? value : this.lost();
  }

  private takeWord(words: readonly string[]): string | null {
    this.spaces();
    const ahead = this.text.slice(this.at, Math.min(this.end, this.at + 5)).toUpperCase();
    // the longest that fits: SQRT, not SQR
    let found: string | null = null;
    for (const word of words)
      if (ahead.startsWith(word) && (found === null || word.length > found.length)) found = word;
    if (found !== null) this.at += found.length;
    return found;
  }

  private spaces(): void {
    while (this.at < this.end && this.text.charCodeAt(this.at) <= 32) this.at += 1;
  }

  private lost(): Unknown {
    return unknown(`"${this.text.slice(this.at, Math.min(this.end, this.at + 16)).trim()}"`);
  }
}

const finite = (value: number): Value =>
  Number.isFinite(value) ? value : unknown('a sum that has no value');
