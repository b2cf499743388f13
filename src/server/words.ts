const MOST_WORDS = 6;

/** What somebody typed, as patterns for LIKE: each word anywhere, with its own % and _ taken literally. */
export const patternsOf = (typed: string): string[] =>
  typed
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .slice(0, MOST_WORDS)
    .map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`);

/** The condition that a column has all of `count` patterns, as parameters from `$first` on; one for each, so that an index serves. */
export const hasAll = (column: string, count: number, first = 1): string =>
  count === 0
    ? 'true'
    : Array.from({ length: count }, (_, i) => `${column} LIKE $${first + i}`).join(' AND ');
