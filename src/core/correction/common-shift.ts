import type { RegisterRole } from '../inspection/feature.ts';

/** What one row needs for its size to stand on target, by what was measured of a set-up: nanometres, with its standard error. */
export interface RowNeed {
  tool: number;
  row: number;
  role: RegisterRole;
  need: number;
  error: number;
}

export interface CommonShift {
  role: RegisterRole;
  /** What all of them need, and its standard error. */
  by: number;
  error: number;
  rows: readonly RowNeed[];
  /** How likely it is one cause and not so many tools that happen to be off alike. */
  likely: number;
}

/** Rows in one direction: what a work offset, or a machine that is warmer than when its tools were measured, moves together. */
const TOGETHER: readonly RegisterRole[] = ['lengthWear', 'xWear', 'zWear'];
/** Tools that were measured one by one stand this far from each other (common practice, no source). */
const MEASURED = 4_000;
/** One set-up in so many stands off as a whole (common practice, no source). */
const ONE_IN = 5;
/** So likely it is said. */
const SAID = 0.9;

/**
 * Whether the rows of a set-up that was measured for the first time all need the same change: then it is one cause, the work offset,
 * how the part sits, a cold machine, and not each of the tools (H14: a position error is a work-offset matter, not wear). Two
 * explanations are weighed: each tool is off by something of its own, about as far as these are; or all are off by one amount, and
 * each by no more than tools are that were measured one by one.
 *
 * @param needs one of each tool and direction; those of a direction are held against each other
 * @returns null: nothing speaks for it, or it cannot be told
 */
export function commonShift(needs: readonly RowNeed[]): CommonShift | null {
  const found = TOGETHER.flatMap((role) => {
    const own = needs.filter((each) => each.role === role);
    const shift = of(role, own);
    return shift ? [shift] : [];
  });
  return found.sort((a, b) => b.likely - a.likely)[0] ?? null;
}

function of(role: RegisterRole, rows: readonly RowNeed[]): CommonShift | null {
  const apart = Math.sqrt(rows.reduce((sum, { need }) => sum + need ** 2, 0) / rows.length);
  const single = rows.reduce((sum, { need, error }) => sum + logNormal(need, apart ** 2 + error ** 2), 0);
  // all are off by one amount of that size: what is left of each is small. By way of the chain rule, one row after the other.
  let [mean, variance, together] = [0, apart ** 2, 0];
  for (const { need, error } of rows) {
    const own = MEASURED ** 2 + error ** 2;
    together += logNormal(need - mean, variance + own);
    const gain = variance / (variance + own);
    mean += gain * (need - mean);
    variance *= 1 - gain;
  }
  const odds = Math.exp(together - single) / (ONE_IN - 1);
  const likely = odds / (1 + odds);
  return likely >= SAID ? { role, by: mean, error: Math.sqrt(variance), rows, likely } : null;
}

const logNormal = (off: number, variance: number) => -0.5 * (off ** 2 / variance + Math.log(variance));
