import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Component } from '../component/kinds.ts';
import { lengthOf, type Length } from '../units/length.ts';
import { fulfil, type Candidate } from './fulfil.ts';
import { lookAlike, lookAlikes } from './look-alikes.ts';
import { definitionWords, readDefinition } from './read-definition.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const show = (value: Length) => `${value / 1e6} mm`;
const words = (comment: string, unit: 'mm' | 'in' = 'mm', machine: 'mill' | 'lathe' = 'mill') => {
  const read = readDefinition(comment, unit, machine);
  return read && definitionWords(read, show);
};

describe('what a program asks for is read from its comments', () => {
  it.each([
    ['END MILL 10 FINISH', 'end mill, 10 mm'],
    ['T3 - 4 FLUTE ENDMILL 12 R0.5', 'end mill, 12 mm, R 0.5 mm, 4 teeth'],
    ['BALL NOSE END MILL 8', 'ball end mill, 8 mm'],
    ['SPOT DRILL 10 X 90 DEG', 'spot drill, 10 mm'],
    ['DRILL 6.8', 'drill, 6.8 mm'],
    ['TAP M10X1.25', 'tap, M10x1.25'],
    ['REAMER 12 H7', 'reamer, 12 mm'],
    ['5-EDGE FACE MILL 80', 'face mill, 80 mm, 5 teeth'],
    ['FINE BORING BAR 52', 'fine boring bar, 52 mm'],
  ])('%s', (comment, wanted) => expect(words(comment)).toBe(wanted));
  it('in inches, by number and by fraction', () => {
    expect(words('DRILL #7', 'in')).toBe('drill, 5.1054 mm');
    expect(words('1/2 END MILL', 'in')).toBe('end mill, 12.7 mm');
    expect(words('TAP 1/4-20', 'in')).toBe('tap, 1/4-20');
    expect(words('DRILL .201', 'in')).toBe('drill, 5.1054 mm');
  });
  it('on a lathe a boring bar turns, and no diameter is made up', () => {
    expect(words('BORING BAR FINISH 8', 'in', 'lathe')).toBe('boring bar (lathe)');
    expect(words('OD FINISH 35 DEG', 'in', 'lathe')).toBe('turning tool');
    expect(words('PART OFF', 'in', 'lathe')).toBe('parting tool');
  });
  it('a comment about something else asks for nothing', () => {
    expect(words('G54: MIDDLE OF BLANK')).toBeNull();
    expect(words('REV C, SEE SHEET 2')).toBeNull();
  });
});

const candidate = (over: Partial<Candidate>): Candidate => ({
  id: 1,
  leftHand: false,
  number: 'C-1',
  name: '',
  kind: 'endMill',
  interface: 'steep 40',
  diameter: mm(10),
  cornerRadius: mm(0.2),
  stickOut: mm(36),
  teeth: 4,
  thread: '',
  flag: null,
  lifeLeft: 0.5,
  machine: null,
  tool: null,
  measured: true,
  ...over,
});
const asked = (over = {}) => ({
  definition: {
    kind: 'endMill' as const,
    diameter: mm(10),
    cornerRadius: null,
    reach: mm(30),
    teeth: null,
    thread: '',
    leftHand: null,
    leastLife: 0.2,
    ...over,
  },
  machine: 'Mill 1',
  tool: 3,
  interface: 'steep 40',
});

