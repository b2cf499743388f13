/** Words by which a tool is called left-hand where no field says it: "LH", "L.H.", "left-hand" (common practice, no source). */
const LEFT = /\bL\.?H\b\.?|\bleft[- ]?hand(?:ed)?\b/i;

/** Whether a name or a remark says that a tool is left-hand: one that cuts with the spindle turning counter-clockwise (M4). */
export const saysLeftHand = (words: string): boolean => LEFT.test(words);
