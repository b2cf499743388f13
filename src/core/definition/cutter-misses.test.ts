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
  it('what is not asked for is not missed, and what is not on record is said where it decides', () => {
    const bare = cutter('drillStub', { DCONMS: 8 });
    expect(misses(asks('DRILL 6.8'), bare)).toBe('it is of no diameter on record, 6.800 mm is asked for');
    expect(misses(asks('DRILL 6.8', { diameter: null }), bare)).toBe('');
    expect(misses(asks('TAP M8'), cutter('tapCutting', { DC: 8 }))).toBe(
      'it cuts no thread on record, M8 is asked for',
    );
    // neither a length nor teeth on record: nothing speaks against it
    expect(
      misses(asks('DRILL 6.8', { reach: lengthOf(63, 'mm'), teeth: 2 }), cutter('drillStub', { DC: 6.8 })),
    ).toBe('');
    const mill = cutter('endMillRadius', { DC: 10, DCONMS: 10, OAL: 72, RE: 0.5, ZEFP: 3 });
    const free = { cornerRadius: null, teeth: null, reach: null };
    expect(misses(asks('END MILL 10', free), mill)).toBe('');
    expect(
      misses(asks('DRILL 6.8', { reach: null }), cutter('drillStub', { DC: 6.8, DCONMS: 8, OAL: 10 })),
    ).toBe('');
  });
  it('what is at the limit will do, beyond it will not', () => {
    const size = (DC: number) => misses(asks('DRILL 6.8'), cutter('drillStub', { DC }));
    expect(size(6.82)).toBe('');
    expect(size(6.78)).toBe('');
    expect(size(6.821)).not.toBe('');
    const corner = (RE: number | null, asked: number) =>
      misses(
        asks('END MILL 10', { cornerRadius: lengthOf(asked, 'mm'), teeth: null }),
        cutter('endMillRadius', { DC: 10, ...(RE === null ? {} : { RE }) }),
      );
    expect(corner(0.5, 0.5)).toBe('');
    expect(corner(0.52, 0.5)).toBe('');
    expect(corner(0.521, 0.5)).not.toBe('');
    expect(corner(null, 0)).toBe('');
    expect(corner(null, 0.2)).toBe('its corner is 0.000 mm, 0.200 mm is asked for');
    const teeth = (ZEFP: number) =>
      misses(
        asks('END MILL 10', { teeth: 4, cornerRadius: null }),
        cutter('endMillRadius', { DC: 10, ZEFP }),
      );
    expect(teeth(4)).toBe('');
    expect(teeth(5)).toBe('');
    expect(teeth(3)).toBe('it has 3 teeth, the feed is for 4');
  });
  it('corner and teeth are held against what was written down', () => {
    const mill = cutter('endMillRadius', { DC: 10, DCONMS: 10, OAL: 72, RE: 0.5, ZEFP: 3 });
    const asked = asks('END MILL 10', { cornerRadius: lengthOf(0.2, 'mm'), teeth: 4 });
    expect(misses(asked, mill)).toBe(
      'its corner is 0.500 mm, 0.200 mm is asked for; it has 3 teeth, the feed is for 4',
    );
  });
});
