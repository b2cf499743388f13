import { describe, expect, it } from 'vitest';
import { inUnit, lengthOf } from '../units/length.ts';
import { seeded } from '../units/seeded.ts';
import {
  ASSEMBLY_KINDS,
  cuttingEnd,
  figures,
  INTERFACES,
  pointHeight,
  silhouette,
  STUB,
  standOut,
  sweptRadius,
  widestOf,
  type AssemblyShape,
  type Figure,
  type Interface,
  type OutlinePoint,
} from './silhouette.ts';
import { massOf, momentOf, stretches, type Stretch } from './solid.ts';
import { MODULUS, tipCompliance, type BarPiece } from './stiffness.ts';
import { weighed } from './weighed.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const shape = (over: Partial<AssemblyShape> = {}): AssemblyShape => ({
  kind: 'endMill',
  interface: 'steep 40',
  gaugeLength: mm(140),
  stickOut: mm(40),
  holderDiameter: mm(40),
  diameter: mm(12),
  ...over,
});
const radiusAt = (outline: readonly OutlinePoint[], along: number) =>
  Math.max(...outline.filter(([each]) => Math.abs(each - along) < 1e-9).map(([, radius]) => radius));

describe('the outline of an assembly from its main dimensions (H3)', () => {
  it.each(ASSEMBLY_KINDS)('%s: from the gauge line to the tip, never back, no wider than said', (kind) => {
    const outline = silhouette(shape({ kind }));
    expect(outline[0]).toEqual([0, 63.55 / 2]);
    expect(Math.max(...outline.map(([along]) => along))).toBeCloseTo(140, 9);
    for (const [i, [along, radius]] of outline.entries()) {
      expect(radius).toBeGreaterThanOrEqual(-1e-9);
      if (i > 0) expect(along).toBeGreaterThanOrEqual(outline[i - 1]![0] - 1e-9);
      if (along > 100 + 1e-9) expect(radius).toBeLessThanOrEqual(6 + 1e-9);
    }
  });
  it('flange, holder, its shoulder and the cutter stand where they belong', () => {
    const outline = silhouette(shape());
    // the flange is six tenths of its radius thick, the nose tapers over a third of the holder's
    expect(outline).toEqual([
      [0, 31.775],
      [31.775 * 0.6, 31.775],
      [31.775 * 0.6, 20],
      [93, 20],
      [100, 20 * 0.72],
      [100, 6],
      [140, 6],
    ]);
  });
  it('a cutter wider than its holder is not drawn narrower; a short holder ends at its nose', () => {
    expect(radiusAt(silhouette(shape({ diameter: mm(50), kind: 'faceMill' })), 100)).toBe(25);
    const stub = silhouette(shape({ gaugeLength: mm(50), stickOut: mm(40) }));
    for (const [i, [along]] of stub.entries())
      if (i > 0 && along < 50) expect(along).toBeLessThanOrEqual(10 + 1e-9);
  });
  it('a tool that stands out farther than it is long is drawn to its length', () => {
    expect(silhouette(shape({ stickOut: mm(200) })).every(([along]) => along >= 0 && along <= 140)).toBe(
      true,
    );
    expect(silhouette(shape({ gaugeLength: mm(0) })).at(-1)![0]).toBe(1);
  });
  it('a shank is a bar of its width up to where the tool begins', () => {
    expect(silhouette(shape({ interface: 'shank 25', kind: 'turning' }))).toEqual([
      [0, 12.5],
      [100, 12.5],
      [100, 6],
      [140, 6],
    ]);
  });
  it('the outline its pieces gave goes before, if it is one', () => {
    const outline: OutlinePoint[] = [
      [0, 30],
      [50, 30],
      [90, 5],
    ];
    expect(silhouette(shape({ outline }))).toEqual(outline);
    expect(silhouette(shape({ outline: outline.slice(0, 2) }))).toEqual(silhouette(shape()));
    expect(silhouette(shape({ outline: null }))).toEqual(silhouette(shape()));
  });
});

