import { expect, it } from 'vitest';
import { keptLast } from '../../src/server/kept-last.ts';

it('the last is made once for all who ask for it, another takes its place, and what failed is tried again', async () => {
  const kept = keptLast<number>(60_000);
  let made = 0;
  const make = async () => (made += 1);
  expect(await Promise.all([kept('a', make), kept('a', make)])).toEqual([1, 1]);
  expect(await kept('b', make)).toBe(2);
  expect(await kept('a', make)).toBe(3);
  await expect(kept('c', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
  expect(await kept('c', make)).toBe(4);
  // one that fails late does not take the place of what came after it
  const late = kept('d', () => new Promise((_, refuse) => setTimeout(() => refuse(new Error('late')), 20)));
  expect(await kept('e', make)).toBe(5);
  await expect(late).rejects.toThrow('late');
  expect(await kept('e', make)).toBe(5);
});

it('it is forgotten after its time', async () => {
  const kept = keptLast<number>(5);
  let made = 0;
  const make = async () => (made += 1);
  await kept('a', make);
  await new Promise((resolve) => setTimeout(resolve, 30));
  expect(await kept('a', make)).toBe(2);
});
