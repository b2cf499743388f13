import fc from 'fast-check';
import { expect, it } from 'vitest';
import { minutesAndSeconds, parseMinutesAndSeconds } from './clock.ts';

it('a duration that is shown is read back', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 599_999 }), (seconds) => {
      expect(parseMinutesAndSeconds(minutesAndSeconds(seconds * 1000))).toBe(seconds * 1000);
    }),
  );
});
it.each([
  ['9:30', 570_000],
  [' 12 ', 720_000],
  ['0:01', 1000],
  ['9:60', null],
  ['0', null],
  ['0:00', null],
  ['', null],
  ['9.5', null],
  ['-3', null],
  ['9:3', null],
  ['a9:30', null],
  ['9:30b', null],
])('%s', (text, milliseconds) => {
  expect(parseMinutesAndSeconds(text)).toBe(milliseconds);
});
it('half a second rounds up to the next, over the minute too', () => {
  expect(minutesAndSeconds(59_500)).toBe('1:00');
  expect(minutesAndSeconds(59_499)).toBe('0:59');
});
