import type { Block } from './block.ts';

export const isDigit = (code: number) => code >= 48 && code <= 57;

/** Fills `block` from text[start, end). Never throws; what it cannot read stands in `strange`. */
export function scanBlock(text: string, start: number, end: number, block: Block): void {
  block.count = 0;
  block.expressions = 0;
  block.present = 0;
  block.remark = '';
  block.deletable = 0;
  block.strange = '';
  block.name = '';
  block.logic = -1;
  let at = start;
  while (at < end) {
    const code = text.charCodeAt(at);
    if (code <= 32 || code === 37) {
      at += 1;
    } else if (code === 40 || code === 59) {
      at = readRemark(text, at, end, block);
    } else if (code === 47) {
      at = readDelete(text, at, end, block);
    } else {
      const letter = code & ~32;
      if (letter >= 65 && letter <= 90 && (code >= 97 || code <= 90))
        at = readWord(text, at, end, letter, block);
      else if (code === 35 || code === 91) {
        block.logic = at;
        return;
      } else if (code === 34 || code === 60) at = readName(text, at, end, block);
      // a corner rounded or broken: ",R0.5" bends the path and nothing else
      else if (code === 44) at = skipWord(text, at + 1, end);
      else if (code === 58 && block.count === 0) at = readWord(text, at, end, 79, block);
      else {
        note(block, text, at, end);
        at += 1;
      }
      if (block.logic >= 0) return;
    }
  }
}

function note(block: Block, text: string, at: number, end: number) {
  if (block.strange === '') block.strange = text.slice(at, Math.min(end, at + 20));
}

/** The end of the line or `sign`, whichever comes first: never further, however long the text is. */
function until(text: string, at: number, end: number, sign: number): number {
  while (at < end && text.charCodeAt(at) !== sign) at += 1;
  return at;
}

function readRemark(text: string, at: number, end: number, block: Block): number {
  const close = text.charCodeAt(at) === 59 ? end : until(text, at, end, 41);
  const inside = text.slice(at + 1, close).trim();
  block.remark = block.remark ? `${block.remark} ${inside}` : inside;
  return close + 1;
}

function readDelete(text: string, at: number, end: number, block: Block): number {
  // behind a sequence number it is still the stroke of the block
  if (block.count > 1 || (block.count === 1 && block.letters[0] !== 78)) {
    note(block, text, at, end);
    return at + 1;
  }
  const level = text.charCodeAt(at + 1);
  const named = at + 1 < end && level >= 49 && level <= 57;
  block.deletable = named ? level - 48 : 1;
  return at + (named ? 2 : 1);
}

function readName(text: string, at: number, end: number, block: Block): number {
  const close = until(text, at + 1, end, text.charCodeAt(at) === 34 ? 34 : 62);
  block.name = text.slice(at + 1, close).trim();
  return close + 1;
}

function skipWord(text: string, at: number, end: number): number {
  while (at < end && text.charCodeAt(at) <= 32) at += 1;
  at += 1;
  while (at < end && (isDigit(text.charCodeAt(at)) || '+-.'.includes(text[at]!))) at += 1;
  return at;
}

function readWord(text: string, from: number, end: number, letter: number, block: Block): number {
  let at = from + 1;
  while (at < end && text.charCodeAt(at) === 32) at += 1;
  const begins = at;
  let negative = false;
  let code = at < end ? text.charCodeAt(at) : 0;
  if (code === 45 || code === 43) {
    negative = code === 45;
    at += 1;
    code = at < end ? text.charCodeAt(at) : 0;
  }
  const index = block.count;
  if (code === 35 || code === 91) {
    at = skipExpression(text, at, end);
    put(block, index, letter, NaN, false, 0);
    block.from[index] = begins;
    block.to[index] = at;
    block.expressions += 1;
    return at;
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
    if (isLogic(text, from, end)) {
      block.logic = from;
      return end;
    }
    note(block, text, from, end);
    return Math.max(at, from + 1);
  }
  const plain = negative ? -value : value;
  put(block, index, letter, scale > 1 ? plain / scale : plain, scale > 0, digits);
  return at;
}

function put(
  block: Block,
  index: number,
  letter: number,
  value: number,
  pointed: boolean,
  digits: number,
): void {
  block.letters[index] = letter;
  block.values[index] = value;
  block.pointed[index] = pointed;
  block.digits[index] = digits;
  block.count = index + 1;
  block.present |= 1 << (letter - 65);
}

const LOGIC = /^(IF|WHILE|GOTO|THEN|DO|END|POPEN|PCLOS|BPRNT|DPRNT|SETVN)/i;
const isLogic = (text: string, from: number, end: number) =>
  LOGIC.test(text.slice(from, Math.min(end, from + 6)));

/** Behind `#12`, `#[…]`, `[…]`: an expression is not longer without brackets. */
function skipExpression(text: string, from: number, end: number): number {
  let depth = 0;
  let at = from;
  while (at < end) {
    const code = text.charCodeAt(at);
    if (code === 91) depth += 1;
    else if (code === 93) {
      depth -= 1;
      if (depth <= 0) return at + 1;
    } else if (depth === 0 && code !== 35 && code !== 46 && !isDigit(code)) break;
    at += 1;
  }
  return at;
}
