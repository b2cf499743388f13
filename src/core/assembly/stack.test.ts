import { describe, expect, it } from 'vitest';
import { piece } from '../../../tests/support/pieces.ts';
import { inUnit, lengthOf } from '../units/length.ts';
import { figures } from './silhouette.ts';
import { cornerOf, costPerEdge, sizeOf, stackFacts, type Stack } from './stack.ts';
import { turningFiguresStanding } from './turning-figure.ts';
import { weighed } from './weighed.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const endMill = () => piece('endMillSharp', { DC: 10, DCONMS: 10, OAL: 72, LCF: 22, ZEFP: 4 });

describe('what follows from a stack', () => {
  const stack = (over: Partial<Stack> = {}): Stack => ({
    holder: piece(
      'colletChuck',
      { LPR: 70, BD: 40, DCONWS: 20, RPMX: 20_000, WT: 900 },
      { interface: 'steep 40' },
    ),
    extension: null,
    nut: null,
    second: null,
    adapter: piece('collet', { DCONWS: 10, DCONMS: 32, WT: 90 }),
    cutter: endMill(),
    inserts: null,
    secondInserts: null,
    knob: null,
    stickOut: mm(36),
    ...over,
  });
  it('the gauge length is the holder, the extension and the stick-out', () => {
    expect(stackFacts(stack()).gaugeLength).toBe(mm(106));
    const extension = piece('extension', { LPR: 60, BD: 25, DCONWS: 10, DCONMS: 20 });
    expect(stackFacts(stack({ extension })).gaugeLength).toBe(mm(166));
  });
  it('the outline ends at the gauge length and is as wide as its flange', () => {
    const { outline, widest } = stackFacts(stack());
    expect(Math.max(...outline.map(([along]) => along))).toBeCloseTo(106, 9);
    expect(inUnit(widest, 'mm')).toBeCloseTo(63.55, 6);
  });
  it('both tools of a double holder are drawn, a quarter of its body either side of the middle', () => {
    const facts = stackFacts(
      stack({
        holder: piece('turningHolderDouble', { LPR: 60, BD: 96, DCONWS: 25 }, { interface: 'shank 25' }),
        adapter: null,
        cutter: piece('turningTool', { LF: 150, DCONMS: 25 }),
        second: piece('groovingTool', { LF: 150, DCONMS: 20 }),
        stickOut: mm(34),
      }),
    );
    const drawn = figures({
      kind: 'turning',
      interface: 'shank 25',
      gaugeLength: facts.gaugeLength,
      stickOut: mm(34),
      holderDiameter: mm(96),
      diameter: mm(25),
      outline: facts.outline,
      seats: facts.seats,
    });
    const across = drawn.map((figure) => figure.map((point) => point[1]));
    expect(across.map((values) => [Math.min(...values), Math.max(...values)])).toEqual([
      [-24 - 12.5, -24 + 12.5],
      [24 - 10, 24 + 10],
      [-48, 48],
    ]);
    expect(drawn.map((figure) => Math.max(...figure.map((point) => point[0])))).toEqual([94, 94, 60]);
    expect(inUnit(facts.widest, 'mm')).toBe(96);
  });
  it('two tools that stand beyond their holder’s body make it as wide as they reach', () => {
    const { widest } = stackFacts(
      stack({
        holder: piece('turningHolderDouble', { LPR: 60, BD: 40, DCONWS: 25 }, { interface: 'shank 25' }),
        adapter: null,
        cutter: piece('turningTool', { LF: 150, DCONMS: 25 }),
        second: piece('groovingTool', { LF: 150, DCONMS: 25 }),
        stickOut: mm(34),
      }),
    );
    expect(inUnit(widest, 'mm')).toBe(2 * (10 + 12.5));
  });
  it('out of a turret stand the stick-out and a stub of the body', () => {
    const shape = {
      kind: 'turning' as const,
      interface: 'shank 25' as const,
      gaugeLength: mm(150),
      stickOut: mm(32),
      holderDiameter: mm(25),
      diameter: mm(10),
    };
    const along = turningFiguresStanding(shape)
      .flat()
      .map((point) => point[0]);
    expect([Math.min(...along), Math.max(...along)]).toEqual([0, 32 + 34]);
  });
  it('the lowest speed in the stack is its limit', () => {
    const cutter = endMill();
    cutter.dimensions = { ...cutter.dimensions, RPMX: 12_000 };
    expect(stackFacts(stack()).speedLimit).toEqual({ rpm: 20_000, by: 'collet chuck' });
    expect(stackFacts(stack({ cutter })).speedLimit).toEqual({ rpm: 12_000, by: 'end mill, sharp corner' });
  });
  it('a nut that stands for less speed than its chuck sets the limit', () => {
    const nut = piece('nut', { BD: 50, DCONMS: 40, RPMX: 12_000 }, { series: 'C32' });
    expect(stackFacts(stack({ nut }))).toMatchObject({ speedLimit: { rpm: 12_000, by: 'collet nut' } });
    expect(
      Math.max(
        ...stackFacts(stack({ nut }))
          .outline.slice(2)
          .map(([, radius]) => radius),
      ),
    ).toBe(25);
  });
  it('the mass is weighed when every piece has one, else it is worked out', () => {
    const cutter = endMill();
    cutter.dimensions = { ...cutter.dimensions, WT: 80 };
    expect(stackFacts(stack({ cutter }))).toMatchObject({ mass: 1070, massWeighed: true });
    expect(stackFacts(stack()).massWeighed).toBe(false);
    const inserts = { component: piece('insert', { WT: 6 }), count: 5 };
    const knob = piece('knob', { WT: 55 });
    expect(stackFacts(stack({ cutter, inserts, knob })).mass).toBe(1070 + 30 + 55);
    // one piece that nobody weighed, and the sum would be too light
    expect(stackFacts(stack({ cutter, nut: piece('nut', { BD: 50 }) })).massWeighed).toBe(false);
  });
  it('what is reckoned counts the taper too, which no outline shows', () => {
    const bare = stackFacts(stack());
    const larger = stackFacts(
      stack({ holder: piece('colletChuck', { LPR: 70, BD: 40, DCONWS: 20 }, { interface: 'steep 50' }) }),
    );
    // the same below the gauge line, but for the flange, which is a disc of its own
    const disc = (flange: number) => Math.PI * (flange / 2) ** 2 * (0.3 * flange) * 0.00785;
    const body = (flange: number) => Math.PI * 20 ** 2 * (0.3 * flange) * 0.00785;
    const grows = disc(97.5) - disc(63.55) - (body(97.5) - body(63.55));
    expect(larger.mass - bare.mass).toBeCloseTo(grows + 1940 - 515, 6);
  });
  it('what it weighs is what its magazine is told, and whether anybody weighed it', () => {
    const facts = stackFacts(stack());
    const shape = {
      kind: 'endMill' as const,
      interface: 'steep 40' as const,
      gaugeLength: facts.gaugeLength,
      stickOut: mm(36),
      holderDiameter: mm(40),
      diameter: mm(10),
      outline: facts.outline,
      moment: facts.moment,
    };
    expect(weighed({ ...shape, mass: facts.mass, massReckoned: true })).toEqual({
      mass: facts.mass,
      moment: facts.moment,
      reckoned: true,
    });
    // reckoned as steel it is lighter than with its carbide cutter, and by no more than that
    const steel = weighed({ ...shape, mass: null }).mass;
    expect(facts.mass - steel).toBeGreaterThan(0);
    expect(facts.mass - steel).toBeLessThanOrEqual(Math.PI * 25 * 36 * (0.0145 - 0.00785) + 1e-6);
  });
  it('a face mill cuts from its nose on; a drill’s flutes end where its shank begins', () => {
    const mill = piece('faceMill', { DC: 50, DCX: 63, DCONMS: 22, LF: 40, ZEFP: 5 });
    const arbor = piece('arbor', { LPR: 50, BD: 48, DCONWS: 22 }, { interface: 'steep 40' });
    const of = (over: Partial<Stack>) => stackFacts(stack({ adapter: null, ...over })).outline;
    expect(of({ holder: arbor, cutter: mill, stickOut: mm(40) }).slice(-3)).toEqual([
      [50, 31.5],
      [90, 31.5],
      [90, 15.75],
    ]);
    const cutter = piece('drillJobber', { DC: 8, DCONMS: 10, OAL: 117, LCF: 30, SIG: 118 });
    const drilled = of({ cutter, stickOut: mm(50) });
    expect(drilled.slice(-5, -3)).toEqual([
      [70, 5],
      [90, 5],
    ]);
    expect(drilled.at(-1)).toEqual([120, 0]);
    // gripped so short that only flutes stand out
    expect(of({ cutter, stickOut: mm(20) }).filter(([, radius]) => radius === 5)).toEqual([]);
  });
  it('mass and moment of a plain steel cylinder are those of the formula (geometry)', () => {
    // a holder that is all flange: 31.775 mm of radius over 40 mm, density 7.85 g/cm³, and a needle of a cutter
    const plain = piece('colletChuck', { LPR: 40, BD: 63.55, DCONWS: 20 }, { interface: 'steep 40' });
    const needle = piece('endMillSharp', { DC: 0.001, DCONMS: 0.001, OAL: 3, LCF: 0.001, ZEFP: 2 });
    const facts = stackFacts(stack({ holder: plain, adapter: null, cutter: needle, stickOut: mm(0.001) }));
    const mass = Math.PI * 3.1775 ** 2 * 4 * 7.85;
    // and the taper above the gauge line, which has no moment about it
    expect(facts.mass - 515).toBeCloseTo(mass, 2);
    expect(facts.moment).toBeCloseTo((mass / 1000) * 9.80665 * 0.02, 4);
  });

  it('a shorter stick-out is said to be stiffer by as much as it is', () => {
    const long = stackFacts(stack({ stickOut: mm(44) }));
    const short = stackFacts(stack({ stickOut: mm(22) }));
    expect(long.stifferAtLeast).toBeCloseTo(short.stiffness! / long.stiffness!, 9);
    expect(long.stifferAtLeast!).toBeGreaterThan(2);
    expect(short.stifferAtLeast).toBeNull();
    expect(long.lengthToDiameter).toBeCloseTo(4.4, 9);
    expect(long.leastStickOut).toBe(mm(22));
    // the flutes bend as four fifths of their diameter, the shank as all of it; carbide (beam formula)
    const bend = (from: number, to: number, d: number) =>
      (to ** 3 - from ** 3) / (3 * 600_000 * ((Math.PI * d ** 4) / 64));
    expect(long.stiffness).toBeCloseTo(1 / (1000 * (bend(0, 22, 8) + bend(22, 44, 10))), 9);
  });
  it('an edge costs the insert over its edges, or the cutter over its uses', () => {
    expect(costPerEdge({ cost: 9000, regrinds: null }, [{ cost: 1200, edges: 4 }])).toBe(300);
    // both tools of a double holder have a fresh edge
    const both = [
      { cost: 1200, edges: 4 },
      { cost: 1500, edges: 2 },
    ];
    expect(costPerEdge({ cost: 9000, regrinds: null }, both)).toBe(1050);
    expect(costPerEdge({ cost: 6000, regrinds: 3 }, [])).toBe(1500);
    expect(costPerEdge({ cost: null, regrinds: 3 }, [])).toBeNull();
  });
  it('the corner it cuts with is that of its inserts, where the cutter is not ground to one itself', () => {
    const insert = { component: piece('insert', { RE: 0.8 }, { series: 'CNMG 120408' }), count: 1 };
    expect(cornerOf({ cutter: piece('turningTool'), inserts: insert })).toBe(mm(0.8));
    expect(cornerOf({ cutter: piece('endMillRadius', { RE: 2 }), inserts: null })).toBe(mm(2));
    expect(cornerOf({ cutter: piece('boringBar', { RE: 0.4 }), inserts: insert })).toBe(mm(0.4));
    expect(cornerOf({ cutter: endMill(), inserts: null })).toBe(0);
  });
  it('how large it is: across, or by the circle in the insert of a turning tool, or else its shank', () => {
    const insert = (series: string) => ({ component: piece('insert', {}, { series }), count: 1 });
    const tool = piece('turningTool', { DCONMS: 25, LF: 150 });
    expect(sizeOf({ cutter: tool, inserts: insert('CNMG 120408') })).toBe(mm(12.7));
    expect(sizeOf({ cutter: tool, inserts: insert('GR-3') })).toBe(mm(25));
    expect(sizeOf({ cutter: tool, inserts: null })).toBe(mm(25));
    const mill = piece('faceMill', { DC: 80, DCONMS: 27, ZEFP: 5 });
    expect(sizeOf({ cutter: mill, inserts: insert('SEKT 120408') })).toBe(mm(80));
  });
  it('an extension is drawn between holder and tool, as thick and as long as it is', () => {
    const extension = piece('extension', { LPR: 60, BD: 25, DCONWS: 10, DCONMS: 20 });
    const { outline } = stackFacts(stack({ extension }));
    const at = outline.findIndex(([along, radius]) => along === 70 && radius === 12.5);
    expect(at).toBeGreaterThan(0);
    expect(outline[at + 1]).toEqual([130, 12.5]);
    // the tool leaves it where it ends
    expect(outline[at + 2]).toEqual([130, 5]);
    expect(outline.at(-1)).toEqual([166, 5]);
  });
  it('a shell mill cuts from its arbor on as a face mill does', () => {
    const arbor = piece('arbor', { LPR: 50, BD: 48, DCONWS: 22 }, { interface: 'steep 40' });
    for (const kind of ['shellMill', 'faceMill'] as const) {
      const cutter = piece(kind, { DC: 63, DCONMS: 22, LF: 40, LCF: 12, ZEFP: 5 });
      const { outline } = stackFacts(stack({ holder: arbor, adapter: null, cutter, stickOut: mm(40) }));
      expect(outline.filter(([along]) => along === 50).map(([, radius]) => radius)).toEqual([24, 31.5]);
    }
  });
  it('how stiff it is nobody can say without its diameters, its flutes, or when nothing stands out', () => {
    expect(stackFacts(stack()).stiffness).toBeGreaterThan(0);
    for (const lacks of ['DC', 'DCONMS', 'LCF'] as const) {
      const dimensions = Object.fromEntries(
        Object.entries(endMill().dimensions).filter(([name]) => name !== lacks),
      );
      const facts = stackFacts(stack({ cutter: { ...endMill(), dimensions } }));
      expect([facts.stiffness, facts.stifferAtLeast]).toEqual([null, null]);
    }
    expect(stackFacts(stack({ stickOut: mm(0) }))).toMatchObject({ stiffness: null, stifferAtLeast: null });
  });
  it('its length to diameter is by what cuts, else by its shank', () => {
    const cutter = piece('turningBar', { DCONMS: 16, LF: 150 });
    expect(stackFacts(stack({ cutter, stickOut: mm(48) })).lengthToDiameter).toBeCloseTo(3, 9);
    const necked = piece('endMillSharp', { DC: 6, DCONMS: 12, OAL: 72, LCF: 22, ZEFP: 4 });
    expect(stackFacts(stack({ cutter: necked, stickOut: mm(48) })).lengthToDiameter).toBeCloseTo(8, 9);
  });
  it('an edge of an insert that nobody priced has no price, whatever its cutter cost', () => {
    expect(costPerEdge({ cost: 9000, regrinds: null }, [{ cost: null, edges: 4 }])).toBeNull();
    const half = [
      { cost: 1200, edges: 4 },
      { cost: null, edges: 2 },
    ];
    expect(costPerEdge({ cost: 9000, regrinds: null }, half)).toBeNull();
    expect(costPerEdge({ cost: 6000, regrinds: null }, [])).toBe(6000);
  });
});
