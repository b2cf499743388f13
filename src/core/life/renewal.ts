/**
 * The steps of a renewal, in the order they are taken (H11): change the edge or the tool, set the remaining life,
 * clear the expired flag; and then measure again and zero the wear, since the old edge's wear is not the new one's.
 */
export const RENEWAL_STEPS = ['changed', 'lifeSet', 'flagCleared', 'measured', 'wearZeroed'] as const;
export type RenewalStep = (typeof RENEWAL_STEPS)[number];

export const RENEWAL_WORDS: Readonly<Record<RenewalStep, string>> = {
  changed: 'Change the edge or the tool',
  lifeSet: 'Set the life left',
  flagCleared: 'Clear the expired flag',
  measured: 'Measure again',
  wearZeroed: 'Zero the wear',
};

/** The step that comes next, or null when all are done. */
export const nextStep = (done: readonly RenewalStep[]): RenewalStep | null =>
  RENEWAL_STEPS.find((step) => !done.includes(step)) ?? null;

/** Why a step can't be taken now, or null. */
export function renewalRefusal(done: readonly RenewalStep[], step: RenewalStep): string | null {
  const next = nextStep(done);
  if (next === null) return 'This renewal is finished.';
  if (done.includes(step)) return `"${RENEWAL_WORDS[step]}" is already done.`;
  return next === step ? null : `"${RENEWAL_WORDS[next]}" comes first.`;
}
