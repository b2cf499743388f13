const MOST_WORDS = 6;

/** What somebody typed, as words in lower case. */
export const wordsOf = (typed: string): string[] =>
  typed.toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);

/** The parameters that `hasAll` asks for: each word anywhere, with its own % and _ taken literally. */
export const patternsOf = (words: readonly string[]): string[] =>
  words.map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`);

/** The condition that a column has every word, as parameters from `$first` on; one for each, so that an index serves. */
export const hasAll = (column: string, words: readonly string[], first = 1): string =>
  words.length === 0 ? 'true' : words.map((_, i) => `${column} LIKE $${first + i}`).join(' AND ');
