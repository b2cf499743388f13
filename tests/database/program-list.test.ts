import { afterAll, beforeAll, expect, it } from 'vitest';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { findPrograms, programChoices } from '../../src/server/program-list.ts';
import { programs } from '../../src/server/programs.ts';
import { freshDatabase } from '../support/databases.ts';

beforeAll(() => freshDatabase('tin_demo'));
afterAll(closePool);

it('the list of programs is what there is of each newest revision, however it is cut into pages', async () => {
  const all = (await programs(pool())).filter(({ newest }) => newest);
  expect(all.length).toBeGreaterThan(8);
  expect((await rows(pool(), 'SELECT id FROM program')).length).toBeGreaterThan(all.length);
  const listed = [];
  for (let from = 0; from < all.length; from += 3) listed.push(...(await findPrograms(pool(), '', 3, from)));
  expect(listed).toEqual(
    all.map(({ id, machine, number, title, revision, tools, cutMilliseconds, features, broughtInBy }) => ({
      ...{ id, machine, number, title, revision, tools, cutMilliseconds, features, broughtInBy },
      total: all.length,
    })),
  );
  expect(await programChoices(pool())).toEqual(
    all.map(({ id, machine, number, title }) => ({ id, machine, number, title })),
  );
});

it('each word narrows it, in any order and in capitals or not; signs of a pattern are signs', async () => {
  const numbers = async (words: string) =>
    (await findPrograms(pool(), words, 100)).map(({ number }) => number);
  expect(await numbers('PIN curlew')).toEqual(['O1402']);
  expect(await numbers('curlew  pin ')).toEqual(['O1402']);
  expect(await numbers('%')).toEqual([]);
  expect(await numbers('curlew avocet')).toEqual([]);
  expect((await numbers('curlew')).length).toBeGreaterThan(1);
});
