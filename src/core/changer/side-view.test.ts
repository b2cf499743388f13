import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { AssemblyShape, Figure } from '../assembly/silhouette.ts';
import { lengthOf } from '../units/length.ts';
import { withinReach } from './clearance.ts';
import type { ChangerShape } from './layout.ts';
import { narrowest, sideBySide, sideRow, widestThatHangs } from './side-view.ts';

/** A body of revolution: stretches of millimetres along, and the radius of each. */
const turned = (...steps: [length: number, radius: number][]): Figure[] => {
  let along = 0;
  const half = steps.flatMap(([length, radius]) => {
    const from = along;
    along += length;
    return [[from, radius] as const, [along, radius] as const];
  });
  return [[...half, ...[...half].reverse().map(([x, radius]) => [x, -radius] as const)]];
};
const HOLDER = turned([30, 31], [70, 16], [40, 5]);

describe('two tools side by side in the magazine', () => {
  it('holders of the same kind come nearest at their flanges', () => {
    expect(narrowest(HOLDER, HOLDER, 80)).toEqual({ gap: 80 - 62, depth: 0 });
  });
  it('a face mill beside a long drill passes its shank, where the radii alone would say it strikes', () => {
    const faceMill = turned([30, 31], [40, 25], [30, 50]);
    // both at their widest: 80 − 50 − 31 is below nothing; at the mill’s depth the neighbour is slim
    expect(80 - 50 - 31).toBeLessThan(0);
    expect(narrowest(faceMill, HOLDER, 80)).toEqual({ gap: 80 - 50 - 16, depth: 70 });
  });
  it('a short tool does not reach where the other is wide', () => {
    const deep = turned([30, 20], [100, 20], [20, 45]);
    const short = turned([30, 20], [50, 18]);
    expect(narrowest(deep, short, 60)).toEqual({ gap: 20, depth: 0 });
    expect(narrowest(turned([10, 1]), [[]], 60)).toBeNull();
  });
  it('an overlap is told with its depth', () => {
    expect(narrowest(turned([30, 31], [20, 45]), turned([60, 31]), 70)).toEqual({ gap: -6, depth: 30 });
  });
  it('between cones the corner of the one counts against the slope of the other', () => {
    const cone: Figure[] = [
      [
        [0, 30],
        [100, 10],
        [100, -10],
        [0, -30],
      ],
    ];
    const collar = turned([45, 10], [10, 20], [45, 10]);
    expect(narrowest(cone, collar, 80)).toMatchObject({ depth: 45 });
    expect(narrowest(cone, collar, 80)!.gap).toBeCloseTo(80 - 20 - 21, 9);
  });
  it('is never more than both radii leave, and the same from either side', () => {
    const tool = fc
      .array(fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 60 })), {
        minLength: 1,
        maxLength: 5,
      })
      .map((steps) => turned(...steps));
    fc.assert(
      fc.property(tool, tool, fc.integer({ min: 40, max: 160 }), (a, b, apart) => {
        const widest = (figures: Figure[]) => Math.max(...figures[0]!.map(([, across]) => across));
        const found = narrowest(a, b, apart)!;
        expect(found.gap).toBeGreaterThanOrEqual(apart - widest(a) - widest(b));
        expect(narrowest(b, a, apart)).toEqual(found);
        // looked at every half millimetre there is nothing narrower
        const at = (figures: Figure[], depth: number) => {
          const half = figures[0]!.slice(0, figures[0]!.length / 2);
          let radius: number | null = null;
          for (let i = 0; i < half.length; i += 2)
            if (depth >= half[i]![0] && depth <= half[i + 1]![0]) radius = Math.max(radius ?? 0, half[i]![1]);
          return radius;
        };
        for (let depth = 0; depth < 250; depth += 0.5) {
          const [p, q] = [at(a, depth), at(b, depth)];
          if (p !== null && q !== null) expect(apart - p - q).toBeGreaterThanOrEqual(found.gap - 1e-9);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('how two tools hang beside each other', () => {
  const holder = (over: Partial<AssemblyShape> = {}): AssemblyShape => ({
    kind: 'endMill',
    interface: 'steep 40',
    gaugeLength: lengthOf(120, 'mm'),
    stickOut: lengthOf(40, 'mm'),
    holderDiameter: lengthOf(40, 'mm'),
    diameter: lengthOf(10, 'mm'),
    ...over,
  });
  const wide = holder({ kind: 'faceMill', diameter: lengthOf(90, 'mm') });
  it('flange beside flange on the common changer of 2.5 in is what its pockets are made for (common practice, no source)', () => {
    expect(sideBySide(holder(), holder(), 63.5)).toMatchObject({ how: 'flanges' });
    expect(sideBySide(holder(), holder(), 80)).toMatchObject({ how: 'passes', gap: 80 - 63.55 });
  });
  it('a face mill beside a plain tool is too near, or passes below its neighbour’s flange', () => {
    expect(sideBySide(wide, holder(), 55)).toMatchObject({ how: 'tooNear' });
    expect(sideBySide(wide, holder(), 80)).toMatchObject({ how: 'passes' });
  });
});

describe('a row of pockets seen from the side', () => {
  const row = (shape: ChangerShape, centre: number, each = 2) =>
    sideRow(shape, centre, each).map((pocket) => pocket.number);
  it('goes on past the last pocket of a ring, and ends where a rack ends', () => {
    expect(row({ kind: 'randomAccess', places: 30, pitch: 80 }, 1)).toEqual([29, 30, 1, 2, 3]);
    expect(row({ kind: 'rack', places: 10, pitch: 110 }, 10)).toEqual([8, 9, 10]);
  });
  it('stays in its row of a tray', () => {
    const tray: ChangerShape = { kind: 'tray', places: 96, pitch: 45 };
    expect(row(tray, 14)).toEqual([12, 13, 14]);
    expect(row(tray, 15)).toEqual([15, 16, 17]);
  });
  it('stands as far apart as the pockets do, nearer round the wheel of a chain', () => {
    const chain: ChangerShape = { kind: 'chain', places: 60, pitch: 100 };
    const along = sideRow(chain, 27, 2).map((pocket) => pocket.along);
    for (const [i, each] of along.slice(1).entries()) {
      expect(each - along[i]!).toBeGreaterThan(98.8);
      expect(each - along[i]!).toBeLessThanOrEqual(100 + 1e-9);
    }
  });
  it('shows no pocket twice on a small ring, and nothing of a turret', () => {
    expect(row({ kind: 'fixedCarousel', places: 4, pitch: 80 }, 1)).toEqual([4, 1, 2]);
    expect(row({ kind: 'turret', places: 12, pitch: 110 }, 1)).toEqual([]);
  });
});

describe('the widest tool that may hang in an empty pocket', () => {
  const shape: ChangerShape = { kind: 'rack', places: 5, pitch: 80 };
  const reach = withinReach(shape, 60);
  it('is what the wider neighbour leaves', () => {
    const standing = new Map([
      [1, 20],
      [3, 45],
    ]);
    expect(widestThatHangs(reach, 2, (pocket) => standing.get(pocket), 2)).toEqual({
      widest: 2 * (80 - 45 - 2),
      beside: 3,
    });
  });
  it('is not limited by what stands too far away', () => {
    expect(widestThatHangs(reach, 5, (pocket) => (pocket === 1 ? 30 : undefined), 2)).toBeNull();
  });
});
