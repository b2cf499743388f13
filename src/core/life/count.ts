/** How a tool's life is counted (H11). */
export const LIFE_BASES = ['pieces', 'holes', 'minutes'] as const;
export type LifeBasis = (typeof LIFE_BASES)[number];

/** Where a control's own counter expires: when it reaches zero, or only when it falls below (H11). */
export const EXPIRY_RULES = ['atZero', 'belowZero'] as const;
export type ExpiryRule = (typeof EXPIRY_RULES)[number];

/**
 * Life is counted in whole numbers: pieces, holes, or milliseconds in cut, so that the ledger adds up.
 * Minutes are shown; milliseconds are kept.
 */
export const MILLISECONDS_PER_MINUTE = 60_000;

/** What one cycle of a program uses of a tool. Minutes in cut are feed moves only. */
export interface CycleUse {
  holes: number;
  cutMilliseconds: number;
  /** Parts that one cycle makes: two on a bar that carries two. */
  parts: number;
}

/**
 * Counter units used by `parts` parts that follow `before` others of the same job. Rounded up once for all of them, not for each
 * count: parts of a cycle that makes two are entered one by one or both at once with the same end.
 */
export function usedBy(parts: number, basis: LifeBasis, use: CycleUse, before = 0): number {
  if (basis === 'pieces') return parts;
  const perCycle = basis === 'holes' ? use.holes : use.cutMilliseconds;
  const until = (count: number) => Math.ceil((count * perCycle) / Math.max(1, use.parts));
  return until(before + parts) - until(before);
}

/** Whether a tool is spent. The record counts uses left, on every machine; how a control writes that is `numberToKey` (H11). */
export const isExpired = (remaining: number) => remaining <= 0;

/**
 * The number to key into a control to get exactly `uses` uses: N, or N − 1 where it expires below zero and counts in whole uses
 * (H11). Minutes run on between two numbers, so that nothing is taken off them.
 */
export const numberToKey = (uses: number, rule: ExpiryRule, basis: LifeBasis) =>
  rule === 'atZero' || basis === 'minutes' ? uses : uses - 1;

/**
 * Parts a tool still makes before it is expired, counting the one in which it expires: a tool that expires in
 * the cut finishes its part (H11). Infinity when the program takes nothing from its counter.
 */
export function partsLeft(remaining: number, basis: LifeBasis, use: CycleUse): number {
  if (isExpired(remaining)) return 0;
  const perCycle =
    basis === 'pieces' ? Math.max(1, use.parts) : basis === 'holes' ? use.holes : use.cutMilliseconds;
  if (perCycle <= 0) return Infinity;
  const perPart = perCycle / Math.max(1, use.parts);
  return Math.ceil(remaining / perPart);
}
