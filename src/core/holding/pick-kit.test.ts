import { describe, expect, it } from 'vitest';
import type { ComponentKind, Dimensions } from '../component/kinds.ts';
import type { Definition } from '../definition/read-definition.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { lengthOf } from '../units/length.ts';
import { pickKit, type Shelved } from './pick-kit.ts';

const mm = (value: number) => lengthOf(value, 'mm');
let next = 0;
function piece(
  number: string,
  kind: ComponentKind,
  sizes: Record<string, number>,
  over: Partial<Shelved> = {},
): Shelved {
  return {
    id: (next += 1),
    number,
    name: kind,
    kind,
    dimensions: Object.fromEntries(
      Object.entries(sizes).map(([name, value]) => [
        name,
        name === 'ZEFP' || name === 'SIG' ? value : mm(value),
      ]),
    ) as Dimensions,
    interface: '',
    series: '',
    flat: false,
    coolant: false,
    leftHand: false,
    material: 'carbide',
    torque: null,
    stock: 2,
    shelf: 'A1',
    ...over,
  };
}
const CHUCK = piece(
  'H-CC',
  'colletChuck',
  { DCONWS: 20, LPR: 80, BD: 50 },
  { interface: 'steep 40', series: 'C32' },
);
const SLIM = piece(
  'H-C20',
  'colletChuck',
  { DCONWS: 13, LPR: 90, BD: 34 },
  { interface: 'steep 40', series: 'C20' },
);
const HYDRAULIC = piece('H-HY', 'hydraulic', { DCONWS: 12, LPR: 79, BD: 42 }, { interface: 'steep 40' });
const OTHER_END = piece(
  'H-30',
  'colletChuck',
  { DCONWS: 13, LPR: 60, BD: 30 },
  { interface: 'steep 30', series: 'C20' },
);
const ARBOR = piece('H-AR', 'arbor', { DCONWS: 27, LPR: 37, BD: 60 }, { interface: 'steep 40' });
const COLLET = (series: string, size: number, over: Partial<Shelved> = {}) =>
  piece(`${series}-${size}`, 'collet', { DCONWS: size, DCONMS: 33 }, { series, ...over });
const DRILL = piece('D-85', 'drillStub', { DC: 8.5, DCONMS: 10, OAL: 103, LCF: 58, SIG: 140 });
const KNOB = piece('K-45', 'knob', {}, { interface: 'steep 40', series: 'K-45' });
const SPINDLE = { machine: 'Avocet', interface: 'steep 40', knob: 'K-45', throughCoolant: false };
const asked = (over: Partial<Definition> = {}): Definition => ({
  kind: 'drill',
  diameter: mm(8.5),
  cornerRadius: null,
  teeth: null,
  reach: null,
  thread: '',
  leftHand: null,
  leastLife: null,
  ...over,
});
const show = (value: ReturnType<typeof mm>) => formatWithUnit(value, 'mm');
const picked = (catalogue: Shelved[], definition = asked()) => {
  const kit = pickKit(definition, catalogue, SPINDLE, show);
  return (
    kit && {
      ...kit,
      pieces: kit.pieces.map(({ role, piece: { number }, count }) => `${role} ${number} ${count}`),
    }
  );
};

