/** Parts between readings: what is shown of them, and what a correction has to reckon with. */

/** A pause of more than so many usual gaps is not expected to come again. */
const PAUSE = 5;

export interface Gaps {
  /** The middle one: "measured every 5 parts". */
  usual: number;
  /**
   * The steady gap that would have a part cut, on average, as long after its reading as these do: Σg² / Σg. Uneven gaps make more parts
   * wait in the long ones than in the short ones, so it lies above the middle one. Setting a drifting size (this − 1) / 2
   * parts ahead leaves the least square error over the parts of such gaps.
   */
  felt: number;
}

/** Gaps between the parts that were measured, in parts; `at`: their positions, in any order. Of fewer than two parts: every part. */
export function gapsOf(at: readonly number[]): Gaps {
  const parts = [...at].sort((a, b) => a - b);
  const gaps = parts
    .slice(1)
    .map((each, i) => each - parts[i]!)
    .filter((gap) => gap > 0)
    .sort((a, b) => a - b);
  const usual = gaps[gaps.length >> 1] ?? 1;
  const counted = gaps.map((gap) => Math.min(gap, PAUSE * usual));
  const sum = counted.reduce((whole, gap) => whole + gap, 0);
  return { usual, felt: sum === 0 ? 1 : counted.reduce((squares, gap) => squares + gap ** 2, 0) / sum };
}
