import { describe, expect, it } from 'vitest';
import { sweptRadius } from '../assembly/silhouette.ts';
import { litPath } from '../life/phase.ts';
import { lengthOf } from '../units/length.ts';
import { glanceOf, type Dots } from './glance.ts';
import { changerLayout, type ChangerShape } from './layout.ts';
import { picture } from './picture.ts';
import type { PlacedAssembly, PlaceRow } from './place.ts';
import { CHANGER_KINDS, traitsOf } from './traits.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const assembly = (over: Partial<PlacedAssembly> = {}): PlacedAssembly => ({
  id: 1,
  number: 'M-101',
  name: 'End mill 10',
  kind: 'endMill',
  interface: 'steep 40',
  gaugeLength: mm(120),
  stickOut: mm(36),
  holderDiameter: mm(40),
  diameter: mm(10),
  flag: null,
  basis: null,
  remaining: null,
  fullLife: null,
  speedLimit: null,
  mass: null,
  massReckoned: false,
  moment: null,
  measured: true,
  ...over,
});
const place = (number: number, over: Partial<PlaceRow> = {}): PlaceRow => ({
  id: number + 1,
  kind: number === 0 ? 'spindle' : 'pocket',
  number,
  inService: true,
  reserved: false,
  wide: false,
  tied: null,
  heavy: false,
  cell: null,
  tool: null,
  since: null,
  assembly: null,
  ...over,
});
const ring: ChangerShape = { kind: 'randomAccess', places: 30, pitch: 80 };
const empty = ({ places }: ChangerShape) => Array.from({ length: places + 1 }, (_, i) => place(i));
const holding = (shape: ChangerShape, ...held: PlaceRow[]) =>
  empty(shape).map((each) => held.find(({ number }) => number === each.number) ?? each);

/** The middles of discs or of rings in a path, in its order. */
const points = (path: string) =>
  [...path.matchAll(/M(-?[\d.]+) (-?[\d.]+)h0/g)].map(([, x, y]) => [Number(x), Number(y)] as const);
const rings = (path: string) =>
  [...path.matchAll(/M(-?[\d.]+) (-?[\d.]+)a([\d.]+)/g)].map(([, x, y, r]) => ({
    x: Number(x) + Number(r),
    y: Number(y),
    r: Number(r),
  }));
const count = (all: readonly Dots[]) => all.reduce((sum, { path }) => sum + points(path).length, 0);
const spot = (shape: ChangerShape, number: number) =>
  changerLayout(shape).find((each) => each.number === number)!;
const near = (found: readonly (readonly [number, number])[], to: { x: number; y: number }) =>
  found.some(([x, y]) => Math.hypot(x - to.x, y - to.y) < 0.15);

