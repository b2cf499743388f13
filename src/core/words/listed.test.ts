import { expect, it } from 'vitest';
import { listed } from './listed.ts';

it.each([
  [[], ''],
  [['O1'], 'O1'],
  [['O1', 'O2'], 'O1 and O2'],
  [[2, 5, 22], '2, 5 and 22'],
])('%j is said as "%s"', (names, said) => {
  expect(listed(names)).toBe(said);
});
