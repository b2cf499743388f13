/**
 * How long somebody must wait after so many wrong tries in a row before the next is looked at, seconds: a few are free, then each
 * doubles the wait up to a quarter of an hour. Nobody is shut out for good, and nobody guesses a PIN of four digits in a year.
 */
export function waitAfter(wrong: number, free: number): number {
  if (wrong < free) return 0;
  return Math.min(15 * 60, 15 * 2 ** Math.min(wrong - free, 10));
}

/**
 * What of the wait is left so many seconds after the last wrong try. Who waits for nothing waits for nothing however long ago that was:
 * one that came at the same moment, from another tablet, may stand a little later than "now".
 */
export function waitLeft(wrong: number, free: number, ago: number): number {
  const wait = waitAfter(wrong, free);
  return wait === 0 ? 0 : Math.max(0, wait - Math.max(0, ago));
}

/** A wait as it is said. */
export const waitWords = (seconds: number): string =>
  seconds < 90 ? `${Math.max(2, Math.ceil(seconds))} seconds` : `${Math.ceil(seconds / 60)} minutes`;
