import type { ReaderState } from './reader-state.ts';

/** No position of a machine lies further out, in inches, which is the larger of the two. */
const FAR = 100_000 / 25.4;
const [SPACE, MINUS, POINT, NOUGHT, NINE] = [32, 45, 46, 48, 57];
const [F, G, N, X, Y, Z] = [70, 71, 78, 88, 89, 90];

/**
 * Straight cuts on a mill, one block after the other, with nothing in them but X, Y, Z, a feed, a number and the motion that is in force:
 * nearly all blocks of a path of a mould. They are taken together, with the figures that block by block would come out, to the last
 * digit; the first block with anything else in it is left to the reader of whole blocks.
 */
export class Streak {
  private readonly state: ReaderState;
  /** Where the last number ended. */
  private at = 0;

  constructor(state: ReaderState) {
    this.state = state;
  }

  /** Whether what is in force lets cuts be taken together: the cut before them has shown everything that they could show. */
  private get ready(): boolean {
    const { state } = this;
    const { cut } = state;
    return (
      state.shown &&
      state.motion === 1 &&
      state.absolute &&
      state.cycle === null &&
      !state.frame.isMoved &&
      !state.inverseTime &&
      !cut.perRevolution &&
      cut.surface === 0 &&
      cut.feed > 0 &&
      state.recorder.mills
    );
  }

  /**
   * Takes blocks together.
   * @param line index of the first @param end index behind the last that may be taken
   * @returns index of the first line that was not taken
   */
  take(line: number, end: number): number {
    const { state } = this;
    if (!this.ready) return line;
    const { words, recorder, at } = state;
    const { text, bounds, mm } = words;
    const every = state.dialect.pointless === 'asWritten';
    let { x, y, z } = at;
    let { feed } = state.cut;
    const path = recorder.path()!;
    let { millimetres, seconds, deepest } = path;
    let [leastX, mostX, leastY, mostY] = [x, x, y, y];
    let { highest } = state;
    let slowest = Infinity;
    let fastest = 0;
    let now = line;
    for (; now < end; now += 1) {
      let from = bounds[now * 2]!;
      const stop = bounds[now * 2 + 1]!;
      let [toX, toY, toZ, toF] = [x, y, z, feed];
      let seen = 0;
      while (from < stop) {
        const letter = text.charCodeAt(from);
        if (letter === SPACE) {
          from += 1;
          continue;
        }
        const value = this.number(text, from + 1, stop);
        from = this.at;
        if (from < 0) break;
        if (letter === X || letter === Y || letter === Z) {
          const bit = 1 << (letter - X);
          if ((seen & bit) !== 0 || value > FAR || value < -FAR || !(every || this.pointed)) {
            from = -1;
            break;
          }
          seen |= bit;
          if (letter === X) toX = value * mm;
          else if (letter === Y) toY = value * mm;
          else toZ = value * mm;
        } else if (letter === F) {
          if ((seen & 8) !== 0 || !(value > 0)) {
            from = -1;
            break;
          }
          seen |= 8;
          toF = value * mm;
        } else if (letter === N) {
          if ((seen & 16) !== 0) {
            from = -1;
            break;
          }
          seen |= 16;
        } else if (letter !== G || value !== 1) {
          from = -1;
          break;
        }
      }
      // something else stands in it, or nothing at all
      if (from < 0 || seen === 0) break;
      feed = toF;
      if ((seen & 7) === 0) continue;
      const [dx, dy, dz] = [toX - x, toY - y, toZ - z];
      const distance = Math.sqrt(dx * dx + dy * dy + dz * dz);
      if (distance > 0) {
        millimetres += distance;
        seconds += (distance / feed) * 60;
        const low = z < toZ ? z : toZ;
        if (low < deepest) deepest = low;
        if (feed < slowest) slowest = feed;
        if (feed > fastest) fastest = feed;
      }
      if (toX < leastX) leastX = toX;
      else if (toX > mostX) mostX = toX;
      if (toY < leastY) leastY = toY;
      else if (toY > mostY) mostY = toY;
      if (highest !== null && toZ > highest) highest = toZ;
      [x, y, z] = [toX, toY, toZ];
    }
    if (now === line) return line;
    recorder.names.words();
    path.millimetres = millimetres;
    path.seconds = seconds;
    path.deepest = deepest;
    if (fastest > 0) recorder.feeds(slowest, fastest);
    recorder.reaches(state.workOffset, { x: leastX, y: leastY, z }, state.known);
    recorder.reaches(state.workOffset, { x: mostX, y: mostY, z }, state.known);
    recorder.see(now);
    state.cut.feed = feed;
    state.highest = highest;
    state.at = { x, y, z };
    state.work += now - line;
    return now;
  }

  private pointed = false;

  /** The number at a place, as the scanner of blocks reads it; `at` is then behind it, or -1 where none stands there. */
  private number(text: string, from: number, stop: number): number {
    let at = from;
    let code = at < stop ? text.charCodeAt(at) : 0;
    const negative = code === MINUS;
    if (negative) code = ++at < stop ? text.charCodeAt(at) : 0;
    let value = 0;
    let scale = 0;
    let digits = 0;
    for (;;) {
      if (code >= NOUGHT && code <= NINE) {
        value = value * 10 + (code - NOUGHT);
        scale *= 10;
        digits += 1;
      } else if (code === POINT && scale === 0) scale = 1;
      else break;
      at += 1;
      if (at >= stop) break;
      code = text.charCodeAt(at);
    }
    this.pointed = scale > 0;
    this.at = digits === 0 ? -1 : at;
    const plain = negative ? -value : value;
    return scale > 1 ? plain / scale : plain;
  }
}
