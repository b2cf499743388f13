import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPresetterLine } from '../formats/presetter-line.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { checkMeasured } from './check-measured.ts';
import { spreadOf } from './spread.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const expected = { number: 'T-1', gaugeLength: mm(118), diameter: mm(12) };
const others = [
  { number: 'T-2', gaugeLength: mm(96.4), diameter: mm(8) },
  { number: 'T-3', gaugeLength: mm(142.2), diameter: mm(12) },
];
const slips = (length: number, diameter: number | null) =>
  checkMeasured(
    { gaugeLength: mm(length), diameter: diameter === null ? null : mm(diameter) },
    expected,
    others,
    'mm',
  ).map(({ slip, value }) => [slip, value]);

describe('a measurement is held against what the pieces give (slips: common practice, no source)', () => {
  it('a little more or less than nominal is a measurement', () => {
    expect(slips(118.224, 11.987)).toEqual([]);
    expect(slips(116.9, null)).toEqual([]);
  });
  it('length and diameter exchanged', () => {
    expect(slips(12.01, 118.2)).toEqual([['lengthAndDiameterSwapped', 'gauge length']]);
  });
  it('a decimal point moved', () => {
    expect(slips(11.8224, 11.99)).toEqual([['decimalPoint', 'gauge length']]);
    expect(slips(118.2, 1.2)).toEqual([['decimalPoint', 'diameter']]);
  });
  it('inches for millimetres', () => {
    expect(slips(4.6545, 12)).toEqual([['units', 'gauge length']]);
    expect(slips(118.2, 0.4724)).toEqual([['units', 'diameter']]);
  });
  it('two digits swapped', () => {
    expect(slips(181.224, 12)).toEqual([['digitsSwapped', 'gauge length']]);
  });
  it('another tool in the fixture is named', () => {
    const [fault] = checkMeasured({ gaugeLength: mm(96.41), diameter: mm(8.01) }, expected, others, 'mm');
    expect(fault).toMatchObject({ slip: 'wrongTool', reason: expect.stringContaining('T-2') });
  });
  it('what no slip explains is another build, with by how much', () => {
    const [fault] = checkMeasured({ gaugeLength: mm(127.3), diameter: mm(12) }, expected, others, 'mm');
    expect(fault).toMatchObject({ slip: 'otherBuild', reason: expect.stringContaining('9.300 mm') });
  });
  it('whatever is measured, either nothing speaks against it or the reason names its value', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 600_000_000 }),
        fc.integer({ min: 1, max: 200_000_000 }),
        (length, diameter) => {
          const faults = checkMeasured(
            { gaugeLength: nanometres(length), diameter: nanometres(diameter) },
            expected,
            others,
            'mm',
          );
          const near =
            Math.abs(length - expected.gaugeLength) <= 2_000_000 &&
            Math.abs(diameter - expected.diameter) <= 150_000;
          expect(faults.length > 0).toBe(
            !near &&
              (Math.abs(length - expected.gaugeLength) > 2_000_000 ||
                Math.abs(diameter - expected.diameter) > 180_000),
          );
          for (const fault of faults) expect(fault.reason).toMatch(/mm|T-/);
        },
      ),
    );
  });
});

describe('the spread of repeated measurements', () => {
  it('is the usual one (n − 1; worked by hand: 2, 4, 4, 4, 5, 5, 7, 9 has mean 5 and squares 32)', () => {
    const spread = spreadOf([2, 4, 4, 4, 5, 5, 7, 9])!;
    expect(spread).toMatchObject({ count: 8, mean: 5, range: 7 });
    expect(spread.deviation).toBeCloseTo(Math.sqrt(32 / 7), 12);
  });
  it('of one has no deviation, of none is nothing', () => {
    expect(spreadOf([3])).toMatchObject({ count: 1, deviation: null });
    expect(spreadOf([])).toBeNull();
  });
});

describe('a line of the presetter', () => {
  it('is read with its unit', () => {
    expect(readPresetterLine('TOOL T-1 L 118.2241 D 11.9982 R 0.2010 U 0.0042 MM\r\n')).toEqual({
      ok: true,
      reading: {
        number: 'T-1',
        gaugeLength: mm(118.2241),
        diameter: mm(11.9982),
        cornerRadius: mm(0.201),
        runOut: mm(0.0042),
        unit: 'mm',
      },
    });
    expect(readPresetterLine('tool T-1 l 4.65 in')).toMatchObject({
      ok: true,
      reading: { gaugeLength: lengthOf(4.65, 'in'), diameter: null, unit: 'in' },
    });
  });
  it.each([
    ['ERROR no tool in the fixture', /no tool in the fixture/],
    ['TOOL T-1 D 12 MM', /no length/],
    ['TOOL T-1 L twelve MM', /"L twelve"/],
    ['TOOL T-1 L 118', /not a measurement/],
    ['GET / HTTP/1.1', /not a measurement/],
    ['', /not a measurement/],
    ['TOOL T-1 L -5 MM', /"L -5"/],
    // two lengths, a sum, another unit behind the number: it cannot be told which was meant
    ['TOOL T-1 L 118.2 D 12 L 120.1 MM', /"L 120.1"/],
    ['TOOL T-1 L 120-1.8 MM', /"L 120-1.8"/],
    ['TOOL T-1 L 4.65in MM', /"L 4.65in"/],
    ['TOOL T-1 L 118.2 D MM', /"D "/],
  ])('%s is a sentence', (line, reason) => {
    expect(readPresetterLine(line)).toMatchObject({ ok: false, reason: expect.stringMatching(reason) });
  });
});