describe('the end that cuts', () => {
  it('the point of a drill: 0.3004 × D at 118 degrees (handbook H3), half of D at 90', () => {
    expect(pointHeight(10, 118)).toBeCloseTo(3.004, 3);
    expect(pointHeight(10, 90)).toBeCloseTo(5, 12);
    expect(cuttingEnd('drill', 20, 60, 5)).toEqual([
      [20, 5],
      [60 - pointHeight(10, 118), 5],
      [60, 0],
    ]);
    for (const kind of ['spotDrill', 'chamferMill'] as const)
      expect(cuttingEnd(kind, 20, 60, 5)[1]![0]).toBeCloseTo(55, 12);
    // a point longer than the flutes begins where they do
    expect(cuttingEnd('drill', 59, 60, 5)[1]).toEqual([59, 5]);
  });
  it('a ball is a quarter of a circle about its own middle', () => {
    const [first, ...ball] = cuttingEnd('ballMill', 20, 60, 5);
    expect(first).toEqual([20, 5]);
    expect(ball[0]![0]).toBeCloseTo(55, 12);
    for (const [along, radius] of ball) expect(Math.hypot(along - 55, radius)).toBeCloseTo(5, 9);
    expect(ball.at(-1)![0]).toBeCloseTo(60, 12);
    expect(ball.at(-1)![1]).toBeCloseTo(0, 12);
  });
  it('a probe: a thin stem, and its ball', () => {
    expect(cuttingEnd('probe', 20, 60, 3)).toEqual([
      [20, 3 * 0.4],
      [54, 3 * 0.4],
      [57, 3],
      [60, 0],
    ]);
  });
  it('a face mill is hollow in the middle, everything else flat across', () => {
    expect(cuttingEnd('faceMill', 20, 60, 30).at(-1)).toEqual([60, 15]);
    for (const kind of ['endMill', 'reamer', 'tap', 'threadMill', 'boringBar', 'barStop'] as const)
      expect(cuttingEnd(kind, 20, 60, 5)).toEqual([
        [20, 5],
        [60, 5],
      ]);
  });
});

describe('how wide it is where it hangs', () => {
  const outline = (radius: number): OutlinePoint[] => [
    [0, radius],
    [80, radius],
  ];
  const double = (left: number, right: number) =>
    shape({
      interface: 'hollow 63',
      kind: 'turning',
      seats: {
        body: outline(22),
        tools: [
          { across: -15, outline: outline(left) },
          { across: 15, outline: outline(right) },
        ],
      },
    });
  it('of one tool it is its flange, or what sticks out past it', () => {
    expect(sweptRadius(shape())).toBe(31.775);
    expect(sweptRadius(shape({ kind: 'faceMill', diameter: mm(80) }))).toBe(40);
    expect(widestOf(shape({ kind: 'faceMill', diameter: mm(80) }))).toBe(mm(80));
  });
  it('of two side by side the wider one counts, on whichever side it stands', () => {
    expect(sweptRadius(double(20, 5))).toBe(35);
    expect(sweptRadius(double(5, 20))).toBe(35);
    expect(sweptRadius(double(5, 5))).toBe(22);
  });
  it('a closed figure is its own mirror image about its axis', () => {
    const [left, right, body] = figures(double(8, 5)) as [Figure, Figure, Figure];
    const about = (figure: Figure, axis: number) =>
      figure.map(([along, across]) => `${along} ${2 * axis - across}`).sort();
    const own = (figure: Figure) => figure.map(([along, across]) => `${along} ${across}`).sort();
    expect(about(left, -15)).toEqual(own(left));
    expect(about(right, 15)).toEqual(own(right));
    expect(about(body, 0)).toEqual(own(body));
    expect(figures(shape())).toHaveLength(1);
  });
  it('a figure goes round once: its area is twice that under its outline', () => {
    const [figure] = figures(shape()) as [Figure];
    const area = figure.reduce((sum, [x, y], i) => {
      const [nextX, nextY] = figure[(i + 1) % figure.length]!;
      return sum + (x * nextY - nextX * y) / 2;
    }, 0);
    const under = silhouette(shape()).reduce((sum, [along, radius], i, all) => {
      const next = all[i + 1];
      return next ? sum + ((next[0] - along) * (radius + next[1])) / 2 : sum;
    }, 0);
    expect(Math.abs(area)).toBeCloseTo(2 * under, 6);
  });
  it('in a turret it reaches as far as its stick-out, and the stub of its holder', () => {
    expect(standOut(shape({ stickOut: mm(32) }))).toBe(32 + STUB);
  });
});

