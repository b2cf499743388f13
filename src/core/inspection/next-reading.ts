/** Moments at which a size is measured whatever its interval. */
export const MOMENTS = ['renewal', 'shiftEnd'] as const;
export type Moment = (typeof MOMENTS)[number];
export const MOMENT_WORDS: Readonly<Record<Moment, string>> = {
  renewal: 'after a renewal',
  shiftEnd: 'at the end of a shift',
};

/** A feature of the running job, as far as choosing what to measure next needs it. */
export interface MeasuredFeature {
  id: number;
  /** Part of this job at which it was last measured; null when it was not, or only in another job. */
  lastPart: number | null;
  /** A correction of it was keyed and no part was measured since: nobody knows yet whether it took. */
  unjudged: boolean;
  /** Measured every so many parts; null: by turns. */
  every: number | null;
  also: readonly Moment[];
  /** An edge that cuts it was changed since it was last measured. */
  renewed: boolean;
  /** It was measured in what is left of this shift. */
  lately: boolean;
  /** It was measured on this job, but not in one of the places that the same row cuts, or not on the pallet that is cut now; null: wherever it is cut. */
  left: 'place' | 'pallet' | null;
}

export interface NextReading {
  id: number;
  why:
    | 'afterCorrection'
    | 'afterRenewal'
    | 'notYet'
    | 'placeNotYet'
    | 'due'
    | 'shiftEnd'
    | 'palletNotYet'
    | 'longestAgo';
  /** Parts made since it was measured; null when it was not measured on this job. */
  ago: number | null;
  every: number | null;
}

/** From so long before the end of a shift on, what is measured then is due. */
export const SHIFT_END_MINUTES = 30;

/**
 * What to measure next, most urgent first (H14): what was corrected and not measured since, because only a part tells whether the
 * correction took; then what has a new edge and was not measured since; then what was never measured on this job; then what was not in
 * one of the places that one row cuts, since a place may stand off another (common practice, no source); then what its
 * interval, or the end of the shift, makes due, the longest overdue first; then what was not measured on the pallet that is cut now: in
 * a shop of many pallets that would be each part, so it is no duty; then what was measured the most parts ago. Features of
 * one urgency keep the order of the measuring plan.
 */
export function nextReadings(
  features: readonly MeasuredFeature[],
  made: number,
  shiftEnds = false,
): NextReading[] {
  const urgency = {
    afterCorrection: 0,
    afterRenewal: 1,
    notYet: 2,
    placeNotYet: 3,
    due: 4,
    shiftEnd: 5,
    palletNotYet: 6,
    longestAgo: 7,
  } as const;
  return features
    .map((feature): NextReading & { over: number } => {
      const ago = feature.lastPart === null ? null : Math.max(0, made - feature.lastPart);
      const over = ago === null || feature.every === null ? 0 : ago / feature.every;
      const why = feature.unjudged
        ? 'afterCorrection'
        : feature.renewed && feature.also.includes('renewal')
          ? 'afterRenewal'
          : ago === null
            ? 'notYet'
            : feature.left === 'place'
              ? 'placeNotYet'
              : over >= 1
                ? 'due'
                : shiftEnds && feature.also.includes('shiftEnd') && !feature.lately
                  ? 'shiftEnd'
                  : feature.left === 'pallet'
                    ? 'palletNotYet'
                    : 'longestAgo';
      return { id: feature.id, why, ago, every: feature.every, over };
    })
    .sort(
      (a, b) =>
        urgency[a.why] - urgency[b.why] ||
        (a.why === 'due' ? b.over - a.over : 0) ||
        (b.ago ?? 0) - (a.ago ?? 0),
    )
    .map(({ id, why, ago, every }) => ({ id, why, ago, every }));
}

/** How often it is measured, in words. */
export const rhythmWords = (every: number) => (every === 1 ? 'every part' : `every ${every} parts`);

/** Why a feature comes next, as a half sentence. */
export function nextReadingWords({ why, ago, every }: Omit<NextReading, 'id'>): string {
  if (why === 'afterCorrection')
    return 'corrected since it was last measured: this part tells whether it took';
  if (why === 'afterRenewal') return 'its edge is new and was not measured since';
  if (why === 'notYet' || ago === null) return 'not measured in this run yet';
  if (why === 'palletNotYet') return 'not measured on this pallet yet';
  if (why === 'placeNotYet') return 'not measured in this place of the cycle yet';
  const last =
    ago === 0 ? 'measured on this part' : `last measured ${ago === 1 ? 'one part' : `${ago} parts`} ago`;
  if (why === 'shiftEnd') return `the shift ends: ${last}`;
  if (every === null) return last;
  return why === 'due' ? `due, ${rhythmWords(every)}: ${last}` : `${last}, ${rhythmWords(every)}`;
}
