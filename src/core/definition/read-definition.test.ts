import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inUnit, lengthOf, type LengthUnit } from '../units/length.ts';
import { definitionWords, readDefinition } from './read-definition.ts';

const of = (comment: string, unit: LengthUnit = 'mm', machine: 'mill' | 'lathe' = 'mill') => {
  const read = readDefinition(comment, unit, machine);
  return (
    read && {
      kind: read.kind,
      diameter: read.diameter === null ? null : Number(inUnit(read.diameter, unit).toFixed(5)),
      radius: read.cornerRadius === null ? null : Number(inUnit(read.cornerRadius, unit).toFixed(5)),
      teeth: read.teeth,
      thread: read.thread,
    }
  );
};
const plain = { radius: null, teeth: null, thread: '' };

describe('what a tool comment says', () => {
  it('the number of a tool before it is no size', () => {
    for (const before of ['T12 - ', 'T12=', 'T12:', ' T12 ', 'T12', 'T3  -  '])
      expect(of(`${before}END MILL 10`)).toEqual({ kind: 'endMill', diameter: 10, ...plain });
    // in the middle of a comment it is a word like others: 2 is read as a size no sooner than what stands first
    expect(of('END MILL 10 FOR T2')).toMatchObject({ diameter: 10 });
    expect(of('END MILL T2')).toMatchObject({ kind: 'endMill', diameter: null });
  });
  it('edges, flutes, teeth and degrees are no size; flutes are teeth', () => {
    expect(of('4 FLUTE END MILL 10')).toEqual({ kind: 'endMill', diameter: 10, ...plain, teeth: 4 });
    expect(of('END MILL 12-FLUTES 16')).toMatchObject({ diameter: 16, teeth: 12 });
    expect(of('END MILL 3 - EDGED 8')).toMatchObject({ diameter: 8, teeth: 3 });
    expect(of('FACE MILL 5TEETH 50')).toMatchObject({ kind: 'faceMill', diameter: 50, teeth: 5 });
    expect(of('SPOT DRILL 90 DEG 12')).toMatchObject({ kind: 'spotDrill', diameter: 12, teeth: null });
    expect(of('END MILL 10 4FL')).toMatchObject({ diameter: 10, teeth: 4 });
    // what is left stands apart: "2 flute" between two numbers does not join them
    expect(of('END MILL 1 2FLUTE 6')).toMatchObject({ diameter: 1, teeth: 2 });
  });
  it('a radius is a corner, a hole depth is nothing, neither is the size', () => {
    expect(of('END MILL R0.5 10')).toMatchObject({ diameter: 10, radius: 0.5 });
    expect(of('END MILL R 1.25 20')).toMatchObject({ diameter: 20, radius: 1.25 });
    expect(of('END MILL R.5 10')).toMatchObject({ diameter: 10, radius: 0.5 });
    expect(of('END MILL R12 32')).toMatchObject({ diameter: 32, radius: 12 });
    expect(of('BALL MILL R3')).toMatchObject({ kind: 'ballMill', diameter: null, radius: 3 });
    expect(of('DRILL H25 6.8')).toMatchObject({ diameter: 6.8, radius: null });
    expect(of('DRILL H 12.5 6.8')).toMatchObject({ diameter: 6.8 });
    expect(of('DRILL 6.8 H25')).toMatchObject({ diameter: 6.8 });
  });
  it('threads belong to taps', () => {
    expect(of('TAP M8')).toEqual({ kind: 'tap', diameter: 8, radius: null, teeth: null, thread: 'M8' });
    expect(of('TAP M10x1.25')).toMatchObject({ diameter: 10, thread: 'M10x1.25' });
    expect(of('TAP M10 x 1')).toMatchObject({ diameter: 10, thread: 'M10x1' });
    expect(of('TAP M2.5 x 0.35')).toMatchObject({ diameter: 2.5, thread: 'M2.5x0.35' });
    expect(of('TAP M36 X 3')).toMatchObject({ diameter: 36, thread: 'M36x3' });
    expect(of('TAP #10-24', 'in')).toMatchObject({ diameter: 0.19, thread: '#10-24' });
    expect(of('TAP 5/16-18', 'in')).toMatchObject({ diameter: 0.3125, thread: '5/16-18' });
    expect(of('TAP 11/16-24', 'in')).toMatchObject({ diameter: 0.6875, thread: '11/16-24' });
    expect(of('TAP 1-8', 'in')).toMatchObject({ diameter: 1, thread: '1-8' });
    expect(of('TAP 8')).toMatchObject({ diameter: 8, thread: '' });
    expect(of('DRILL 6.8 FOR M8')).toMatchObject({ kind: 'drill', diameter: 6.8, thread: '' });
    expect(of('THREAD MILL 12')).toMatchObject({ kind: 'threadMill', diameter: 12, thread: '' });
  });
  it('drills are called by number, letter-free fraction or decimal; other cutters by fraction too', () => {
    expect(of('DRILL #7', 'in')).toMatchObject({ diameter: 0.201 });
    expect(of('DRILL #21', 'in')).toMatchObject({ diameter: 0.159 });
    expect(of('DRILL 27/64', 'in')).toMatchObject({ diameter: 0.42188 });
    expect(of('DRILL .2570', 'in')).toMatchObject({ diameter: 0.257 });
    expect(of('SPOT DRILL 1/2', 'in')).toMatchObject({ diameter: 0.5 });
    expect(of('SPOT DRILL .5', 'in')).toMatchObject({ kind: 'spotDrill', diameter: 0.5 });
    expect(of('END MILL 3/8', 'in')).toMatchObject({ diameter: 0.375 });
    expect(of('END MILL 0.375', 'in')).toMatchObject({ diameter: 0.375 });
    expect(of('END MILL 12/64 FINISH', 'in')).toMatchObject({ diameter: 0.1875 });
    expect(of('END MILL 0')).toMatchObject({ diameter: null });
    expect(of('END MILL')).toMatchObject({ diameter: null });
    expect(of('DRILL')).toMatchObject({ kind: 'drill', diameter: null });
  });
  it.each([
    ['BALL NOSE END MILL 6', 'ballMill'],
    ['BALL 6', 'ballMill'],
    ['SHELL MILL 63', 'faceMill'],
    ['CHAMFER TOOL 10', 'chamferMill'],
    ['ENDMILL 8', 'endMill'],
    ['CENTER DRILL 3.15', 'spotDrill'],
    ['CENTRE DRILL 3.15', 'spotDrill'],
    ['REAMER 10', 'reamer'],
    ['TOUCH PROBE 6', 'probe'],
    ['BORING HEAD 50', 'boringBar'],
    ['FINE BORE 50', 'boringBar'],
  ])('%s on a mill is %s', (comment, kind) => expect(of(comment)?.kind).toBe(kind));
  it.each([
    ['OD ROUGHER 80 DEG', 'turning'],
    ['FINISH 35 DEG', 'turning'],
    ['FACE', 'turning'],
    ['TURN', 'turning'],
    ['BORING BAR ROUGH', 'turningBoring'],
    ['PART OFF 0.125', 'parting'],
    ['PARTING', 'parting'],
    ['GROOVE 0.125', 'grooving'],
    ['THREAD 1-14 UNS', 'threading'],
    ['BAR STOP', 'barStop'],
  ])('%s on a lathe is %s, and has no diameter', (comment, kind) => {
    expect(of(comment, 'in', 'lathe')).toMatchObject({ kind, diameter: null });
  });
  it('what names no tool is nothing; a mill does not turn', () => {
    expect([of('FIRST SIDE'), of('FINISH'), of(''), of('METHOD', 'in', 'lathe')]).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(of('ROUGH')).toBeNull();
  });
});