/** The same by slices, each a thin disc. */
function sliced(all: readonly Stretch[]): { mass: number; moment: number } {
  const SLICES = 4000;
  let [mass, moment] = [0, 0];
  for (const { from, to, r0, r1, material } of all)
    for (let i = 0; i < SLICES; i += 1) {
      const share = (i + 0.5) / SLICES;
      const radius = r0 + share * (r1 - r0);
      const grams =
        Math.PI * radius ** 2 * ((to - from) / SLICES) * (material === 'steel' ? 0.00785 : 0.0145);
      mass += grams;
      moment += (grams / 1000) * 9.80665 * ((from + share * (to - from)) / 1000);
    }
  return { mass, moment };
}

describe('mass and moment about the gauge line', () => {
  it('a cylinder and a cone, in closed form', () => {
    const bar: Stretch = { from: 0, to: 100, r0: 10, r1: 10, material: 'steel' };
    expect(massOf([bar])).toBeCloseTo(Math.PI * 100 * 100 * 0.00785, 9);
    // its centre is half way, a cone's a quarter from its base
    expect(momentOf([bar])).toBeCloseTo((massOf([bar]) / 1000) * 9.80665 * 0.05, 9);
    const cone: Stretch = { from: 20, to: 60, r0: 12, r1: 0, material: 'carbide' };
    expect(massOf([cone])).toBeCloseTo(((Math.PI * 144 * 40) / 3) * 0.0145, 9);
    expect(momentOf([cone])).toBeCloseTo((massOf([cone]) / 1000) * 9.80665 * 0.03, 9);
    expect(momentOf([{ ...bar, r0: 0, r1: 0 }])).toBe(0);
  });
  it('three hundred outlines against thin slices', () => {
    const random = seeded(411);
    for (let n = 0; n < 300; n += 1) {
      let along = 0;
      const outline = Array.from({ length: 2 + Math.floor(random() * 5) }, (_, i): OutlinePoint => {
        if (i > 0 && random() < 0.8) along += 1 + random() * 60;
        return [along, random() < 0.15 ? 0 : random() * 40];
      });
      const nose = random() * along;
      const all = stretches(outline, nose, 'carbide');
      expect(all.reduce((sum, { from, to }) => sum + to - from, 0)).toBeCloseTo(along, 9);
      const want = sliced(all);
      expect(massOf(all)).toBeCloseTo(want.mass, 2);
      expect(momentOf(all)).toBeCloseTo(want.moment, 5);
    }
  });
  it('carbide begins where the tool does', () => {
    const outline: OutlinePoint[] = [
      [0, 20],
      [50, 20],
      [50, 5],
      [80, 5],
    ];
    expect(stretches(outline, 50, 'carbide').map(({ material }) => material)).toEqual(['steel', 'carbide']);
    expect(stretches(outline, 51, 'carbide').map(({ material }) => material)).toEqual(['steel', 'steel']);
    expect(stretches(outline, 50, 'steel').map(({ material }) => material)).toEqual(['steel', 'steel']);
  });
  // large end and length of each taper, millimetres: ISO 7388-1, from memory; 7/24 by its name
  it.each([
    ['steep 30', 31.75, 47.8],
    ['steep 40', 44.45, 68.4],
    ['steep 45', 57.15, 82.7],
    ['steep 50', 69.85, 101.75],
  ] as const)('the taper of %s weighs what its frustum of steel does', (name, large, length) => {
    const small = large - (length * 7) / 24;
    const frustum: Stretch = { from: 0, to: length, r0: large / 2, r1: small / 2, material: 'steel' };
    expect(Math.abs(INTERFACES[name].taperGrams / massOf([frustum]) - 1)).toBeLessThan(0.005);
  });
  it('what was weighed goes before what is reckoned, each for itself', () => {
    const own = { ...shape(), mass: null, moment: null };
    const solids = stretches(silhouette(own), 100, 'steel');
    expect(weighed(own)).toEqual({
      mass: massOf(solids) + INTERFACES['steep 40'].taperGrams,
      moment: momentOf(solids),
      reckoned: true,
    });
    const bar = {
      ...own,
      outline: [
        [0, 15],
        [100, 15],
        [100, 5],
        [140, 5],
      ] as const,
    };
    const [thick, thin] = [Math.PI * 15 ** 2 * 100 * 0.00785, Math.PI * 5 ** 2 * 40 * 0.00785];
    expect(weighed(bar).mass).toBeCloseTo(thick + thin + 515, 6);
    expect(weighed(bar).moment).toBeCloseTo(((thick * 50 + thin * 120) / 1e6) * 9.80665, 6);
    expect(weighed({ ...own, mass: 1810 })).toEqual({
      mass: 1810,
      moment: momentOf(solids),
      reckoned: false,
    });
    expect(weighed({ ...own, mass: 1810, moment: 1.2 }).moment).toBe(1.2);
  });
});

