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
