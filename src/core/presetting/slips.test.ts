import { describe, expect, it } from 'vitest';
import { lengthOf, type LengthUnit } from '../units/length.ts';
import { checkMeasured, diameterPlausible, lengthPlausible } from './check-measured.ts';

const expectedIn = (unit: LengthUnit, gaugeLength: number, diameter: number, number = 'FX-1') => ({
  number,
  gaugeLength: lengthOf(gaugeLength, unit),
  diameter: lengthOf(diameter, unit),
});
const slips = (
  measured: [length: number, diameter: number | null],
  expected: [number, number],
  unit: LengthUnit = 'mm',
  others: ReturnType<typeof expectedIn>[] = [],
) =>
  checkMeasured(
    {
      gaugeLength: lengthOf(measured[0], unit),
      diameter: measured[1] === null ? null : lengthOf(measured[1], unit),
    },
    expectedIn(unit, ...expected),
    others,
    unit,
  ).map(({ slip, value }) => `${value}: ${slip}`);

describe('what a measurement may be without a word', () => {
  it('2 mm of length, 1.5 % of diameter or 0.15 mm where that is more: the limit itself too', () => {
    const mm = (value: number) => lengthOf(value, 'mm');
    expect([lengthPlausible(mm(102), mm(100)), lengthPlausible(mm(98), mm(100))]).toEqual([true, true]);
    expect([lengthPlausible(mm(102.001), mm(100)), lengthPlausible(mm(97.999), mm(100))]).toEqual([
      false,
      false,
    ]);
    expect([diameterPlausible(mm(6.15), mm(6)), diameterPlausible(mm(6.151), mm(6))]).toEqual([true, false]);
    expect([diameterPlausible(mm(50.75), mm(50)), diameterPlausible(mm(50.751), mm(50))]).toEqual([
      true,
      false,
    ]);
  });
  it('a tool without a diameter, or one that was not measured, is held by its length', () => {
    expect(slips([100, 5], [100, 0])).toEqual([]);
    expect(slips([100, null], [100, 10])).toEqual([]);
    expect(slips([10, null], [100, 10])).toEqual(['gauge length: decimalPoint']);
  });
});

describe('the slip that explains a difference (H1.6, H18)', () => {
  it('length and diameter exchanged, where both fit the other way round', () => {
    expect(slips([12, 120], [120, 12])).toEqual(['gauge length: lengthAndDiameterSwapped']);
    expect(slips([12, 130], [120, 12])[0]).not.toMatch(/Swapped/);
    expect(slips([30, 120], [120, 12])[0]).not.toMatch(/lengthAnd/);
  });
  it('the decimal point, either way by one or two places, in length and diameter', () => {
    for (const factor of [10, 100, 0.1, 0.01])
      expect(slips([123.456 * factor, 37], [123.456, 37])).toEqual(['gauge length: decimalPoint']);
    for (const factor of [10, 100, 0.1, 0.01])
      expect(slips([123.456, 37 * factor], [123.456, 37])).toEqual(['diameter: decimalPoint']);
    expect(slips([1234.56, 370], [123.456, 37])).toEqual([
      'gauge length: decimalPoint',
      'diameter: decimalPoint',
    ]);
  });
  it('inches for millimetres, either way', () => {
    expect(slips([123.456 / 25.4, 37], [123.456, 37])).toEqual(['gauge length: units']);
    expect(slips([123.456 * 25.4, 37], [123.456, 37])).toEqual(['gauge length: units']);
    expect(slips([4.8605, 0.375 * 25.4], [4.8605, 0.375], 'in')).toEqual(['diameter: units']);
  });
  it.each<[number, number, LengthUnit]>([
    // any two neighbours, over the point too
    [213.456, 123.456, 'mm'],
    [132.456, 123.456, 'mm'],
    [126.345, 162.345, 'mm'],
    [8.4605, 4.8605, 'in'],
  ])('two digits swapped: %d for %d %s', (typed, meant, unit) =>
    expect(slips([typed, unit === 'mm' ? 37 : 0.375], [meant, unit === 'mm' ? 37 : 0.375], unit)).toEqual([
      'gauge length: digitsSwapped',
    ]),
  );
  it('is no swap where the digits are alike, or where it would not fit either', () => {
    expect(slips([155.456, 37], [123.456, 37])).toEqual(['gauge length: otherBuild']);
    expect(slips([123.456, 50], [123.456, 37])).toEqual(['diameter: otherBuild']);
  });
  it('another tool in the fixture: its length within 0.06 mm and its diameter within 0.03, where both are known', () => {
    const other = expectedIn('mm', 155.456, 20, 'FX-2');
    const found = (length: number, diameter: number | null, others = [other]) =>
      slips([length, diameter], [123.456, 37], 'mm', others)[0];
    expect(found(155.456, 20)).toBe('gauge length: wrongTool');
    expect(found(155.516, 20.03)).toBe('gauge length: wrongTool');
    expect(found(155.396, 19.97)).toBe('gauge length: wrongTool');
    expect(found(155.517, 20)).toBe('gauge length: otherBuild');
    expect(found(155.456, 20.031)).toBe('gauge length: otherBuild');
    expect(found(155.456, 37)).toBe('gauge length: otherBuild');
    expect(found(155.456, null)).toBe('gauge length: wrongTool');
    // itself is no other
    expect(found(155.456, 20, [{ ...other, number: 'FX-1' }])).toBe('gauge length: otherBuild');
    // a length that fits is no matter of another tool
    expect(slips([123.456, 20], [123.456, 37], 'mm', [expectedIn('mm', 123.456, 20, 'FX-2')])).toEqual([
      'diameter: otherBuild',
    ]);
  });
});
