import { describe, expect, it } from 'vitest';
import type { Component, ComponentKind } from '../component/kinds.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { lengthOf } from '../units/length.ts';
import { cutterMisses } from './cutter-misses.ts';
import { readDefinition, type Definition } from './read-definition.ts';

const cutter = (kind: ComponentKind, sizes: Record<string, number>, over: Partial<Component> = {}) =>
  ({
    kind,
    series: '',
    ...over,
    dimensions: Object.fromEntries(
      Object.entries(sizes).map(([name, value]) => [name, name === 'ZEFP' ? value : lengthOf(value, 'mm')]),
    ),
  }) as Component;
const asks = (comment: string, over: Partial<Definition> = {}): Definition => ({
  ...readDefinition(comment, 'mm', 'mill')!,
  ...over,
});
const misses = (asked: Definition, piece: Component) =>
  cutterMisses(asked, piece, (value) => formatWithUnit(value, 'mm')).join('; ');

describe('which cutter can become what a program asks for', () => {
  const drill = cutter('drillStub', { DC: 6.8, DCONMS: 8, OAL: 79 });
  it('a stub drill and a jobber drill of the size both make "DRILL 6.8"', () => {
    expect(misses(asks('DRILL 6.8'), drill)).toBe('');
    expect(misses(asks('DRILL 6.8'), cutter('drillJobber', { DC: 6.8, DCONMS: 6.8, OAL: 109 }))).toBe('');
  });
  it('another size or another kind does not, and says so', () => {
    expect(misses(asks('DRILL 7'), drill)).toBe('it is 6.800 mm across, 7.000 mm is asked for');
    expect(misses(asks('REAMER 6.8'), drill)).toBe('it is a stub drill');
  });
  it('a reach that leaves less than two shank diameters in the holder cannot be had from it', () => {
    expect(misses(asks('DRILL 6.8', { reach: lengthOf(63, 'mm') }), drill)).toBe('');
    expect(misses(asks('DRILL 6.8', { reach: lengthOf(63.1, 'mm') }), drill)).toMatch(
      /cannot stand out 63.100/,
    );
  });
  it('a tap is asked for by its thread, not by a diameter', () => {
    const tap = cutter('tapCutting', { DC: 8, DCONMS: 8, OAL: 90 }, { series: 'M8' });
    expect(misses(asks('TAP M8'), tap)).toBe('');
    expect(misses(asks('TAP M8'), { ...tap, series: 'M10' })).toBe('it cuts M10, M8 is asked for');
  });
  it('corner and teeth are held against what was written down', () => {
    const mill = cutter('endMillRadius', { DC: 10, DCONMS: 10, OAL: 72, RE: 0.5, ZEFP: 3 });
    const asked = asks('END MILL 10', { cornerRadius: lengthOf(0.2, 'mm'), teeth: 4 });
    expect(misses(asked, mill)).toBe(
      'its corner is 0.500 mm, 0.200 mm is asked for; it has 3 teeth, the feed is for 4',
    );
  });
});
