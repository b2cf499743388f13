import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { changerLayout, type ChangerShape } from './layout.ts';
import { spanFor, spanForDiameter } from './span-for.ts';

const shape: ChangerShape = { kind: 'randomAccess', places: 24, pitch: 100 };
const content = (radius: number) => ({ tool: 1, radius, wide: false, heavy: false, assemblyId: 1 });
const pockets = (...radii: number[]) =>
  radii.map((radius, i) => ({ number: i + 1, content: content(radius), usable: true })) as never;

describe('pockets in a row for a tool', () => {
  it('as many as the drawing says, tried one by one: the tool in the middle strikes nothing that hangs just outside', () => {
    const spots = changerLayout(shape);
    for (const radius of [20, 49, 60, 95, 120])
      for (const widest of [0, 30, 48, 60]) {
        const span = spanFor(shape, radius, widest, false);
        const apart = (steps: number) =>
          Math.hypot(spots[steps]!.x - spots[0]!.x, spots[steps]!.y - spots[0]!.y);
        expect(apart((span + 1) / 2)).toBeGreaterThan(radius + widest);
        if (span > 1) expect(apart((span - 1) / 2)).toBeLessThan(radius + widest + 10);
      }
  });
  it('by its diameter: beside the widest that hangs there, three at least beyond what the plate allows', () => {
    const mm = (value: number) => lengthOf(value, 'mm');
    const span = (diameter: number, plate: number | null, ...radii: number[]) =>
      spanForDiameter(
        { shape, pockets: pockets(...radii) },
        'steep 40',
        plate === null ? null : mm(plate),
        mm(diameter),
      );
    expect(span(10, null, 30)).toBe(1);
    expect(span(100, 80, 10)).toBe(3);
    expect(span(80, 80, 10)).toBe(1);
    expect(span(160, null, 60)).toBeGreaterThan(span(60, null, 30));
    // a slim tool hangs as wide as its flange
    expect(span(1, null, 30)).toBe(span(60, null, 30));
  });
});
