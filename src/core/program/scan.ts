/**
 * One block of word-address text (ISO 6983 / RS-274 family) cut into words. The block object is reused from
 * line to line, because a long program has millions of words.
 */
export interface Block {
  letters: number[];
  values: number[];
  /** Whether the number was written with a decimal point: X100 and X100. differ on some controls. */
  pointed: boolean[];
  count: number;
  /** A bit for each letter that stands in the block, A the lowest: most questions of a block end here. */
  present: number;
  remark: string;
  deletable: boolean;
  /** The first stretch that is neither a word nor a remark. */
  strange: string;
  /** A variable or an expression stands where a number is expected, or the block is macro logic. */
  macro: boolean;
}

export const emptyBlock = (): Block => ({
  letters: [],
  values: [],
  pointed: [],
  count: 0,
  present: 0,
  remark: '',
  deletable: false,
  strange: '',
  macro: false,
});

/** The splitting of a text into lines, by index only: [start, end) pairs in one flat array. */
export function lineBounds(text: string): number[] {
  const bounds: number[] = [];
  let start = 0;
  while (start <= text.length) {
    let end = text.indexOf('\n', start);
    if (end < 0) end = text.length;
    bounds.push(start, end > start && text.charCodeAt(end - 1) === 13 ? end - 1 : end);
    start = end + 1;
  }
  if (bounds.length > 2 && bounds.at(-1) === bounds.at(-2)) bounds.length -= 2;
  return bounds;
}

const isDigit = (code: number) => code >= 48 && code <= 57;

/** Fills `block` from text[start, end). Never throws; what it cannot read stands in `strange`. */
export function scanBlock(text: string, start: number, end: number, block: Block): void {
  block.count = 0;
  block.present = 0;
  block.remark = '';
  block.deletable = false;
  block.strange = '';
  block.macro = false;
  let at = start;
  while (at < end) {
    const code = text.charCodeAt(at);
    if (code <= 32 || code === 37) {
      at += 1;
    } else if (code === 40 || code === 59) {
      at = readRemark(text, at, end, block);
    } else if (code === 47) {
      if (block.count === 0) block.deletable = true;
      at += 1;
    } else {
      const letter = code & ~32;
      if (letter >= 65 && letter <= 90) at = readWord(text, at, end, letter, block);
      else if (code === 35 || code === 91) {
        block.macro = true;
        return;
      } else if (code === 58) {
        at += 1;
      } else {
        if (block.strange === '') block.strange = text.slice(at, Math.min(end, at + 20));
        at += 1;
      }
    }
  }
}

function readRemark(text: string, at: number, end: number, block: Block): number {
  if (text.charCodeAt(at) === 59) {
    block.remark = text.slice(at + 1, end).trim();
    return end;
  }
  let close = text.indexOf(')', at);
  if (close < 0 || close > end) close = end;
  const inside = text.slice(at + 1, close).trim();
  block.remark = block.remark ? `${block.remark} ${inside}` : inside;
  return close + 1;
}

function readWord(text: string, from: number, end: number, letter: number, block: Block): number {
  let at = from + 1;
  while (at < end && text.charCodeAt(at) === 32) at += 1;
  let negative = false;
  let code = at < end ? text.charCodeAt(at) : 0;
  if (code === 45 || code === 43) {
    negative = code === 45;
    at += 1;
    code = at < end ? text.charCodeAt(at) : 0;
  }
  if (code === 35 || code === 91) {
    block.macro = true;
    return skipExpression(text, at, end);
  }
  let value = 0;
  let scale = 0;
  let digits = 0;
  while (at < end) {
    code = text.charCodeAt(at);
    if (isDigit(code)) {
      value = value * 10 + (code - 48);
      scale *= 10;
      digits += 1;
    } else if (code === 46 && scale === 0) scale = 1;
    else break;
    at += 1;
  }
  if (digits === 0) {
    if (isMacroLogic(text, from, end)) {
      block.macro = true;
      return end;
    }
    if (block.strange === '') block.strange = text.slice(from, Math.min(end, from + 20));
    return Math.max(at, from + 1);
  }
  const index = block.count;
  block.letters[index] = letter;
  block.values[index] = (negative ? -value : value) / (scale || 1);
  block.pointed[index] = scale > 0;
  block.count = index + 1;
  block.present |= 1 << (letter - 65);
  return at;
}

const isMacroLogic = (text: string, from: number, end: number) =>
  /^(IF|WHILE|GOTO|THEN|DO|END|EQ|NE|GT|LT|GE|LE)/i.test(text.slice(from, Math.min(end, from + 6)));

function skipExpression(text: string, from: number, end: number): number {
  let depth = 0;
  let at = from;
  while (at < end) {
    const code = text.charCodeAt(at);
    if (code === 91) depth += 1;
    else if (code === 93) depth -= 1;
    else if (depth === 0 && code !== 35 && code !== 46 && !isDigit(code)) break;
    at += 1;
  }
  return at;
}