describe('which assemblies serve', () => {
  it('each miss has its reason', () => {
    const found = (over: Partial<Candidate>, definition = {}) =>
      fulfil(asked(definition), [candidate(over)], show)[0]!.misses;
    expect(found({})).toEqual([]);
    expect(found({ diameter: mm(9.7) })).toEqual(['it is 9.7 mm across, 10 mm is asked for']);
    expect(found({ stickOut: mm(28) })).toEqual(['it stands out 28 mm, 30 mm is needed']);
    expect(found({ cornerRadius: mm(1) }, { cornerRadius: mm(0.2) })[0]).toMatch(/corner is 1 mm/);
    expect(found({ teeth: 3 }, { teeth: 4 })[0]).toMatch(/3 teeth, the feed is for 4/);
    expect(found({ flag: 'broken' })).toEqual(['it is broken']);
    expect(found({ lifeLeft: 0.1 })[0]).toMatch(/10 % of its life is left, 20 % is asked for/);
    expect(found({ interface: 'steep 30' })[0]).toMatch(/Mill 1 takes steep 40/);
  });
  it('what is at the limit of a size serves, beyond it does not; of threads that are known the thread decides', () => {
    const found = (over: Partial<Candidate>, definition = {}) =>
      fulfil(asked(definition), [candidate(over)], show)[0]!.misses;
    expect(found({ diameter: mm(10.02) })).toEqual([]);
    expect(found({ diameter: mm(9.979) })).toHaveLength(1);
    expect(found({ stickOut: mm(30) })).toEqual([]);
    expect(found({ cornerRadius: mm(0.22) }, { cornerRadius: mm(0.2) })).toEqual([]);
    expect(found({ cornerRadius: mm(0.179) }, { cornerRadius: mm(0.2) })).toHaveLength(1);
    expect(found({ teeth: 5 }, { teeth: 4 })).toEqual([]);
    expect(found({ lifeLeft: 0.2 })).toEqual([]);
    expect(found({ lifeLeft: null })).toEqual([]);
    const tap = { kind: 'tap' as const, thread: 'M10x1.25' };
    expect(found({ ...tap, thread: 'M10x1.5' }, tap)).toEqual(['it cuts M10x1.5, M10x1.25 is asked for']);
    expect(found(tap, tap)).toEqual([]);
    expect(found({ leftHand: true }, { leftHand: false })).toEqual([
      'it is left-hand, right-hand is asked for',
    ]);
    expect(found({}, { leftHand: true })).toEqual(['it is right-hand, left-hand is asked for']);
    expect(found({ leftHand: true })).toEqual([]);
  });
  it('what is not asked for is not missed', () => {
    const found = (over: Partial<Candidate>, definition = {}) => {
      const [one] = fulfil(asked(definition), [candidate(over)], show);
      return [...one!.misses, ...one!.remarks];
    };
    const nothing = { diameter: null, reach: null, leastLife: null };
    expect(found({ diameter: mm(3), stickOut: mm(1), lifeLeft: 0.01, teeth: 0 }, nothing)).toEqual([]);
    expect(found({ leftHand: true }, { leftHand: true })).toEqual([]);
    expect(found({ leftHand: false }, { leftHand: false })).toEqual([]);
    expect(found({ teeth: 4 }, { teeth: 4 })).toEqual([]);
    expect(found({ kind: 'reamer', diameter: mm(12) }, { kind: 'reamer', diameter: null })).toEqual([]);
    // teeth that are not on record are a doubt, and no miss
    const [unknown] = fulfil(asked({ teeth: 4 }), [candidate({ teeth: 0 })], show);
    expect([unknown!.misses, unknown!.doubts]).toEqual([[], 1]);
  });
  it('a corner on an end mill of which nothing is said is a doubt: it leaves a fillet where a sharp one cuts square', () => {
    const found = (over: Partial<Candidate>, definition = {}) => {
      const [one] = fulfil(asked(definition), [candidate(over)], show);
      return [one!.misses.length, one!.doubts];
    };
    expect(found({ cornerRadius: mm(1) })).toEqual([0, 1]);
    // what is taken off so that it does not chip is called sharp; a face mill has the corner of its inserts
    expect(found({ cornerRadius: mm(0.3) })).toEqual([0, 0]);
    expect(found({ kind: 'faceMill', cornerRadius: mm(0.8) }, { kind: 'faceMill' })).toEqual([0, 0]);
    expect(found({ cornerRadius: mm(1) }, { cornerRadius: mm(1) })).toEqual([0, 0]);
    expect(found({ cornerRadius: mm(1) }, { cornerRadius: mm(0) })).toEqual([1, 0]);
    // of two alike the sharp one is proposed
    const order = fulfil(
      asked(),
      [candidate({ number: 'A', cornerRadius: mm(1) }), candidate({ number: 'B' })],
      show,
    );
    expect(order.map((each) => each.candidate.number)).toEqual(['B', 'A']);
  });
  it('one thread may be written in two ways', () => {
    const tap = { kind: 'tap' as const, diameter: mm(8), thread: 'M8' };
    const found = (thread: string) => fulfil(asked(tap), [candidate({ ...tap, thread })], show)[0]!.misses;
    expect([found('M8x1.25'), found('M8'), found('M8x1').length]).toEqual([[], [], 1]);
  });
  it('what stands elsewhere under the same T, or here under another, is not the one that is there', () => {
    const order = fulfil(
      asked(),
      [
        candidate({ number: 'other T', machine: 'Mill 1', tool: 4 }),
        candidate({ number: 'other machine', machine: 'Mill 2', tool: 3 }),
        candidate({ number: 'loose', measured: false, stickOut: mm(60) }),
      ],
      show,
    ).map((each) => each.candidate.number);
    expect(order).toEqual(['loose', 'other machine', 'other T']);
  });
  it('what cannot be told is said, and stands behind what is known to serve', () => {
    const [known, unknown] = fulfil(
      asked({ kind: 'tap', thread: 'M10x1.25', reach: null }),
      [
        candidate({ number: 'there', kind: 'tap', machine: 'Mill 1', tool: 3 }),
        candidate({ number: 'elsewhere', kind: 'tap', thread: 'M10x1.25', machine: 'Mill 2', tool: 9 }),
      ],
      show,
    );
    expect(known!.candidate.number).toBe('elsewhere');
    expect([unknown!.misses, unknown!.remarks]).toEqual([
      [],
      ['its thread is not on record, M10x1.25 is asked for'],
    ]);
    expect(fulfil(asked({ teeth: 4 }), [candidate({ teeth: 0 })], show)[0]!.remarks).toEqual([
      'its teeth are not on record, the feed is for 4',
    ]);
  });
  // ISO 286: H7 on 12 mm is 0 to +18 µm; a reamer 20 µm over makes no such hole
  it('a reamer of nearly the size is not taken for one of the size; a drill is', () => {
    const reamer = (diameter: number) =>
      fulfil(
        asked({ kind: 'reamer', diameter: mm(12) }),
        [candidate({ kind: 'reamer', diameter: mm(diameter) })],
        show,
      )[0]!;
    expect(reamer(12).remarks).toEqual([]);
    expect(reamer(12.003).remarks).toEqual([]);
    expect(reamer(12.004).remarks).toHaveLength(1);
    expect(reamer(12.021).remarks).toEqual([]);
    expect(reamer(12.02)).toMatchObject({
      misses: [],
      remarks: ['it is 12.02 mm across, 12 mm is asked for: look at the fit'],
    });
    expect(reamer(11.98).doubts).toBe(1);
    expect(reamer(12.021).misses).toHaveLength(1);
    const drill = fulfil(
      asked({ kind: 'drill' }),
      [candidate({ kind: 'drill', diameter: mm(10.02) })],
      show,
    )[0]!;
    expect([drill.misses, drill.remarks]).toEqual([[], []]);
  });
  it('says where it stands, and that it is not measured', () => {
    const remarks = (over: Partial<Candidate>) => fulfil(asked(), [candidate(over)], show)[0]!.remarks;
    expect(remarks({ machine: 'Mill 1', tool: 3 })).toEqual([]);
    expect(remarks({ machine: 'Mill 1', tool: 4 })).toEqual(['stands in Mill 1 as T4']);
    expect(remarks({ machine: 'Mill 2', tool: 3, measured: false })).toEqual([
      'stands in Mill 2 as T3',
      'not measured yet',
    ]);
  });
  it('the one that is there comes first, then measured loose ones, then others; among equals the stiffer', () => {
    const order = fulfil(
      asked(),
      [
        candidate({ number: 'other machine', machine: 'Mill 2', tool: 9 }),
        candidate({ number: 'loose long', stickOut: mm(50) }),
        candidate({ number: 'loose unmeasured', measured: false }),
        candidate({ number: 'worn', diameter: mm(9.5) }),
        candidate({ number: 'loose short' }),
        candidate({ number: 'there', machine: 'Mill 1', tool: 3 }),
        candidate({ number: 'a drill', kind: 'drill' }),
      ],
      show,
    ).map((each) => each.candidate.number);
    expect(order).toEqual([
      'there',
      'loose short',
      'loose long',
      'loose unmeasured',
      'other machine',
      'worn',
    ]);
  });
});

