import { CHANGER_KINDS } from './traits.ts';
import { describe, expect, it } from 'vitest';
import type { AssemblyShape } from '../assembly/silhouette.ts';
import { lengthOf } from '../units/length.ts';
import checks from '../../../tests/outside/check-values.json';
import { bearing, type BorneTool, type WholeLimits } from './bears.ts';
import { clashes, hangingRadius, LEAST_GAP } from './clearance.ts';
import { changerLayout, type ChangerShape } from './layout.ts';
import { standingRefusal, type StandingQuestion } from './standing.ts';
import { capacitiesOf, cellRanges, trayCapacity } from './tray-cells.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const NONE: WholeLimits = { unit: 'mm', heaviestAll: null, unbalance: null, swing: null };
const tool = (pocket: number, mass: number, standOut = 40): BorneTool => ({
  pocket,
  tool: pocket,
  radius: 30,
  mass,
  standOut,
});
const ring: ChangerShape = { kind: 'randomAccess', places: 4, pitch: 100 };

describe('what a changer bears as a whole (H5)', () => {
  it('all tools together, those in the spindle too, against the plate', () => {
    const tools = [tool(1, 4000), tool(2, 5000), tool(0, 2000)];
    expect(bearing(ring, { ...NONE, heaviestAll: 11_000 }, tools)).toMatchObject({ total: 11_000, over: [] });
    expect(bearing(ring, { ...NONE, heaviestAll: 10_900 }, tools).over).toEqual([
      'The changer would bear 11.0 kg; its plate says 10.9 kg for all tools together.',
    ]);
  });
  it('two like tools across the ring balance; beside each other they pull between them', () => {
    expect(bearing(ring, NONE, [tool(1, 4000), tool(3, 4000)]).unbalance).toBeCloseTo(0, 6);
    const { unbalance, towards } = bearing(ring, NONE, [tool(1, 4000), tool(2, 4000)]);
    // pockets 1 and 2 stand a quarter turn apart on a circle of 70.7 mm: their sum is 4 kg × 70.7 mm × √2
    expect(unbalance).toBeCloseTo(400, 6);
    expect([1, 2]).toContain(towards);
  });
  it('out of balance is something to look at, not a refusal: loading passes through it', () => {
    const limits = { ...NONE, unbalance: 200 };
    expect(bearing(ring, limits, [tool(1, 4000)])).toMatchObject({
      over: [],
      look: [expect.stringMatching(/0\.3 kg·m out of balance towards pocket 1; its plate says 0\.2/)],
    });
    // nothing turns about a middle on these
    for (const kind of ['rack', 'tray', 'chain'] as const)
      expect(bearing({ ...ring, kind, places: 20 }, limits, [tool(1, 4000)])).toMatchObject({
        unbalance: 0,
        towards: null,
        look: [],
      });
  });
  it('a turret swings its radius and the tool that stands out furthest, twice', () => {
    const turret: ChangerShape = { kind: 'turret', places: 12, pitch: 110 };
    const { swing, over } = bearing(turret, { ...NONE, swing: mm(500) }, [tool(1, 0, 70), tool(2, 0, 100)]);
    expect(swing).toBeCloseTo(2 * (110 / 2 / Math.sin(Math.PI / 12) + 100), 6);
    expect(over).toEqual(['The turret would swing 625 mm across; its plate says 500 mm.']);
    expect(bearing(turret, { ...NONE, swing: mm(626) }, [tool(1, 0, 100)]).over).toEqual([]);
  });
});

const holder = (over: Partial<AssemblyShape> = {}): AssemblyShape & { mass: null; moment: null } => ({
  kind: 'endMill',
  interface: 'steep 40',
  gaugeLength: mm(120),
  stickOut: mm(40),
  holderDiameter: mm(40),
  diameter: mm(10),
  mass: null,
  moment: null,
  ...over,
});

