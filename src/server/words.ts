const MOST_WORDS = 6;
/** Signs that an index of letters and digits cannot see, spelled as letters; `tin_search` in SQL does the same. */
const SPELLED: Record<string, string> = { '.': 'qp', '-': 'qd', '/': 'qs' };

/** What somebody typed, as words in lower case. */
export const wordsOf = (typed: string): string[] =>
  typed.toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);

/**
 * The parameters that `hasAll` asks for: each word anywhere, with its own % and _ taken literally. One of one or two signs
 * must begin a word, or "12" would find every number with a 12 in it (and no index could help).
 */
export const patternsOf = (words: readonly string[]): string[] =>
  words.map((word) => {
    const spelled = word.replace(/[.\-/]/g, (sign) => SPELLED[sign]!).replace(/[\\%_]/g, '\\$&');
    return spelled.length < 3 ? `% ${spelled}%` : `%${spelled}%`;
  });

/** How a number begins that starts with the first word; nothing begins like this when no word was typed. */
export const beginningOf = (words: readonly string[]): string =>
  words.length === 0 ? '' : `${words[0]!.replace(/[\\%_]/g, '\\$&')}%`;

/** Rows of a list that are walked in the order of numbers before an index of words is asked. */
const NEAR = 4000;

/**
 * `hit` with id, rank and number of at most `most` rows of a list: those whose number begins with the first word (`$begins`),
 * then the others, and those of `also` (a statement of id and number), in the order of numbers. A common word is found in a
 * short walk along the numbers; only when that does not fill the page is the index of words asked, which is quick for what is
 * rare. Left to choose for itself, the planner walks the whole list for a rare pair of common words.
 */
export function hits(
  list: 'assembly' | 'component',
  has: string,
  begins: number,
  most: number,
  also?: string,
): string {
  return `front AS MATERIALIZED (
    SELECT f.id, f.number FROM ${list} f WHERE lower(f.number) COLLATE "C" LIKE $${begins} AND ${has}
    ORDER BY lower(f.number) COLLATE "C" LIMIT ${most}),
  near AS MATERIALIZED (
    SELECT f.id, f.number FROM (SELECT * FROM ${list} ORDER BY number LIMIT ${NEAR + most}) f WHERE ${has}
      AND (SELECT count(*) FROM front) < ${most} ORDER BY f.number LIMIT ${2 * most}),
  far AS MATERIALIZED (
    SELECT f.id, f.number FROM ${list} f WHERE ${has}),
  hit AS (SELECT id, number, 0 AS rank FROM front UNION ALL
    (SELECT id, number, 1 FROM (
       SELECT * FROM near UNION
       (SELECT * FROM far WHERE (SELECT count(*) FROM near) < ${2 * most} AND (SELECT count(*) FROM front) < ${most}
        ORDER BY number LIMIT ${2 * most})
       ${also ? `UNION (${also})` : ''}) r
     WHERE id NOT IN (SELECT id FROM front) ORDER BY number LIMIT ${most}))`;
}

/** The condition that a column has every word, as parameters from `$first` on; one for each, so that an index serves. */
export const hasAll = (column: string, words: readonly string[], first = 1): string =>
  words.length === 0 ? 'true' : words.map((_, i) => `${column} LIKE $${first + i}`).join(' AND ');