describe('look-alikes', () => {
  const piece = (id: number, over: Partial<Component> = {}): Component => ({
    id,
    number: `N-${id}`,
    name: 'End mill 10',
    kind: 'endMillSharp',
    dimensions: { DC: mm(10), DCONMS: mm(10), OAL: mm(72), LCF: mm(22), ZEFP: 4 },
    interface: '',
    series: '',
    flat: false,
    coolant: false,
    leftHand: false,
    material: 'carbide',
    torque: null,
    ...over,
  });
  it('are the same thing under two numbers, whatever they are called or weigh', () => {
    const other = piece(2, {
      name: 'EM D10 Z4',
      dimensions: { ...piece(1).dimensions, DC: mm(10.003), WT: 80 },
    });
    expect(lookAlike(piece(1), other)).toBe(true);
    expect(lookAlike(piece(1), piece(3, { flat: true }))).toBe(false);
    expect(lookAlike(piece(1), piece(4, { dimensions: { ...piece(1).dimensions, LCF: mm(32) } }))).toBe(
      false,
    );
  });
  it('differ by each thing that tells them apart', () => {
    const sizes = piece(1).dimensions;
    const others: Partial<Component>[] = [
      { kind: 'endMillRadius' },
      { coolant: true },
      { leftHand: true },
      { material: 'steel' },
      { interface: 'steep 40' },
      { series: 'ER 32' },
      { dimensions: { ...sizes, ZEFP: 3 } },
      { dimensions: { ...sizes, RE: mm(0.2) } },
      { dimensions: { DC: mm(10), DCONMS: mm(10), OAL: mm(72), ZEFP: 4 } },
    ];
    for (const over of others) {
      expect(lookAlike(piece(1), piece(2, over)), JSON.stringify(over)).toBe(false);
      expect(lookAlike(piece(2, over), piece(1)), JSON.stringify(over)).toBe(false);
    }
    // a series is written one way or another, a length is played with to a hundredth of what matters
    expect(lookAlike(piece(1, { series: 'er-32' }), piece(2, { series: 'ER 32' }))).toBe(true);
    expect(lookAlike(piece(1, { series: 'er-32' }), piece(2, { series: 'ER 16' }))).toBe(false);
    expect(lookAlike(piece(1), piece(2, { dimensions: { ...sizes, OAL: mm(72.005) } }))).toBe(true);
    expect(lookAlike(piece(1), piece(2, { dimensions: { ...sizes, OAL: mm(72.006) } }))).toBe(false);
  });
  it('stand in one group, each once; what is near in size alone is in none', () => {
    const sized = (id: number, DC: number, OAL = 72) =>
      piece(id, { dimensions: { ...piece(1).dimensions, DC: mm(DC), OAL: mm(OAL) } });
    const groups = lookAlikes([
      sized(1, 10),
      sized(2, 10.004, 80),
      sized(3, 10.005),
      sized(4, 10.002),
      sized(5, 10.1),
      piece(6, { kind: 'drillStub', dimensions: { OAL: mm(79) } }),
      piece(7, { kind: 'drillStub', dimensions: { OAL: mm(79) } }),
      piece(8, { kind: 'drillStub', series: 'X', dimensions: { OAL: mm(79) } }),
    ]).map((group) => group.map(({ id }) => id).sort());
    expect(groups).toEqual([
      [1, 3, 4],
      [6, 7],
    ]);
  });
  it('in a catalogue, the groups are those that comparing every pair would find', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 3 })), { maxLength: 24 }),
        (sizes) => {
          const all = sizes.map(([diameter, flutes], i) =>
            piece(i, {
              dimensions: { DC: mm(diameter), DCONMS: mm(10), OAL: mm(72), LCF: mm(22), ZEFP: flutes },
            }),
          );
          const grouped = new Set(lookAlikes(all).flatMap((group) => group.map((each) => each.id)));
          const paired = new Set(
            all.filter((a) => all.some((b) => a.id !== b.id && lookAlike(a, b))).map((each) => each.id),
          );
          expect(grouped).toEqual(paired);
        },
      ),
    );
  });
});
