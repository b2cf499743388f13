import { describe, expect, it } from 'vitest';
import { waitAfter, waitLeft, waitWords } from './sign-in-wait.ts';

describe('waiting after wrong PINs', () => {
  it('a few tries are free, then each wait is twice the one before, up to a quarter of an hour', () => {
    expect([0, 4, 5, 6, 7, 8].map((wrong) => waitAfter(wrong, 5))).toEqual([0, 0, 15, 30, 60, 120]);
    expect(waitAfter(1000, 5)).toBe(900);
  });
  it('ten thousand PINs take longer than a month', () => {
    let seconds = 0;
    for (let wrong = 0; wrong < 10_000; wrong += 1) seconds += waitAfter(wrong, 5);
    expect(seconds).toBeGreaterThan(31 * 86_400);
  });
  it('counts from the last try; who waits for nothing does not, whenever that was', () => {
    expect([0, 5, 20, -3].map((ago) => waitLeft(5, 5, ago))).toEqual([15, 10, 0, 15]);
    expect([1e9, 0, -0.001, -3].map((ago) => waitLeft(4, 5, ago))).toEqual([0, 0, 0, 0]);
  });
  it('is said in seconds or minutes', () => {
    expect([0.4, 15, 120, 900].map(waitWords)).toEqual([
      '2 seconds',
      '15 seconds',
      '2 minutes',
      '15 minutes',
    ]);
  });
});
