import { CHANGER_KINDS } from './traits.ts';
import { describe, expect, it } from 'vitest';
import { type ChangerShape } from './layout.ts';
import { picture } from './picture.ts';
import { sideRow } from './side-view.ts';

const SIDE = { tallest: 170, halfWidest: 40 };
const drawn = (shape: ChangerShape, over: Partial<Parameters<typeof picture>[1]> = {}) =>
  picture(shape, { side: SIDE, loading: false, still: false, ...over });

describe('a changer laid out for drawing', () => {
  it.each(CHANGER_KINDS)('everything of a %s lies in the drawing, and the spindle on no pocket', (kind) => {
    for (const places of [8, 10, 20, 30, 60]) {
      const shape = { kind, places, pitch: 80 };
      const { spots, box, side } = drawn(shape);
      const right = box.left + box.width;
      const bottom = box.top + box.height;
      for (const { x, y } of spots) {
        expect(x).toBeGreaterThan(box.left);
        expect(x).toBeLessThan(right);
        expect(y).toBeGreaterThan(box.top);
        expect(y).toBeLessThan(bottom);
      }
      expect(spots.some((spot) => spot.number === 0)).toBe(kind !== 'turret');
      const spindle = spots.find((spot) => spot.number === 0);
      for (const { number, x, y } of spots)
        if (spindle && number > 0) expect(Math.hypot(x - spindle.x, y - spindle.y)).toBeGreaterThan(0.9 * 80);
      if (kind === 'turret') expect(side).toBeNull();
      else expect(side!.y + SIDE.tallest).toBeLessThan(bottom);
    }
  });
  it.each([
    ['randomAccess', 30, 80],
    ['randomAccess', 30, 63.5],
    ['fixedCarousel', 20, 95],
    ['randomAccess', 60, 80],
  ] as const)(
    'on a %s of %i the tools seen from the side strike neither its pockets nor the spindle',
    (kind, places, pitch) => {
      const shape = { kind, places, pitch };
      const { spots, side } = drawn(shape);
      for (const { along } of sideRow(shape, 1, side!.toEachSide))
        for (const corner of [
          { x: along - SIDE.halfWidest, y: side!.y },
          { x: along + SIDE.halfWidest, y: side!.y },
          { x: along, y: side!.y + SIDE.tallest },
        ])
          for (const spot of spots)
            expect(Math.hypot(corner.x - spot.x, corner.y - spot.y)).toBeGreaterThan(0.4 * pitch);
    },
  );
  it('a ring too small for its tools has them below', () => {
    const { side, spots } = drawn({ kind: 'fixedCarousel', places: 10, pitch: 80 });
    expect(side!.y).toBeGreaterThan(Math.max(...spots.map((spot) => spot.y)));
  });
  it('a rack shows every fork, and a small drawing none', () => {
    expect(drawn({ kind: 'rack', places: 10, pitch: 110 }).side!.toEachSide).toBe(10);
    expect(drawn({ kind: 'rack', places: 10, pitch: 110 }, { side: null }).side).toBeNull();
  });
  it('the loading tray stands between an outside tray and the spindle', () => {
    const { spots, loadingTop } = drawn({ kind: 'tray', places: 96, pitch: 45 }, { loading: true });
    const rows = spots.filter((spot) => spot.number > 0).map((spot) => spot.y);
    expect(loadingTop!).toBeGreaterThan(Math.max(...rows) + 45);
    expect(spots.at(-1)!.y).toBeGreaterThan(loadingTop! + 45);
  });
});
