/** A feature of the running job, as far as choosing what to measure next needs it. */
export interface MeasuredFeature {
  id: number;
  /** Part of this job at which it was last measured; null when it was not, or only in another job. */
  lastPart: number | null;
  /** A correction of it was keyed and no part was measured since: nobody knows yet whether it took. */
  unjudged: boolean;
}

export interface NextReading {
  id: number;
  why: 'afterCorrection' | 'notYet' | 'longestAgo';
  /** Parts made since it was measured; null when it was not measured on this job. */
  ago: number | null;
}

/**
 * What to measure next, most urgent first (H14): what was corrected and not measured since, because only a part tells whether the
 * correction took; then what was never measured on this job; then what was measured the most parts ago. Features of one urgency
 * keep the order of the measuring plan. The record holds no interval of measuring, so this is an order, not a date.
 */
export function nextReadings(features: readonly MeasuredFeature[], made: number): NextReading[] {
  const urgency = { afterCorrection: 0, notYet: 1, longestAgo: 2 } as const;
  return features
    .map((feature): NextReading => {
      const ago = feature.lastPart === null ? null : Math.max(0, made - feature.lastPart);
      return {
        id: feature.id,
        why: feature.unjudged ? 'afterCorrection' : ago === null ? 'notYet' : 'longestAgo',
        ago,
      };
    })
    .sort((a, b) => urgency[a.why] - urgency[b.why] || (b.ago ?? 0) - (a.ago ?? 0));
}

/** Why a feature comes next, as a half sentence. */
export function nextReadingWords({ why, ago }: Pick<NextReading, 'why' | 'ago'>): string {
  if (why === 'afterCorrection')
    return 'corrected since it was last measured: this part tells whether it took';
  if (why === 'notYet' || ago === null) return 'not measured on this job yet';
  return ago === 0 ? 'measured on this part' : `last measured ${ago === 1 ? 'one part' : `${ago} parts`} ago`;
}
