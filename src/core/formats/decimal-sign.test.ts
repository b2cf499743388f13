import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decimalSignOf, withPoint } from './decimal-sign.ts';

/** A number as a spreadsheet writes it in a language, by the language's own rules (ECMA-402, of the runtime). */
const written = (value: number, language: string, digits: number) =>
  new Intl.NumberFormat(language, { minimumFractionDigits: digits, maximumFractionDigits: digits }).format(
    value,
  );

describe('the form of numbers, once for a file', () => {
  it.each([
    [['6.8', '1.000'], ';', 'point'],
    [['6,8', '1.000'], ';', 'comma'],
    [['1.000', '80.000'], ';', null],
    [['1.000', '80.000'], ',', 'point'],
    [['1,000'], ';', null],
    [['0.125'], ';', 'point'],
    [['0,125'], ';', 'comma'],
    [['12', '7'], ';', 'point'],
    [['6,8', '6.8'], ';', null],
    [['1.234.567'], ';', 'comma'],
    [['1,234.5'], '\t', 'point'],
    [['1.234,5'], '\t', 'comma'],
    [['A-1.000', 'M8x1.25'], ';', 'point'],
    [['12,5 mm', '.5'], ';', null],
    [['.5'], ';', 'point'],
  ] as const)('%j parted by %j', (cells, separator, sign) => {
    expect(decimalSignOf(cells, separator)).toBe(sign);
  });
  it('what a spreadsheet wrote in one language is read as the number it was', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 99_999_999 }), { minLength: 1, maxLength: 20 }),
        fc.constantFrom('de-DE', 'en-US', 'fr-FR', 'it-IT', 'en-GB', 'es-ES'),
        fc.constantFrom(1, 2, 4),
        (thousandths, language, digits) => {
          const values = thousandths.map((value) => value / 10 ** digits);
          const cells = values.map((value) =>
            written(value, language, digits).replace(/[\u202f\u00a0]/g, ''),
          );
          const sign = decimalSignOf(cells, ';');
          expect(sign).not.toBeNull();
          expect(cells.map((cell) => Number(withPoint(cell, sign!)))).toEqual(values);
        },
      ),
    );
  });
  it('three digits behind the sign are never guessed where nothing else tells', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1000, max: 999_999 }), { minLength: 1 }), (thousandths) => {
        const cells = thousandths.map((value) => written(value / 1000, 'en-US', 3));
        expect(decimalSignOf(cells, ';')).toBeNull();
      }),
    );
  });
  it('marks between thousands go, and units and words stay', () => {
    expect(withPoint('1.234,5 mm', 'comma')).toBe('1234.5 mm');
    expect(withPoint('1,234.5', 'point')).toBe('1234.5');
    expect(withPoint('80.000', 'comma')).toBe('80000');
    expect(withPoint('80.000', 'point')).toBe('80.000');
    expect(withPoint('1.25,5', 'comma')).toBe('1.25.5');
    expect(withPoint('M8x1,25', 'comma')).toBe('M8x1,25');
    expect(withPoint('1 1/2in', 'comma')).toBe('1 1/2in');
  });
});