describe('comments as programmers write them (common practice, no source)', () => {
  it.each<[string, LengthUnit, Partial<NonNullable<ReturnType<typeof of>>>]>([
    // mixed numbers, decimal commas, marks before and behind, another unit than the program's
    ['FACE MILL 1 1/2', 'in', { kind: 'faceMill', diameter: 1.5 }],
    ['2-1/2 FACE MILL', 'in', { diameter: 2.5 }],
    ['DRILL 6,8', 'mm', { diameter: 6.8 }],
    ['D10 END MILL', 'mm', { diameter: 10 }],
    ['END MILL Ø10', 'mm', { diameter: 10 }],
    ['DRILL L120 D8', 'mm', { diameter: 8 }],
    ['.375 DIA X 90 DEG SPOT DRILL', 'in', { kind: 'spotDrill', diameter: 0.375 }],
    ['DRILL DIA. 10', 'mm', { diameter: 10 }],
    ['DRILL DIA.257', 'in', { diameter: 0.257 }],
    ['DRILL DIA.10', 'mm', { diameter: null }],
    ['6MM DRILL', 'in', { diameter: 0.23622 }],
    ['1/4 DRILL', 'mm', { diameter: 6.35 }],
    ['T1 D=10. CR=0. - ZMIN=-20. - FLAT END MILL', 'mm', { kind: 'endMill', diameter: 10, radius: 0 }],
    ['T2 D=6.8 CR=0. TAPER=118DEG - ZMIN=-30. - DRILL', 'mm', { kind: 'drill', diameter: 6.8 }],
    ['FLAT END MILL ZMIN=-20', 'mm', { diameter: null }],
    // so deep for its diameter, so many, so long
    ['5XD DRILL 8.5', 'mm', { diameter: 8.5 }],
    ['DRILL 8.5 8XD', 'mm', { diameter: 8.5 }],
    ['3D DRILL 12.5', 'mm', { diameter: 12.5 }],
    ['2X DRILL 6', 'mm', { diameter: 6 }],
    ['DRILL 4 HOLES', 'mm', { diameter: null }],
    ['DRILL 8 - 2 HOLES', 'mm', { diameter: 8 }],
    ['END MILL 1/2 X 1-1/4 LOC', 'in', { diameter: 0.5 }],
    // edges and corners by their short names
    ['4FL EM .5', 'in', { kind: 'endMill', diameter: 0.5, teeth: 4 }],
    ['2 FLT 1/4 EM', 'in', { diameter: 0.25, teeth: 2 }],
    ['FACE MILL 80 Z5', 'mm', { diameter: 80, teeth: 5 }],
    ['BULL NOSE 12 R1', 'mm', { kind: 'endMill', diameter: 12, radius: 1 }],
    ['END MILL 10 CR0.5', 'mm', { diameter: 10, radius: 0.5 }],
    ['END MILL RAD .03 1/2', 'in', { diameter: 0.5, radius: 0.03 }],
    ['END MILL 1/2 R1/32', 'in', { diameter: 0.5, radius: 0.03125 }],
    ['6 BALL EM R3', 'mm', { kind: 'ballMill', diameter: 6, radius: null }],
    // drills by number and letter; a number where only a size may stand is none
    ['DRILL F', 'in', { diameter: 0.257 }],
    ['F DRILL', 'in', { diameter: 0.257 }],
    ['DRILL LTR. Q', 'in', { diameter: 0.332 }],
    ['DRILL NO. 7 (.201)', 'in', { diameter: 0.201 }],
    ['DRILL NO 7', 'mm', { diameter: null }],
    ['DRILL A', 'mm', { diameter: null }],
    ['DRILL 7', 'in', { diameter: null }],
    // ASME B94.11M, from memory: the body of a number 3 is a quarter of an inch
    ['CENTER DRILL #3', 'in', { kind: 'spotDrill', diameter: 0.25 }],
    // threads in any writing; their pitch is not lost
    ['TAP 10-32', 'in', { kind: 'tap', diameter: 0.19, thread: '#10-32' }],
    ['10-24 UNC TAP', 'in', { thread: '#10-24' }],
    ['TAP .250-20', 'in', { thread: '1/4-20', diameter: 0.25 }],
    ['TAP M10-1.25', 'mm', { thread: 'M10x1.25', diameter: 10 }],
    ['TAP M10X1-6H', 'mm', { thread: 'M10x1' }],
    ['TAP MF10X1', 'mm', { thread: 'M10x1' }],
    ['TAP M8-6H', 'mm', { thread: 'M8' }],
    ['TAP M6 - 4 PLACES', 'mm', { thread: 'M6' }],
    ['1/4-20 UNC-2B TAP', 'in', { thread: '1/4-20' }],
    // pipes: an eighth is 0.405 inch across (ASME B1.20.1, from memory)
    ['TAP 1/8-27 NPT', 'in', { thread: '1/8 NPT', diameter: 0.405 }],
    ['TAP G1/4', 'mm', { thread: 'G1/4', diameter: 13.157 }],
    ['1/4 BSP TAP', 'mm', { thread: 'G1/4' }],
    // no such thread: its size cannot be told
    ['TAP M8-12', 'mm', { thread: '', diameter: null }],
    // a thread mill makes many sizes, and its own is another
    ['THREAD MILL M10X1.5', 'mm', { kind: 'threadMill', diameter: null }],
    ['THREAD MILL 1.5P D8', 'mm', { diameter: 8 }],
    // a drill for a tap is a drill
    ['DRILL 6.8 FOR TAP M8', 'mm', { kind: 'drill', diameter: 6.8, thread: '' }],
    ['M8 TAP DRILL 6.8', 'mm', { kind: 'drill', diameter: 6.8 }],
    ['10-32 TAP DRILL #21', 'in', { kind: 'drill', diameter: 0.159 }],
    ['TAP DRILL M8', 'mm', { kind: 'drill', diameter: null }],
    ['DRILL 11.8 BEFORE REAMER 12', 'mm', { kind: 'drill', diameter: 11.8 }],
    ['REAM 12 AFTER DRILL 11.8', 'mm', { kind: 'reamer', diameter: 12 }],
    ['REAM 12H7', 'mm', { kind: 'reamer', diameter: 12 }],
    ['SLOT DRILL 8', 'mm', { kind: 'endMill', diameter: 8 }],
    ['COUNTERSINK 12', 'mm', { kind: 'chamferMill', diameter: 12 }],
  ])('%s (%s)', (comment, unit, wanted) => expect(of(comment, unit)).toMatchObject(wanted));
  it.each(['DRILL TAP M8', 'DRILL & REAM 12', 'DRILL/TAP 10-32', "C'BORE 12", 'SPOT FACE 20'])(
    '%s could be two, or none: nobody can tell',
    (comment) => expect(of(comment)).toBeNull(),
  );
  it('whatever stands there, nothing breaks: numbers of any length, and comments that go on and on', () => {
    const digits = '9'.repeat(400);
    expect(of(`END MILL 10 R${digits}`)).toMatchObject({ diameter: 10, radius: null });
    expect(of(`END MILL ${digits}`)).toMatchObject({ diameter: null });
    expect(of(`END MILL 10 REACH ${digits}`)).toMatchObject({ diameter: 10 });
    // looked through once more for each of its digits it would take a minute
    expect(of(`DRILL 8 ${'9'.repeat(60_000)} R2`)).toMatchObject({ diameter: 8, radius: null });
    const pieces = fc.constantFrom(
      'END MILL',
      'TAP',
      'DRILL',
      'M',
      '#',
      '/',
      '-',
      '.',
      ',',
      'R',
      'X',
      'D',
      '0',
      '7',
      '99999999',
      ' ',
      '=',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(pieces, fc.string({ maxLength: 3 })), { maxLength: 20 }), (parts) => {
        for (const machine of ['mill', 'lathe'] as const)
          for (const unit of ['mm', 'in'] as const) readDefinition(parts.join(''), unit, machine);
      }),
      { numRuns: 3000 },
    );
  });
  it('a lathe is told its nose by the insert', () => {
    expect(of('OD ROUGH CNMG 120408', 'mm', 'lathe')).toMatchObject({ kind: 'turning', radius: 0.8 });
    expect(of('FINISH VNMG331', 'in', 'lathe')?.radius).toBeCloseTo(1 / 64, 4);
    expect(of('FINISH R.031 CNMG 120404', 'in', 'lathe')).toMatchObject({ radius: 0.031 });
    // a mill's insert is of its corner, not of the size
    expect(of('FACE MILL 80 SEKT 1204')).toMatchObject({ diameter: 80, radius: null });
  });
  it('however size, edges, corner, depth and length are put together: what was written is read, and nothing else', () => {
    const marked = (size: string) => [
      size,
      `D${size}`,
      `Ø${size}`,
      `${size} DIA`,
      `DIA ${size}`,
      `D=${size}`,
    ];
    const metric = fc
      .integer({ min: 10, max: 990 })
      .chain((tenths) =>
        fc
          .constantFrom(
            ...[`${tenths / 10}`, `${tenths / 10}`.replace('.', ','), (tenths / 10).toFixed(2)].flatMap(
              marked,
            ),
            `${tenths / 10}MM`,
          )
          .map((text) => ({ text, value: tenths / 10, unit: 'mm' as const })),
      );
    const inches = fc.integer({ min: 1, max: 160 }).chain((sixtyFourths) => {
      const [whole, part] = [Math.floor(sixtyFourths / 64), sixtyFourths % 64];
      const by = [64, 32, 16, 8, 4, 2, 1].find((each) => part % each === 0)!;
      const fraction = part === 0 ? [] : [`${part / by}/${64 / by}`];
      const decimal = (sixtyFourths / 64).toFixed(4);
      const named =
        whole === 0 ? fraction : fraction.flatMap((each) => [`${whole} ${each}`, `${whole}-${each}`]);
      return fc
        .constantFrom(...[...named, decimal, decimal.replace(/^0/, '')].flatMap(marked))
        .map((text) => ({
          text,
          value: sixtyFourths / 64,
          unit: 'in' as const,
        }));
    });
    const kinds = [
      ['END MILL', 'endMill'],
      ['EM', 'endMill'],
      ['DRILL', 'drill'],
      ['FACE MILL', 'faceMill'],
      ['CHAMFER MILL', 'chamferMill'],
      ['SPOT DRILL', 'spotDrill'],
    ] as const;
    const beside = fc.record({
      teeth: fc.constantFrom('', '4 FLUTE', '4FL', 'Z4', '4 TEETH', '4-EDGE'),
      corner: fc.constantFrom('', 'R0.5', 'CR0.5', 'RAD 0.5', 'R=0.5'),
      depth: fc.constantFrom('', '5XD', '3D', '8 X D'),
      length: fc.constantFrom('', 'L120', 'LOC 40', 'H25', 'OAL=100'),
      angle: fc.constantFrom('', '90 DEG', '45DEG', '118°'),
      many: fc.constantFrom('', '2X', '12 HOLES', '4 PLACES'),
      words: fc.constantFrom('', 'FINISH', 'CARBIDE', 'LH', 'T12'),
    });
    fc.assert(
      fc.property(
        fc.oneof(metric, inches),
        fc.constantFrom(...kinds),
        beside,
        fc.infiniteStream(fc.nat()),
        (size, [words, kind], extras, order) => {
          const pieces = [size.text, words, ...Object.values(extras).filter(Boolean)]
            .map((text) => ({ text, at: order.next().value as number }))
            .sort((a, b) => a.at - b.at)
            .map(({ text }) => text);
          const comment = `T5 ${pieces.join(' ')}`;
          const read = of(comment, size.unit);
          expect(read, comment).toMatchObject({
            kind,
            teeth: extras.teeth === '' ? null : 4,
            radius: extras.corner === '' ? null : 0.5,
          });
          expect(read!.diameter, comment).toBeCloseTo(size.value, 3);
        },
      ),
      { numRuns: 4000 },
    );
  });
});

describe('a definition in words', () => {
  it('says what is asked for, and nothing of what is not', () => {
    const show = (value: number) => `${value / 1e6}`;
    const read = readDefinition('END MILL 10 4 FLUTE R0.5', 'mm', 'mill')!;
    expect(definitionWords(read, show)).toMatch(/10, R 0\.5, 4 teeth$/);
    const more = { ...read, reach: lengthOf(40, 'mm'), leastLife: 0.25 };
    expect(definitionWords(more, show)).toMatch(/4 teeth, reach 40 or more, at least 25 % of its life left$/);
    const tap = readDefinition('TAP M8', 'mm', 'mill')!;
    expect(definitionWords(tap, show)).toMatch(/, M8$/);
    expect(definitionWords({ ...tap, thread: '', diameter: null }, show)).not.toContain(',');
  });
});
