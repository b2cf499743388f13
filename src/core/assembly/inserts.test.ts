import { expect, it } from 'vitest';
import { indexingWords, usedUp } from './inserts.ts';

it('an insert of four edges is turned three times, and the fourth time another goes in', () => {
  const set = { number: 'IN-CNMG08', count: 1, edges: 4 };
  expect([0, 1, 2, 3].map((edgesUsed) => usedUp({ ...set, edgesUsed }))).toEqual([false, false, false, true]);
  expect(indexingWords({ ...set, edgesUsed: 0 })).toBe('IN-CNMG08 to edge 2 of 4');
  expect(indexingWords({ ...set, edgesUsed: 2 })).toBe('IN-CNMG08 to edge 4 of 4');
  expect(indexingWords({ ...set, edgesUsed: 3 })).toBe('1 new insert IN-CNMG08');
});
it('one of which nobody said how many edges it has is used up by one', () => {
  expect(usedUp({ edges: null, edgesUsed: 0 })).toBe(true);
  expect(indexingWords({ number: 'IN-X', count: 5, edges: null, edgesUsed: 0 })).toBe('5 new inserts IN-X');
});
