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
 * The lit part of a disc as an SVG path: the right-hand edge is a half circle, the terminator half an ellipse. `share` of the
 * diameter along the middle is lit, which is how a phase is read at a glance.
 *
 * @param disc its middle and radius; of radius 1 about nought if nothing else is said
 */
export function litPath(share: number, disc = { x: 0, y: 0, radius: 1 }): string {
  if (share <= 0) return '';
  const lit = share >= 1 ? 1 : Math.max(LEAST_LIT, share);
  const { x, y, radius } = disc;
  const [left, r, top, bottom] = [x, radius, y - radius, y + radius].map(rounded);
  const half = rounded(Math.abs(1 - 2 * lit) * radius);
  return `M${left} ${top}A${r} ${r} 0 0 1 ${left} ${bottom}A${half} ${r} 0 0 ${lit > 0.5 ? 1 : 0} ${left} ${top}Z`;
}
const rounded = (value: number) => String(Math.round(value * 1000) / 1000);
