/** Life left as a waning disc: how much of it is still lit, and its name (design §2). */
export type Phase = 'full' | 'gibbous' | 'half' | 'crescent' | 'spent';

export function phaseOf(share: number): Phase {
  if (share <= 0) return 'spent';
  if (share < 0.3) return 'crescent';
  if (share < 0.6) return 'half';
  return share < 0.9 ? 'gibbous' : 'full';
}

/** Share of a limit that is left, between 0 and 1. */
export const shareLeft = (remaining: number, limit: number) =>
  limit <= 0 ? 0 : Math.min(1, Math.max(0, remaining / limit));

/** A sliver that the eye can tell from a spent disc. */
const LEAST_LIT = 0.1;

/**
 * The lit part of a disc of radius 1 as an SVG path: the right-hand edge is a half circle, the terminator half
 * an ellipse. `share` of the diameter along the middle is lit, which is how a phase is read at a glance.
 */
export function litPath(share: number): string {
  if (share <= 0) return '';
  if (share < LEAST_LIT) return litPath(LEAST_LIT);
  if (share >= 1) return 'M0 -1A1 1 0 0 1 0 1A1 1 0 0 1 0 -1Z';
  const half = Math.abs(1 - 2 * share).toFixed(4);
  const bulge = share > 0.5 ? 1 : 0;
  return `M0 -1A1 1 0 0 1 0 1A${half} 1 0 0 ${bulge} 0 -1Z`;
}
