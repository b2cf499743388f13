import type { Finding } from './question.ts';

/** What somebody let stand, in its very words, until a day. */
export interface Waiver {
  code: string;
  sentence: string;
  why: string;
  person: string;
  /** The last day it stands, in words. */
  until: string;
}

/** How long something may be let stand, days: longer than that it is to be mended. */
export const LONGEST_WAIVER = 90;

/** What is settled by proving, looking or calibrating, and never by letting it stand. */
const DONE_NOT_LET = new Set<Finding['code']>(['notProven', 'boringShift', 'probe']);

/** Whether a finding may be let stand at all: only what somebody is to look at. */
export const mayStand = ({ weight, code }: Pick<Finding, 'weight' | 'code'>): boolean =>
  weight === 'look' && !DONE_NOT_LET.has(code);

/**
 * Findings with what was let stand: that is no longer to be looked at, and shown with who, why and until when. Only what somebody is to look
 * at can be: what stops a job is mended, or its start is signed for; what cannot be told is settled. By its very words: when a figure
 * changes it is another matter, and comes back.
 */
export const withWaivers = (findings: readonly Finding[], waivers: readonly Waiver[]): Finding[] =>
  findings.map((finding) => {
    const waiver =
      mayStand(finding) &&
      waivers.findLast(({ code, sentence }) => code === finding.code && sentence === finding.sentence);
    if (!waiver) return finding;
    return {
      ...finding,
      weight: 'settled',
      remedy: `${waiver.person} lets it stand until ${waiver.until}: ${waiver.why}`,
    };
  });
