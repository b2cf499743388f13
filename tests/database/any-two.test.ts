import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setTimeout as sleep } from 'node:timers/promises';
import { closePool } from '../../src/server/db.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';
import { dropDatabases, freshDatabase } from '../support/databases.ts';
import { momentNow, standsAs } from '../support/same-end.ts';
import { shownOf, TOOL_ACTS, type Act } from '../support/two-acts.ts';
import { CRIB_ACTS } from '../support/two-crib-acts.ts';
import { JOB_ACTS } from '../support/two-job-acts.ts';
import { OFFICE_ACTS } from '../support/two-office-acts.ts';

afterAll(closePool);

const ACTS = [...TOOL_ACTS, ...JOB_ACTS, ...CRIB_ACTS, ...OFFICE_ACTS];
const MACHINES = ['Avocet', 'Bittern', 'Curlew', 'Dunlin', 'Egret', 'Fulmar'];
const PAIRS = Number(process.env.PAIRS ?? 8);
const BEFORE = Number(process.env.BEFORE ?? 8);

// people are not in step: what they ask of the database comes at any moment of each other's
let apart = false;
const luckOfTheLine = chance(5);
beforeAll(() => {
  const ask = pg.Client.prototype.query as (...given: unknown[]) => unknown;
  pg.Client.prototype.query = function (this: pg.Client, ...given: unknown[]) {
    if (!apart || typeof given.at(-1) === 'function') return ask.apply(this, given);
    return sleep(Math.floor(luckOfTheLine.next() * 4)).then(() => ask.apply(this, given));
  } as never;
});

const said = (outcome: Outcome<unknown>) => (outcome.ok ? 'done' : outcome.reason);
const asked = async (act: Act) => {
  try {
    return said(await act.run());
  } catch (error) {
    return `it threw: ${(error as Error).message}`;
  }
};
const differing = (a: readonly string[], b: readonly string[]) => {
  const left = [...b];
  const only: string[] = [];
  for (const line of a) {
    const at = left.indexOf(line);
    if (at < 0) only.push(`  - ${line.slice(0, 400)}`);
    else left.splice(at, 1);
  }
  return [...only, ...left.map((line) => `  + ${line.slice(0, 400)}`)];
};

const tally = new Map<string, number>();
describe('two people at once', () => {
  it.each(seedsOr([1]))(
    'whatever two do at one moment, it ends as if one had come after the other: seed %i',
    async (seed) => {
      const luck = chance(seed * 6007);
      const pick = <T>(all: readonly T[]): T => all[Math.floor(luck.next() * all.length)]!;
      const wrong: string[] = [];
      const cell = await weirside();
      const machineId = await cell.machine(pick(MACHINES));
      const told: string[] = [];
      for (let i = 0; i < BEFORE; i += 1) {
        const act = await pick(ACTS)(await shownOf(cell, machineId, luck));
        if (act) told.push(`${act.what}: ${await asked(act)}`);
      }
      const before = await momentNow();
      const pairs: [Act, Act][] = [];
      for (let tries = 0; pairs.length < PAIRS && tries < PAIRS * 8; tries += 1) {
        const shown = await shownOf(cell, machineId, luck);
        const [a, b] = [await pick(ACTS)(shown), await pick(ACTS)(shown)];
        if (a && b) pairs.push([a, b]);
      }
      for (const [a, b] of pairs) {
        const end = async (play: () => Promise<[string, string]>) => {
          await closePool();
          const copy = await freshDatabase(cell.database.name);
          const answers = await play();
          const stands = await standsAs(before);
          await closePool();
          await dropDatabases([copy.name]);
          return { answers, stands };
        };
        const ends = [
          await end(async () => [await asked(a), await asked(b)]),
          await end(async () => {
            const second = await asked(b);
            return [await asked(a), second];
          }),
        ];
        const both = await end(async () => {
          apart = true;
          const answers = await Promise.all([asked(a), asked(b)]);
          apart = false;
          return answers;
        });
        tally.set('pairs', (tally.get('pairs') ?? 0) + 1);
        for (const act of [a, b]) {
          const word = act.what.replace(/\d+/g, '#');
          tally.set(word, (tally.get(word) ?? 0) + 1);
        }
        const apartFrom = ends.map(({ answers, stands }) => [
          ...(JSON.stringify(answers) === JSON.stringify(both.answers)
            ? []
            : [`  answers ${JSON.stringify(answers)}, at once ${JSON.stringify(both.answers)}`]),
          ...differing(stands, both.stands),
        ]);
        if (apartFrom.every((each) => each.length > 0))
          wrong.push(
            `${machineId}: "${a.what}" and "${b.what}"\n a then b:\n${apartFrom[0]!.slice(0, 12).join('\n')}\n b then a:\n${apartFrom[1]!.slice(0, 12).join('\n')}`,
          );
      }
      if (process.env.TELL) console.log(told.join('\n'), [...tally].sort());
      expect(wrong).toEqual([]);
    },
    900_000,
  );
});
