import { expect, it } from 'vitest';
import { nextNumber } from './next-number.ts';

it.each([
  ['A-150', [], 'A-151'],
  ['A-150', ['A-151', 'A-152'], 'A-153'],
  ['T009', [], 'T010'],
  ['T999', [], 'T1000'],
  ['7', ['8'], '9'],
  ['EM-10F', [], null],
  [undefined, [], null],
] as const)('after %s with %j taken', (newest, taken, next) => {
  expect(nextNumber(newest, new Set<string>(taken))).toBe(next);
});