describe('flange beside flange', () => {
  const common: ChangerShape = { kind: 'randomAccess', places: 30, pitch: 63.5 };
  const standing = (pocket: number, assembly: AssemblyShape) => ({
    pocket,
    tool: pocket,
    radius: hangingRadius(common, assembly),
    mass: null,
  });
  it('on the common 40-taper changer the pitch is 2.5 in, the flange’s own size: a full magazine strikes nothing (common practice, no source)', () => {
    expect(
      clashes(
        common,
        Array.from({ length: 30 }, (_, i) => standing(i + 1, holder())),
      ),
    ).toEqual([]);
  });
  it('whatever sticks out past the flange counts in full', () => {
    const wide = holder({ kind: 'faceMill', diameter: mm(66) });
    expect(hangingRadius(common, wide)).toBe(33);
    expect(clashes(common, [standing(1, wide), standing(2, holder())])).toHaveLength(1);
    expect(clashes(common, [standing(1, wide), standing(3, holder())])).toEqual([]);
  });
  it.each(CHANGER_KINDS.filter((kind) => kind !== 'turret'))(
    'a full %s of plain holders leaves the least gap',
    (kind) => {
      const shape = { kind, places: 30, pitch: 64 };
      const radius = hangingRadius(shape, holder());
      const spots = changerLayout(shape);
      for (const [i, a] of spots.entries())
        for (const b of spots.slice(i + 1))
          expect(Math.hypot(a.x - b.x, a.y - b.y) - 2 * radius).toBeGreaterThan(LEAST_GAP - 1e-6);
    },
  );
});

describe('cells of a tray', () => {
  it('fewer of the larger holder: a tray of 143 holds 110 of the next size up (H4; common practice, no source)', () => {
    const small = { columns: 13, rows: 11, pitch: 40 };
    expect(trayCapacity(small, 40)).toBe(143);
    // cells 9 % larger are 11 along and 10 across
    expect(trayCapacity(small, 40 * 1.09)).toBe(110);
    expect(trayCapacity(small, 521)).toBe(0);
    // smaller cells hold more, larger ones fewer, and as it is it holds what it has
    const holds = capacitiesOf({ places: 40, pitch: 100 });
    expect(holds.map((each) => each.pitch)).toEqual([80, 100, 125, 160]);
    expect(holds[1]!.holds).toBe(40);
    for (let i = 1; i < holds.length; i += 1) expect(holds[i]!.holds).toBeLessThan(holds[i - 1]!.holds);
  });
  it('rows of one size are told together', () => {
    const pockets = [null, null, 32, 32, 40, null].map((cell, i) => ({
      number: i + 1,
      cell: cell === null ? null : mm(cell),
    }));
    expect(cellRanges(pockets)).toEqual([
      { from: 1, to: 2, cell: null },
      { from: 3, to: 4, cell: mm(32) },
      { from: 5, to: 5, cell: mm(40) },
      { from: 6, to: 6, cell: null },
    ]);
  });
  const asks = (over: Partial<StandingQuestion> = {}): StandingQuestion => ({
    shape: { kind: 'tray', places: 20, pitch: 45 },
    unit: 'mm',
    alone: new Set(),
    pockets: Array.from({ length: 20 }, (_, i) => ({
      number: i + 1,
      tool: null,
      wide: false,
      tied: null,
      inService: true,
      reserved: false,
      cell: i < 10 ? mm(32) : mm(40),
    })),
    pocket: 3,
    tool: 9,
    widest: mm(32),
    radius: 16,
    standing: new Map(),
    where: { verdict: 'fits', reasons: [], remarks: [] },
    ...over,
  });
  it('a holder goes into a cell of its size, and not into a smaller one', () => {
    expect(standingRefusal(asks())).toBeNull();
    expect(standingRefusal(asks({ widest: mm(36) }))).toBe(
      'Pocket 3 takes holders up to 32.0 mm, and this is 36.0 mm across.',
    );
    expect(standingRefusal(asks({ widest: mm(36), pocket: 13 }))).toBeNull();
  });
  it('two wide tools that share their gap take five pockets (common practice, no source)', () => {
    expect(checks.commonPractice.pocketsTakenByWideTools.two).toBe(5);
    const table = asks({ shape: { kind: 'randomAccess', places: 20, pitch: 80 } }).pockets.map((pocket) => ({
      ...pocket,
      cell: null,
      wide: pocket.number === 4 || pocket.number === 6,
      tied: pocket.number === 4 ? 4 : pocket.number === 6 ? 6 : null,
    }));
    const refused = table
      .map((pocket) => pocket.number)
      .filter(
        (pocket) =>
          standingRefusal(
            asks({ shape: { kind: 'randomAccess', places: 20, pitch: 80 }, pockets: table, pocket, tool: 9 }),
          ) !== null,
      );
    expect(refused).toEqual([3, 4, 5, 6, 7]);
  });
});
