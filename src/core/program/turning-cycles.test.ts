import { describe, expect, it } from 'vitest';
import type { CutState } from './cut-time.ts';
import { followContour, roughFacing } from './turning-cycles.ts';

const contour = [
  { x: 20, z: 0, feed: 0.2 },
  { x: 20, z: -10, feed: 0.2 },
  { x: 40, z: -10, feed: 0.2 },
];
const state = (): CutState => ({
  feed: 0.2,
  perRevolution: true,
  speed: 1000,
  surface: 0,
  ceiling: Infinity,
});
const facing = (depth: number) => roughFacing({ x: 42, z: 2 }, contour, depth, state());

describe('a depth of cut that is nothing (G72)', () => {
  it('is the contour once, and ends: no pass would ever reach the bottom', () => {
    const once = followContour(contour, state());
    expect(facing(0)).toEqual(once);
    expect(facing(-1)).toEqual(once);
    expect(facing(2).distance).toBeGreaterThan(once.distance);
  });
});
