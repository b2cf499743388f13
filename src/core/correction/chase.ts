/** So many parts may be cut after the one a correction was worked out from, before somebody is asked why it was not keyed. */
export const CHASE_AFTER = 3;

/** An approved correction, the part it was worked out from, and the last part cut since; null where its job does not run. */
export interface Unkeyed {
  part: number;
  cut: number | null;
}

/** Parts cut with the old value although a new one was approved; 0 where nobody can tell. */
export const partsWithout = ({ part, cut }: Unkeyed): number => (cut === null ? 0 : Math.max(0, cut - part));

export const isChased = (each: Unkeyed): boolean => partsWithout(each) >= CHASE_AFTER;

/** What is said of it; null where it is not chased yet. */
export const chaseWords = (each: Unkeyed): string | null =>
  isChased(each)
    ? `${partsWithout(each)} parts were cut since part ${each.part} asked for it, and it is not keyed.`
    : null;
