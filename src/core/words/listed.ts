/** Names one after the other, as they are said: O1, O2 and O3. */
export const listed = (names: readonly (string | number)[]): string =>
  names.join(', ').replace(/, ([^,]+)$/, ' and $1');
