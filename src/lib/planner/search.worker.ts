import { searchLayout } from '../../core/changer/plan-search.ts';
import type { SearchAsk } from './plan-news.ts';
import { seeded } from '../../core/units/seeded.ts';

// One search among several for the same question, each with a seed of its own.
self.onmessage = ({ data: { question, rounds, known, seed } }: MessageEvent<SearchAsk>) => {
  const search = searchLayout(question, seeded(seed), rounds, known);
  let step = search.next();
  while (!step.done) step = search.next();
  self.postMessage(step.value);
};
