/**
 * How long somebody must wait after so many wrong tries in a row before the next is looked at, seconds: a few are free, then each
 * doubles the wait up to a quarter of an hour. Nobody is shut out for good, and nobody guesses a PIN of four digits in a year.
 */
export function waitAfter(wrong: number, free: number): number {
  if (wrong < free) return 0;
  return Math.min(15 * 60, 15 * 2 ** Math.min(wrong - free, 10));
}

/** A wait as it is said. */
export const waitWords = (seconds: number): string =>
  seconds < 90 ? `${Math.max(2, Math.ceil(seconds))} seconds` : `${Math.ceil(seconds / 60)} minutes`;
