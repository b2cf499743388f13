import { expect, it } from 'vitest';
import { capital } from './capital.ts';

it('a sentence begins large, and nothing else of it changes', () => {
  expect(['length wear of row 3 goes', 'X wear', 'öl', '3 parts', ''].map(capital)).toEqual([
    'Length wear of row 3 goes',
    'X wear',
    'Öl',
    '3 parts',
    '',
  ]);
});
