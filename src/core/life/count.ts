/** How a tool's life is counted (H11). */
export const LIFE_BASES = ['pieces', 'holes', 'minutes', 'wear'] as const;
export type LifeBasis = (typeof LIFE_BASES)[number];

/** Where a control's own counter expires: when it reaches zero, or only when it falls below (H11). */
export const EXPIRY_RULES = ['atZero', 'belowZero'] as const;
export type ExpiryRule = (typeof EXPIRY_RULES)[number];

/**
 * Life is counted in whole numbers: pieces, holes, milliseconds in cut, or nanometres of accumulated wear correction, so that the
 * ledger adds up. Minutes and millimetres are shown.
 */
export const MILLISECONDS_PER_MINUTE = 60_000;

/** Units of a counter in what people say: a minute, a millimetre of correction, a piece, a hole. */
export const PER_SHOWN: Readonly<Record<LifeBasis, number>> = {
  pieces: 1,
  holes: 1,
  minutes: MILLISECONDS_PER_MINUTE,
  wear: 1_000_000,
};

/** A counted life: what is left and the full limit, in units of its basis. */
export interface CountedLife {
  basis: LifeBasis;
  remaining: number;
  limit: number;
  /** Of one that is counted by its wear: how much correction a part took, as far as its edges have shown; null or undefined: not known. */
  perPart?: number | null;
}

/** A number of uses, which a control counts one by one; time and wear run on between two numbers. */
export const countsWhole = (basis: LifeBasis) => basis === 'pieces' || basis === 'holes';

/** What one cycle of a program uses of a tool. Minutes in cut are feed moves only. */
export interface CycleUse {
  holes: number;
  cutMilliseconds: number;
  /** Parts that one cycle makes: two on a bar that carries two. */
  parts: number;
}

/** What one cycle takes of a tool, by all its calls. */
export const useOf = (
  calls: readonly { holes: number; cutMilliseconds: number }[],
  parts: number,
): CycleUse => ({
  holes: calls.reduce((sum, call) => sum + call.holes, 0),
  cutMilliseconds: calls.reduce((sum, call) => sum + call.cutMilliseconds, 0),
  parts,
});

/** What one cycle takes of what it calls by a number, a T or a group. */
export const cycleUse = (
  calls: readonly { tool: number; holes: number; cutMilliseconds: number }[],
  tool: number,
  parts: number,
): CycleUse =>
  useOf(
    calls.filter((call) => call.tool === tool),
    parts,
  );

/**
 * What one cycle takes of a tool by calls of its own T; null where there are none.
 *
 * @param groups of the machine: a call of the number of one calls that group, whatever tool has the same T
 */
export const ownUse = (
  calls: readonly { tool: number; holes: number; cutMilliseconds: number }[],
  tool: number,
  parts: number,
  groups: readonly { number: number }[],
): CycleUse | null =>
  calls.some((call) => call.tool === tool) && !groups.some(({ number }) => number === tool)
    ? cycleUse(calls, tool, parts)
    : null;

/** What one cycle takes by two kinds of calls; null: by neither. */
export const together = (a: CycleUse | null, b: CycleUse | null): CycleUse | null =>
  a && b
    ? {
        holes: a.holes + b.holes,
        cutMilliseconds: a.cutMilliseconds + b.cutMilliseconds,
        parts: Math.max(a.parts, b.parts),
      }
    : (a ?? b);

/** Units of a counter that one cycle takes: whole numbers, where it is not counted by wear. */
export const inCycle = ({ basis, perPart }: CountedLife, use: CycleUse): number => {
  const parts = Math.max(1, use.parts);
  return basis === 'pieces'
    ? parts
    : basis === 'wear'
      ? (perPart ?? 0) * parts
      : basis === 'holes'
        ? use.holes
        : use.cutMilliseconds;
};

/**
 * Counter units used by `parts` parts that follow `before` others of the same job. Rounded up once for all of them, not for each
 * count: parts of a cycle that makes two are entered one by one or both at once with the same end.
 */
export function usedBy(parts: number, basis: LifeBasis, use: CycleUse, before = 0): number {
  if (basis === 'pieces') return parts;
  // wear is counted when it is corrected
  if (basis === 'wear') return 0;
  const perCycle = basis === 'holes' ? use.holes : use.cutMilliseconds;
  const until = (count: number) => Math.ceil((count * perCycle) / Math.max(1, use.parts));
  return until(before + parts) - until(before);
}

/**
 * Counter units that parts took of a tool: all of them by calls of its own T, and by those of its group the ones for which it was picked.
 * A part is one piece, by however many of them.
 *
 * @param own what a cycle takes by its own T; null: it is not called by it
 * @param picked runs of parts for which the group picked it, `from` 1 the first of these parts
 */
export function usedByCalls(
  parts: number,
  basis: LifeBasis,
  own: CycleUse | null,
  picked: readonly { from: number; parts: number; use: CycleUse }[],
  before = 0,
): number {
  const alone = own ? usedBy(parts, basis, own, before) : 0;
  if (own && basis === 'pieces') return alone;
  return picked.reduce((sum, run) => sum + usedBy(run.parts, basis, run.use, before + run.from - 1), alone);
}

/** Milliseconds in cut that so many counter units stand for; null where that cannot be told: wear says nothing of time. */
export function cutTime(used: number, basis: LifeBasis, use: CycleUse): number | null {
  if (basis === 'minutes') return used;
  if (basis === 'wear') return null;
  const perCycle = basis === 'pieces' ? Math.max(1, use.parts) : use.holes;
  return perCycle > 0 ? (used / perCycle) * use.cutMilliseconds : null;
}

/** Whether a tool is spent. The record counts uses left, on every machine; how a control writes that is `numberToKey` (H11). */
export const isExpired = (remaining: number) => remaining <= 0;

/**
 * The number to key into a control to get exactly `uses` uses: N, or N − 1 where it expires below zero and counts in whole uses
 * (H11). Minutes run on between two numbers, so that nothing is taken off them.
 */
export const numberToKey = (uses: number, rule: ExpiryRule, basis: LifeBasis) =>
  rule === 'atZero' || !countsWhole(basis) ? uses : uses - 1;

/** Units of a counter that one part takes of a tool; of one that is counted by wear what a part takes, where that is known. */
export const takenByPart = (basis: LifeBasis, use: CycleUse, wearPerPart: number | null = null): number =>
  inCycle({ basis, perPart: wearPerPart, remaining: 0, limit: 0 }, use) / Math.max(1, use.parts);

/**
 * Parts a tool still makes before it is expired, counting the one in which it expires: a tool that expires in
 * the cut finishes its part (H11). Infinity when the program takes nothing from its counter, and when nobody knows how fast it wears.
 *
 * @param wearPerPart of one that is counted by wear, what a part takes
 */
export function partsLeft(
  remaining: number,
  basis: LifeBasis,
  use: CycleUse,
  wearPerPart: number | null = null,
): number {
  if (isExpired(remaining)) return 0;
  const perPart = takenByPart(basis, use, wearPerPart);
  return perPart > 0 ? Math.ceil(remaining / perPart) : Infinity;
}
