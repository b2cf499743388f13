import { navigating } from '$app/state';
import { isKept, nobodyThere } from './offline/kept-pages';

/** Milliseconds until it is asked again. */
const AGAIN = 1500;
const DATA = /\/?__data\.json$/;

/** The page whose data an address asks for; null for anything else. */
function pageOf(input: RequestInfo | URL): string | null {
  const url = new URL(input instanceof Request ? input.url : input, location.href);
  return DATA.test(url.pathname) ? url.pathname.replace(DATA, '') || '/' : null;
}

const pause = () => new Promise((resolve) => setTimeout(resolve, AGAIN));

/**
 * Data of the open page that cannot be had just now are waited for. The framework would put a page of the fault in its place, and what
 * was being typed would go with it: the database may go away between any question and its answer, and the network in the middle of one.
 */
export function waitForOwnData(): void {
  const ask = window.fetch.bind(window);
  /** An answer with all of its data; null: nobody answered, or it broke off. */
  const askWhole = async (...asked: Parameters<typeof fetch>): Promise<Response | null> => {
    try {
      const answer = await ask(...asked);
      return new Response(await answer.arrayBuffer(), answer);
    } catch {
      return null;
    }
  };
  window.fetch = async (input, init) => {
    const page = pageOf(input);
    if (page !== null && page !== location.pathname && navigating.to !== null && isKept(page)) {
      const answer = await askWhole(input, init);
      if (answer !== null && !nobodyThere(answer.status)) return answer;
      // this device may have kept the page as a whole
      location.assign(page);
      return new Promise<Response>(() => {});
    }
    if (page === null || page !== location.pathname) return ask(input, init);
    for (;;) {
      const answer = await askWhole(input, init);
      // who went on to another page is not called back by what this one still asked
      if (page !== location.pathname) return new Promise<Response>(() => {});
      if (answer !== null && answer.status !== 503) return answer;
      await pause();
    }
  };
}
