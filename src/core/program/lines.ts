/** A line feed, and a carriage return. */
const [LF, CR] = ['\n', 13] as const;

/** The splitting of a text into lines, by index only: [start, end) pairs in one flat array. Lines end by LF, CR LF or CR. */
export function lineBounds(text: string): Int32Array {
  let bounds = new Int32Array(Math.max(64, text.length >> 3));
  let count = 0;
  const alone = /\r(?!\n)/.test(text);
  let start = 0;
  while (start <= text.length) {
    let end = text.indexOf(LF, start);
    if (end < 0) end = text.length;
    if (alone) {
      let cr = start;
      while (cr < end && text.charCodeAt(cr) !== CR) cr += 1;
      if (cr < end && text.charCodeAt(cr + 1) !== 10) end = cr;
    }
    if (count + 2 > bounds.length) {
      const larger = new Int32Array(2 * bounds.length);
      larger.set(bounds);
      bounds = larger;
    }
    bounds[count] = start;
    bounds[count + 1] = end > start && text.charCodeAt(end - 1) === CR ? end - 1 : end;
    count += 2;
    start = end + 1;
  }
  // a text that ends with a line end has no line behind it
  if (count > 2 && bounds[count - 1] === bounds[count - 2]) count -= 2;
  return bounds.subarray(0, count);
}

/** Lines from one mark to the next. */
export const MARK_EVERY = 5000;

/**
 * Where every five-thousandth line of a text begins, in characters from 0 as a database counts them (one for each code point): with these
 * some lines out of the middle of a long text can be fetched without the rest.
 */
export function lineMarks(text: string): number[] {
  const bounds = lineBounds(text);
  const marks: number[] = [];
  const paired = /[\ud800-\udbff][\udc00-\udfff]/g;
  let pairs = 0;
  let pair = paired.exec(text);
  for (let line = 0; line < bounds.length / 2; line += MARK_EVERY) {
    const start = bounds[line * 2]!;
    for (; pair && pair.index < start; pair = paired.exec(text)) pairs += 1;
    marks.push(start - pairs);
  }
  return marks;
}

/** The lines of a text, as the reader counts them. */
export function linesIn(text: string): string[] {
  const bounds = lineBounds(text);
  return Array.from({ length: bounds.length / 2 }, (_, line) =>
    text.slice(bounds[line * 2], bounds[line * 2 + 1]),
  );
}
