import { goto } from '$app/navigation';
import { page } from '$app/state';
import { changedQuery } from './query';

/** What a page was asked for last, while the answer is on its way. */
let asked: { path: string; query: string } | null = null;

/**
 * Asks the page for something else, in its address. Whoever chooses two things faster than answers come has chosen both: the second is
 * added to what was asked for, and not to what stands there.
 */
export function askPage(change: Readonly<Record<string, number | string | null>>): void {
  const path = page.url.pathname;
  const own = { path, query: changedQuery(asked?.path === path ? asked.query : page.url.search, change) };
  asked = own;
  const over = () => {
    if (asked === own) asked = null;
  };
  goto(own.query, { keepFocus: true, noScroll: true, replaceState: true }).then(over, over);
}