describe('a changer at a glance', () => {
  it.each(CHANGER_KINDS)('%s: each pocket once, where it is, and within the picture', (kind) => {
    const shape: ChangerShape = { kind, places: 24, pitch: 80 };
    const glance = glanceOf(shape, empty(shape), null);
    const spots = picture(shape, { still: true, loading: false, side: null }).spots;
    expect(count(glance.pockets)).toBe(spots.length);
    const found = glance.pockets.flatMap(({ path }) => points(path));
    const [left, top, width, height] = glance.box.split(' ').map(Number) as [number, number, number, number];
    for (const each of spots) {
      expect(near(found, each)).toBe(true);
      expect(each.x).toBeGreaterThan(left);
      expect(each.x).toBeLessThan(left + width);
      expect(each.y).toBeGreaterThan(top);
      expect(each.y).toBeLessThan(top + height);
    }
    expect([glance.tools, glance.dials, glance.names]).toEqual([[], [], []]);
    expect([glance.figures, glance.lit, glance.flagged, glance.crosses, glance.struck].join('')).toBe('');
  });
  it.each(CHANGER_KINDS)('%s: a tool stands in its pocket as wide as it is, under its T', (kind) => {
    const shape: ChangerShape = { kind, places: 24, pitch: 80 };
    const tool = assembly(
      kind === 'turret'
        ? { kind: 'turning', interface: 'shank 25', holderDiameter: mm(25) }
        : { kind: 'faceMill', diameter: mm(66) },
    );
    const glance = glanceOf(shape, holding(shape, place(7, { tool: 41, assembly: tool })), null);
    const at = spot(shape, 7);
    if (traitsOf(shape).drawn === 'spokes') {
      expect(glance.tools).toEqual([]);
      // it stands out of the turret, away from the middle
      const corners = [...glance.figures.matchAll(/(-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) =>
        Math.hypot(Number(x), Number(y)),
      );
      expect(Math.max(...corners)).toBeGreaterThan(Math.hypot(at.x, at.y) + 36);
    } else {
      expect(glance.tools.map(({ radius }) => radius)).toEqual([sweptRadius(tool)]);
      expect(near(points(glance.tools[0]!.path), at)).toBe(true);
    }
    expect(glance.names.map(({ tool: T }) => T)).toEqual([41]);
    expect(Math.abs(glance.names[0]!.x - at.x)).toBeLessThan(0.1);
  });
  it('tools of one width share a path, others have their own; those that overlap are joined', () => {
    const mill = assembly({ kind: 'faceMill', diameter: mm(100) });
    const glance = glanceOf(
      ring,
      holding(
        ring,
        place(3, { tool: 3, assembly: assembly() }),
        place(9, { tool: 9, assembly: assembly() }),
        place(20, { tool: 20, assembly: mill }),
        place(21, { tool: 21, assembly: assembly() }),
      ),
      null,
    );
    expect(glance.tools.map(({ radius, path }) => [radius, points(path).length])).toEqual([
      [31.8, 3],
      [50, 1],
    ]);
    const [a, b] = [spot(ring, 20), spot(ring, 21)];
    const [from, to] = [...glance.struck.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) => ({
      x: Number(x),
      y: Number(y),
    }));
    expect(Math.hypot(from!.x - a.x, from!.y - a.y)).toBeLessThan(0.15);
    expect(Math.hypot(to!.x - b.x, to!.y - b.y)).toBeLessThan(0.15);
  });
  it('life is a disc lit by its share; what is flagged is crossed instead, what nobody counts has none', () => {
    const of = (over: Partial<PlacedAssembly>, number: number) =>
      place(number, { tool: number, assembly: assembly({ basis: 'pieces', fullLife: 100, ...over }) });
    const glance = glanceOf(
      ring,
      holding(
        ring,
        of({ remaining: 25 }, 2),
        of({ remaining: 0 }, 5),
        of({ remaining: 40, flag: 'broken' }, 8),
        of({ fullLife: null }, 11),
      ),
      null,
    );
    expect(count(glance.dials)).toBe(2);
    const [at] = glance.dials;
    const [x, y] = points(at!.path)[0]!;
    expect(Math.abs(x - spot(ring, 2).x)).toBeLessThan(0.1);
    expect(y).toBeGreaterThan(spot(ring, 2).y);
    // a quarter is left: the terminator is half as wide as the disc, and what is spent is dark
    const [, half, radius] = /A([\d.]+) ([\d.]+) 0 0 0 /.exec(glance.lit)!;
    expect(Number(half) / Number(radius)).toBeCloseTo(0.5, 3);
    expect(glance.lit.match(/M/g)).toHaveLength(1);
    expect(glance.flagged.match(/M/g)).toHaveLength(2);
  });
  it('what was not measured is ringed, a pocket out of service is faint and crossed, one kept for the probe dashed', () => {
    const glance = glanceOf(
      ring,
      holding(
        ring,
        place(4, { tool: 4, assembly: assembly({ measured: false }) }),
        place(12, { inService: false }),
        place(30, { reserved: true }),
      ),
      null,
    );
    expect(rings(glance.unmeasured)).toHaveLength(1);
    expect(count(glance.out)).toBe(1);
    expect(near(points(glance.out[0]!.path), spot(ring, 12))).toBe(true);
    expect(glance.crosses.match(/M/g)).toHaveLength(2);
    expect(rings(glance.reserved).map(({ r }) => r)).toEqual([32]);
    expect(count(glance.pockets)).toBe(31 - 2);
    // with its probe in it, it is a pocket as any
    const held = holding(
      ring,
      place(30, { reserved: true, tool: 99, assembly: assembly({ kind: 'probe' }) }),
    );
    expect(glanceOf(ring, held, null).reserved).toBe('');
  });
  it('a wide pocket has its ring, and both neighbours are kept free', () => {
    const glance = glanceOf(ring, holding(ring, place(10, { wide: true, tied: 10, heavy: true })), null);
    expect(rings(glance.wide)).toHaveLength(1);
    expect(Math.abs(rings(glance.wide)[0]!.x - spot(ring, 10).x)).toBeLessThan(0.15);
    expect(glance.beside.match(/M/g)).toHaveLength(6);
    expect(rings(glance.heavy)).toHaveLength(1);
  });
  it('a cell of its own size is drawn so, and the tray that feeds the machine stands below', () => {
    const tray: ChangerShape = { kind: 'tray', places: 20, pitch: 90 };
    const glance = glanceOf(tray, holding(tray, place(6, { cell: mm(50) })), 3);
    expect(glance.pockets.map(({ radius }) => radius).sort((a, b) => a - b)).toEqual([25, 36, 41.4]);
    expect(glance.loading!.places).toBe(3);
    expect(glance.loading!.top).toBeGreaterThan(Math.max(...changerLayout(tray).map(({ y }) => y)));
    expect(glanceOf(tray, empty(tray), null).loading).toBeNull();
  });
  it('places that nobody recorded are not made up', () => {
    expect(count(glanceOf(ring, [place(0), place(3)], null).pockets)).toBe(2);
  });
  it('a disc is lit about its own middle as it is about nought', () => {
    expect(litPath(0.75, { x: 10, y: 20, radius: 4 })).toBe('M10 16A4 4 0 0 1 10 24A2 4 0 0 1 10 16Z');
    expect(litPath(0.75)).toBe('M0 -1A1 1 0 0 1 0 1A0.5 1 0 0 1 0 -1Z');
    expect(litPath(0, { x: 1, y: 1, radius: 2 })).toBe('');
  });
});
