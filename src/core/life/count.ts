/** How a tool's life is counted (H11). */
export const LIFE_BASES = ['pieces', 'holes', 'minutes'] as const;
export type LifeBasis = (typeof LIFE_BASES)[number];

/** Where a control's counter expires: when remaining reaches zero, or only when it falls below (H11). */
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

/** Counter units used by `parts` parts, rounded up: a started cycle's use is not given back. */
export function usedBy(parts: number, basis: LifeBasis, use: CycleUse): number {
  if (basis === 'pieces') return parts;
  const perCycle = basis === 'holes' ? use.holes : use.cutMilliseconds;
  return Math.ceil((parts * perCycle) / Math.max(1, use.parts));
}

export const isExpired = (remaining: number, rule: ExpiryRule) =>
  rule === 'atZero' ? remaining <= 0 : remaining < 0;

/** The number to key into a control to get exactly `uses` uses: N, or N − 1 where it expires below zero (H11). */
export const numberToKey = (uses: number, rule: ExpiryRule) => (rule === 'atZero' ? uses : uses - 1);

/**
 * Parts a tool still makes before it is expired, counting the one in which it expires: a tool that expires in
 * the cut finishes its part (H11). Infinity when the program takes nothing from its counter.
 */
export function partsLeft(remaining: number, basis: LifeBasis, use: CycleUse, rule: ExpiryRule): number {
  if (isExpired(remaining, rule)) return 0;
  const perCycle =
    basis === 'pieces' ? Math.max(1, use.parts) : basis === 'holes' ? use.holes : use.cutMilliseconds;
  if (perCycle <= 0) return Infinity;
  const perPart = perCycle / Math.max(1, use.parts);
  return rule === 'atZero' ? Math.ceil(remaining / perPart) : Math.floor(remaining / perPart) + 1;
}
