/** How an edge ended, as it is told with one tap at its renewal. */
export const EDGE_ENDS = ['good', 'worn', 'chipped', 'broken', 'early', 'unknown'] as const;
export type EdgeEnd = (typeof EDGE_ENDS)[number];

/** What it was that told of wear. */
export const WEAR_SIGNS = ['size', 'finish', 'burr', 'load'] as const;
export type WearSign = (typeof WEAR_SIGNS)[number];

export const EDGE_END_WORDS: Readonly<Record<EdgeEnd, string>> = {
  good: 'limit reached, still good',
  worn: 'worn',
  chipped: 'chipped',
  broken: 'broken',
  early: 'changed early',
  unknown: 'not known',
};

/** One edge: how long it lasted, in units of its counter, and how it ended. */
export interface EdgeLife {
  life: number;
  end: EdgeEnd;
}

/** Whether the edge came to its own end; else it was taken out before, and would have lasted longer: it is censored. */
export const failed = ({ end }: EdgeLife) => end === 'worn' || end === 'chipped' || end === 'broken';
/** Whether it ended without a warning, at the cost of a part or a stop. */
export const sudden = ({ end }: EdgeLife) => end === 'chipped' || end === 'broken';

/** A step of a survival curve. */
export interface SurvivalStep {
  at: number;
  atRisk: number;
  events: number;
  survival: number;
  /** Of 95 in 100. */
  low: number;
  high: number;
}

const Z95 = 1.959964;

/**
 * The share of edges that lasts longer, as it was seen: the product over all ends of the share that survived each (E. L. Kaplan and
 * P. Meier 1958). Edges that were taken out at the age of an end count as at risk there. Limits by M. Greenwood's variance on the scale
 * of log(−log), which keeps them between nothing and all.
 */
export function kaplanMeier(edges: readonly EdgeLife[]): SurvivalStep[] {
  const ends = [...new Set(edges.filter(failed).map(({ life }) => life))].sort((a, b) => a - b);
  let survival = 1;
  let greenwood = 0;
  return ends.map((at) => {
    const atRisk = edges.filter(({ life }) => life >= at).length;
    const events = edges.filter((edge) => failed(edge) && edge.life === at).length;
    survival *= 1 - events / atRisk;
    greenwood += atRisk === events ? Infinity : events / (atRisk * (atRisk - events));
    if (survival === 0) return { at, atRisk, events, survival, low: 0, high: 1 };
    const spread = (Z95 * Math.sqrt(greenwood)) / Math.abs(Math.log(survival));
    return {
      at,
      atRisk,
      events,
      survival,
      low: survival ** Math.exp(spread),
      high: survival ** Math.exp(-spread),
    };
  });
}