describe('the pieces to fetch for a tool that is asked for (H3)', () => {
  it('cutter, holder of this taper, the collet nearest above the shank, and the machine’s knob', () => {
    expect(
      picked([DRILL, CHUCK, OTHER_END, COLLET('C32', 12), COLLET('C32', 10), COLLET('C20', 10), KNOB]),
    ).toEqual({
      pieces: ['holder H-CC 1', 'adapter C32-10 1', 'cutter D-85 1', 'knob K-45 1'],
      lacking: [],
    });
  });
  it('the smallest holder that takes it: slimmer, and nearer to nominal', () => {
    const all = [DRILL, CHUCK, SLIM, COLLET('C32', 10), COLLET('C20', 10), KNOB];
    expect(picked(all)!.pieces[0]).toBe('holder H-C20 1');
  });
  it('the holder that the shop has built most of such cutters into comes before a slimmer one', () => {
    const all = [DRILL, CHUCK, SLIM, COLLET('C32', 10), COLLET('C20', 10), KNOB];
    const kit = pickKit(asked(), all, SPINDLE, show, (holder, cutter) =>
      holder === CHUCK && cutter === 'drillStub' ? 3 : 0,
    );
    expect(kit!.pieces[0]!.piece).toBe(CHUCK);
    // but never one whose collet is not to be had
    const without = all.map((each) => (each.number === 'C32-10' ? { ...each, stock: 0 } : each));
    expect(pickKit(asked(), without, SPINDLE, show, () => 1)!.pieces[0]!.piece).toBe(SLIM);
  });
  it('what lies on a shelf comes before what does not', () => {
    const gone = COLLET('C20', 10, { stock: 0 });
    const all = [DRILL, CHUCK, SLIM, COLLET('C32', 10), gone, KNOB];
    expect(picked(all)).toEqual({
      pieces: ['holder H-CC 1', 'adapter C32-10 1', 'cutter D-85 1', 'knob K-45 1'],
      lacking: [],
    });
    const worn = { ...DRILL, id: 900, number: 'D-84', stock: 0 };
    expect(picked([worn, ...all])!.pieces).toContain('cutter D-85 1');
  });
  it('what is not to be had is said', () => {
    expect(
      picked([{ ...DRILL, stock: 0 }, HYDRAULIC, piece('S-10', 'sleeve', { DCONWS: 10, DCONMS: 12 })]),
    ).toEqual({
      pieces: ['holder H-HY 1', 'adapter S-10 1', 'cutter D-85 1'],
      lacking: ['No retention knob K-45 is in the catalogue.', 'D-85 drillStub: none on the shelf.'],
    });
    expect(picked([DRILL, OTHER_END, COLLET('C20', 10)])).toEqual({
      pieces: ['cutter D-85 1'],
      lacking: ['No holder with a steep 40 end in the catalogue may carry D-85.'],
    });
  });
  it('a face mill takes as many inserts as it has seats', () => {
    const mill = piece('F-80', 'faceMill', { DC: 80, DCONMS: 27, LF: 50, ZEFP: 5 }, { series: 'SEKT 1204' });
    const inserts = piece('I-1', 'insert', {}, { series: 'SEKT120408', stock: 4 });
    const kit = picked([mill, ARBOR, inserts, KNOB], asked({ kind: 'faceMill', diameter: mm(80) }));
    expect(kit!.pieces).toContain('insert I-1 5');
    expect(kit!.lacking).toEqual(['I-1 insert: only 4 of 5 on the shelf.']);
  });
  it('the corner asked for is that of its inserts, where the mill is not ground to one', () => {
    const mill = piece('F-80', 'faceMill', { DC: 80, DCONMS: 27, LF: 50, ZEFP: 5 }, { series: 'SEKT 1204' });
    const insert = (number: string, radius: number, series: string) =>
      piece(number, 'insert', { RE: radius }, { series, stock: 9 });
    const wanted = asked({ kind: 'faceMill', diameter: mm(80), cornerRadius: mm(0.8) });
    const rest = [ARBOR, KNOB];
    const [large, right] = [insert('I-1', 1.2, 'SEKT120412'), insert('I-2', 0.79375, 'SEKT 432')];
    expect(picked([mill, ...rest, large, right], wanted)).toEqual({
      pieces: expect.arrayContaining(['cutter F-80 1', 'insert I-2 5']) as unknown,
      lacking: [],
    });
    expect(picked([mill, ...rest, large], wanted)!.lacking).toEqual([
      'No inserts SEKT 1204 with a corner of 0.800 mm are in the catalogue.',
    ]);
    // one that is ground to a corner has it whatever is screwed in
    const ground = { ...mill, dimensions: { ...mill.dimensions, RE: mm(0.8) } };
    expect(picked([ground, ...rest, large], wanted)!.pieces).toContain('insert I-1 5');
  });
  it('a turning tool is fetched with its insert', () => {
    const turned = picked(
      [
        piece('TT-1', 'turningTool', { LF: 150, DCONMS: 25 }, { series: 'CNMG 1204' }),
        piece('T25-S', 'turningHolder', { DCONWS: 25, LPR: 60, BD: 70 }, { interface: 'steep 40' }),
        piece('I-C', 'insert', { RE: 0.8 }, { series: 'CNMM 120408' }),
        piece('I-D', 'insert', { RE: 0.8 }, { series: 'DNMG 150608' }),
        KNOB,
      ],
      asked({ kind: 'turning', diameter: null }),
    );
    expect(turned!.pieces).toContain('insert I-C 1');
  });
  it('of cutters alike the one on the shelf, then the lower number, whichever way they lie', () => {
    const numbered = (number: string, stock: number) => ({ ...DRILL, number, stock });
    const rest = [CHUCK, COLLET('C32', 10), KNOB];
    const cutterOf = (drills: Shelved[]) =>
      picked([...drills, ...rest])!.pieces.find((each) => each.startsWith('cutter'));
    for (const drills of [
      [numbered('D-1', 0), numbered('D-3', 1), numbered('D-2', 1)],
      [numbered('D-2', 1), numbered('D-3', 1), numbered('D-1', 0)],
    ])
      expect(cutterOf(drills)).toBe('cutter D-2 1');
    expect(cutterOf([numbered('D-3', 0), numbered('D-2', 0)])).toBe('cutter D-2 1');
  });
  it('of collets that close on it one on the shelf, even if it closes further; one with none is better than none', () => {
    const of = (...collets: Shelved[]) => picked([DRILL, CHUCK, ...collets, KNOB])!;
    expect(of(COLLET('C32', 10, { stock: 0 }), COLLET('C32', 10.5)).pieces[1]).toBe('adapter C32-10.5 1');
    expect(of(COLLET('C32', 10.5), COLLET('C32', 10)).pieces[1]).toBe('adapter C32-10 1');
    expect(of(COLLET('C32', 10.5, { stock: 0 }), COLLET('C32', 10, { stock: 0 }))).toMatchObject({
      pieces: expect.arrayContaining(['adapter C32-10 1']),
      lacking: ['C32-10 collet: none on the shelf.'],
    });
  });
  it('inserts and knobs: of those that fit the ones that suffice, and none that do not fit', () => {
    const mill = piece('F-80', 'faceMill', { DC: 80, DCONMS: 27, LF: 50, ZEFP: 5 }, { series: 'SEKT 1204' });
    const inserts = (number: string, series: string, stock: number) =>
      piece(number, 'insert', {}, { series, stock });
    const kitOf = (...more: Shelved[]) =>
      picked([mill, ARBOR, ...more, KNOB], asked({ kind: 'faceMill', diameter: mm(80) }))!;
    const [few, five, strange] = [
      inserts('I-1', 'SEKT120408', 4),
      inserts('I-2', 'SEKT120412', 5),
      inserts('I-3', 'APKT1003', 50),
    ];
    expect(kitOf(strange, few, five).pieces).toContain('insert I-2 5');
    expect(kitOf(strange).lacking).toEqual(['No inserts SEKT 1204 are in the catalogue.']);
    expect(kitOf(piece('X', 'endMillSharp', {}, { series: 'SEKT120408' })).lacking).toHaveLength(1);
    // brazed edges: nothing to put in
    const solid = { ...mill, series: '' };
    expect(
      picked([solid, ARBOR, five, KNOB], asked({ kind: 'faceMill', diameter: mm(80) }))!.pieces.join(),
    ).not.toMatch(/insert/);
    const other = piece('K-60', 'knob', {}, { interface: 'steep 40', series: 'K-60' });
    const drawn = pickKit(asked(), [DRILL, CHUCK, COLLET('C32', 10), other, KNOB], SPINDLE, show)!;
    expect(drawn.pieces.find(({ role }) => role === 'knob')!.piece.number).toBe('K-45');
    const none = pickKit(asked(), [DRILL, CHUCK, COLLET('C32', 10), KNOB], { ...SPINDLE, knob: '' }, show)!;
    expect(none).toMatchObject({ lacking: [] });
    expect(none.pieces.some(({ role }) => role === 'knob')).toBe(false);
  });
  it('however many of them no holder takes, the one that a holder takes is found; and none, only when all were tried', () => {
    const thick = Array.from({ length: 12 }, (_, i) =>
      piece(`D-${10 + i}`, 'drillStub', { DC: 8.5, DCONMS: 25, OAL: 103, LCF: 58, SIG: 140 }),
    );
    const rest = [SLIM, COLLET('C20', 10), KNOB];
    expect(picked([...thick, DRILL, ...rest])).toEqual({
      pieces: ['holder H-C20 1', 'adapter C20-10 1', 'cutter D-85 1', 'knob K-45 1'],
      lacking: [],
    });
    expect(picked([...thick, ...rest])!.lacking).toEqual([
      'No holder with a steep 40 end in the catalogue may carry D-10, nor any other cutter that would do.',
    ]);
    // nor is a kit that lacks its collet taken for the best there is
    const without = Array.from({ length: 12 }, (_, i) =>
      piece(`D-${10 + i}`, 'drillStub', { DC: 8.5, DCONMS: 13, OAL: 103, LCF: 58, SIG: 140 }),
    );
    expect(picked([...without, DRILL, ...rest])).toMatchObject({ lacking: [] });
  });
  it('nothing in the catalogue could become it', () => {
    expect(picked([DRILL, CHUCK, KNOB], asked({ diameter: mm(9) }))).toBeNull();
  });
});
