/**
 * Pages that a tablet keeps for when there is no network: what whoever stands at a machine works by. Nothing is approved or planned on them that
 * others would have to know of.
 */
const KEPT: readonly RegExp[] = [
  /^\/machines\/(\d+)\/(?:now|key|load|sheet)$/,
  // the card of one correction, which is keyed and read back by it
  /^\/corrections\/\d+$/,
];

/** Whether a status says that nobody was there to answer: a proxy before a server that is gone, or one whose database is. */
export const nobodyThere = (status: number): boolean => status >= 502 && status <= 504;

export const isKept = (path: string): boolean => KEPT.some((each) => each.test(path));

/** The pages of a machine that are kept. */
export const pagesOf = (machine: number): string[] =>
  ['now', 'key', 'load', 'sheet'].map((page) => `/machines/${machine}/${page}`);

/** The cards of corrections that a page leads to, which are kept with it. */
export const cardsOn = (html: string): string[] => [
  ...new Set([...html.matchAll(/href="(\/corrections\/\d+)"/g)].map(([, path]) => path!)),
];

/** How long a kept page is shown, milliseconds: numbers of another day are not keyed by. */
export const KEPT_FOR = 12 * 3_600_000;

/**
 * Whether a page kept at an instant may still be shown. A clock that was set back says nothing of how old it is: it is shown with its own time.
 *
 * @param kept when, milliseconds of the device's clock; NaN: not known
 */
export const stillGood = (kept: number, now: number): boolean => !(now - kept > KEPT_FOR);
