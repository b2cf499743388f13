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
    expect(of('END MILL 10 4FL')).toMatchObject({ diameter: 10, teeth: null });
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
