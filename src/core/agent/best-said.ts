/** One of several things of a kind that a control says, by its data item. */
export interface Said {
  id: string;
  subType: string | null;
  /** Null: it does not know. */
  value: string | null;
  at: string;
}

/**
 * Sub-types that say what is asked, the best first (ANSI/MTC1.4 part 2, from memory): every part that was cut, also the bad ones, wears the
 * tools; the program that was started runs on while it calls another. Counts of what is aimed at, remains or was thrown away are none.
 */
export const COUNTS = ['ALL', null, 'GOOD'] as const;
export const PROGRAMS = ['MAIN', null, 'ACTIVE'] as const;

/** Those of the best sub-type that there is; none where there is none that says it. */
export function best<T extends Pick<Said, 'subType'>>(
  said: readonly T[],
  order: readonly (string | null)[],
): T[] {
  const of = order.find((each) => said.some(({ subType }) => subType === each));
  return of === undefined ? [] : said.filter(({ subType }) => subType === of);
}

/** A count as it is written; null: it is none. */
export const wholeIn = (text: string | null): number | null =>
  text !== null && /^\d{1,9}$/.test(text) ? Number(text) : null;
