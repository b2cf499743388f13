import type { SearchAnswer } from '../../core/changer/plan-search.ts';
import type { SearchAsk } from './plan-news.ts';
import SearchWorker from './search.worker?worker';

/** More than this many searches at once are hardly better than so many. */
const MOST = 4;
/** Beyond the first, each has a seed of its own. */
export const SEED = 20_011;

/** How many others may search beside one, on this device. */
const others = () => Math.min(MOST, navigator.hardwareConcurrency || 1) - 1;

/**
 * The same search with other seeds, on the processors that this device has besides. Each ends about when one that is begun now does;
 * one that cannot be started, or fails, has no answer.
 */
export function searchBeside(ask: Omit<SearchAsk, 'seed'>): Promise<(SearchAnswer | null)[]> {
  return Promise.all(
    Array.from(
      { length: others() },
      (_, i) =>
        new Promise<SearchAnswer | null>((done) => {
          let worker: Worker;
          try {
            worker = new SearchWorker();
          } catch {
            done(null);
            return;
          }
          const end = (answer: SearchAnswer | null) => {
            worker.terminate();
            done(answer);
          };
          worker.onmessage = ({ data }: MessageEvent<SearchAnswer>) => end(data);
          worker.onerror = () => end(null);
          worker.postMessage({ ...ask, seed: SEED + 7919 * (i + 1) });
        }),
    ),
  );
}

/** The best of several answers: what was found for the least cost; else a proof that there is none; else that it cannot be told. */
export function bestOf(own: SearchAnswer, answers: readonly (SearchAnswer | null)[]): SearchAnswer {
  return answers.reduce<SearchAnswer>((best, answer) => {
    if (!answer) return best;
    if (answer.ok && best.ok)
      return answer.found.measure.cost < best.found.measure.cost - 1e-9 ? answer : best;
    return answer.ok || (!best.ok && answer.proven) ? answer : best;
  }, own);
}
