import highsLoader from 'highs';
import wasm from 'highs/runtime?url';
import type { Layout, PlanQuestion, PlanWeights } from '../../core/changer/plan-layout.ts';
import { roundsFor, searchLayout, type SearchAnswer } from '../../core/changer/plan-search.ts';
import { againstExact, anyLayout } from './exact.ts';
import type { PlanAsk, PlanNews, TradeRow } from './plan-news.ts';
import { bestOf, SEED, searchBeside } from './search-crew.ts';
import { seeded } from '../../core/units/seeded.ts';

const say = (news: PlanNews) => self.postMessage(news);

function searched(
  question: PlanQuestion,
  rounds: number,
  told: (share: number) => void,
  known: Layout | null = null,
): SearchAnswer {
  const search = searchLayout(question, seeded(SEED), rounds, known);
  for (;;) {
    const step = search.next();
    if (step.done) return step.value;
    told(step.value.share);
  }
}

/** The same by several at once, on the processors that this device has: the best of them. */
async function searchedBySeveral(
  question: PlanQuestion,
  told: (share: number) => void,
  known: Layout | null = null,
): Promise<SearchAnswer> {
  const rounds = roundsFor(question);
  const beside = searchBeside({ question, rounds, known });
  const own = searched(question, rounds, told, known);
  // what was shown not to be needs no others
  return !own.ok && own.proven ? own : bestOf(own, await beside);
}

/** One wish almost alone: the others only decide between equals. */
const alone = (wish: keyof PlanWeights): PlanWeights => ({
  ...{ hands: 0.001, time: 0.001, balance: 0.001, gaps: 0.001 },
  [wish]: 1,
});

self.onmessage = async ({ data }: MessageEvent<PlanAsk>) => {
  const { question, seconds } = data;
  const highs = await highsLoader({ locateFile: () => wasm });
  const told = (share: number) => say({ kind: 'progress', share: share * 0.3, bound: null });
  let own = await searchedBySeveral(question, told);
  // what neither fits nor was ruled out is asked of the exact solver
  if (!own.ok && !own.proven) {
    const any = anyLayout(highs, question, seconds);
    own = any.ok
      ? await searchedBySeveral(question, told, any.layout)
      : {
          ...own,
          proven: any.proven,
          reason: any.proven
            ? 'No layout exists: the exact solver has shown that what is called does not fit together.'
            : own.reason,
        };
  }
  if (!own.ok) return say({ kind: 'refused', reason: own.reason });
  say({ kind: 'found', found: own.found });
  const trade: TradeRow[] = [];
  for (const [i, wish] of (['hands', 'time', 'balance', 'gaps'] as const).entries()) {
    const other = searched(
      { ...question, weights: alone(wish) },
      roundsFor(question) / 4,
      (share) => say({ kind: 'progress', share: 0.3 + 0.1 * (i + share), bound: null }),
      own.found.layout,
    );
    if (other.ok) trade.push({ wish, measure: other.found.measure });
  }
  say({ kind: 'trade', trade });
  say({ kind: 'progress', share: 0.7, bound: null });
  const verdict = againstExact(highs, question, own.found, seconds, (bound) =>
    say({ kind: 'progress', share: 0.7, bound }),
  );
  say({ kind: 'done', ...verdict });
};
