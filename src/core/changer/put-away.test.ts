import { describe, expect, it } from 'vitest';
import { putAway } from './put-away.ts';
import type { RoomState, RoomTool } from './room.ts';

const shape = { kind: 'randomAccess', places: 8, pitch: 80 } as const;
const tool = (number: number, radius = 20, home: number | null = null): RoomTool => ({
  tool: number,
  heavy: false,
  radius,
  home,
});
/** A ring of eight: what hangs where, and which pockets may not be used. */
const ring = (
  hangs: Readonly<Record<number, RoomTool>>,
  spindle: RoomTool | null,
  at = 1,
  blocked: readonly number[] = [],
): RoomState => ({
  shape,
  spindle,
  at,
  pockets: Array.from({ length: 8 }, (_, i) => ({
    number: i + 1,
    content: hangs[i + 1] ?? null,
    usable: !blocked.includes(i + 1),
  })),
});

describe('putting the spindle’s tool away', () => {
  it('takes the nearest free pocket, round the ring', () => {
    expect(putAway(ring({ 1: tool(1), 2: tool(2) }, tool(9), 1))).toBe(8);
    expect(putAway(ring({ 1: tool(1), 8: tool(2) }, tool(9), 1))).toBe(2);
    expect(putAway(ring({ 1: tool(1), 8: tool(2) }, tool(9), 1, [2]))).toBe(3);
  });

  it('goes home where it has one, and nowhere else', () => {
    expect(putAway(ring({}, tool(9, 20, 5), 1))).toBe(5);
    expect(putAway(ring({ 5: tool(3) }, tool(9, 20, 5), 1))).toBeNull();
  });

  it('hangs nothing where it would strike a neighbour', () => {
    // two of 50 mm across their halves, 80 mm apart, strike; with an empty pocket between they do not
    expect(putAway(ring({ 1: tool(1, 50) }, tool(9, 50), 1))).toBe(3);
    expect(
      putAway(ring({ 1: tool(1, 50), 3: tool(3, 50), 5: tool(5, 50), 7: tool(7, 50) }, tool(9, 50), 1)),
    ).toBeNull();
  });

  it('has nothing to put away where the spindle is empty, and no place where all are taken', () => {
    expect(putAway(ring({}, null))).toBeNull();
    const full = Object.fromEntries(Array.from({ length: 8 }, (_, i) => [i + 1, tool(i + 1)]));
    expect(putAway(ring(full, tool(9)))).toBeNull();
  });
});
