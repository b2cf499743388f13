import { expect, it, vi } from 'vitest';
import type { SearchAnswer } from '../../src/core/changer/plan-search.ts';
vi.mock('../../src/lib/planner/search.worker?worker', () => ({ default: vi.fn() }));
const { bestOf } = await import('../../src/lib/planner/search-crew.ts');

const found = (cost: number) =>
  ({ ok: true, found: { layout: [], measure: { cost } } }) as unknown as SearchAnswer;
const none = (proven: boolean): SearchAnswer => ({ ok: false, proven, reason: 'no pocket' });

it('of several searches the cheapest counts, one that found something before one that did not, and a proof before a shrug', () => {
  expect(bestOf(found(5), [found(4), null, found(6)])).toEqual(found(4));
  expect(bestOf(found(5), [null, none(false)])).toEqual(found(5));
  expect(bestOf(none(false), [null, found(7), found(9)])).toEqual(found(7));
  expect(bestOf(none(false), [none(false), none(true)])).toEqual(none(true));
  expect(bestOf(none(true), [none(false)])).toEqual(none(true));
});