describe('how far a clamped bar bends', () => {
  it('one piece: F L³ / 3 E I (beam formula); 8 mm carbide, 32 mm out, 0.0905 µm a newton', () => {
    const piece: BarPiece = { length: 32, diameter: 8, modulus: MODULUS.carbide };
    const inertia = (Math.PI * 8 ** 4) / 64;
    expect(tipCompliance([piece])).toBeCloseTo((32 ** 3 / (3 * 600_000 * inertia)) * 1000, 12);
    expect(tipCompliance([piece])).toBeCloseTo(0.0905, 4);
    expect(tipCompliance([{ ...piece, length: 64 }]) / tipCompliance([piece])).toBeCloseTo(8, 9);
    expect(tipCompliance([{ ...piece, diameter: 16 }]) / tipCompliance([piece])).toBeCloseTo(1 / 16, 9);
    expect(tipCompliance([])).toBe(0);
  });
  it('a bar cut into pieces of the same bends as whole; stepped bars by thin slices of x² / E I', () => {
    const random = seeded(412);
    for (let n = 0; n < 50; n += 1) {
      const pieces = Array.from({ length: 1 + Math.floor(random() * 3) }, (): BarPiece => ({
        length: 5 + random() * 60,
        diameter: 3 + random() * 20,
        modulus: random() < 0.5 ? MODULUS.steel : MODULUS.carbide,
      }));
      const halves = pieces.flatMap((each) => [
        { ...each, length: each.length / 2 },
        { ...each, length: each.length / 2 },
      ]);
      expect(tipCompliance(halves)).toBeCloseTo(tipCompliance(pieces), 9);
      let [x, sum] = [0, 0];
      for (const { length, diameter, modulus } of pieces) {
        const step = length / 2000;
        for (let i = 0; i < 2000; i += 1, x += step)
          sum += ((x + step / 2) ** 2 * step) / (modulus * 1000 * ((Math.PI * diameter ** 4) / 64));
      }
      expect(tipCompliance(pieces) / (sum * 1000)).toBeCloseTo(1, 5);
    }
  });
});

describe('what an interface is called after', () => {
  it('a hollow taper and a shank are as wide as their number says', () => {
    for (const name of Object.keys(INTERFACES) as Interface[]) {
      const [kind, size] = name.split(' ');
      if (kind !== 'steep') expect(INTERFACES[name].flange).toBe(Number(size));
    }
    expect(inUnit(widestOf(shape({ interface: 'hollow 63', holderDiameter: mm(30) })), 'mm')).toBe(63);
  });
});
