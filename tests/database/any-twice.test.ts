import { afterAll, describe, expect, it } from 'vitest';
import { closePool, pool, row } from '../../src/server/db.ts';
import { lastEntry } from '../../src/server/control-roads.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { signedBy, weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';
import { momentNow, standsAs } from '../support/same-end.ts';
import { shownOf, TOOL_ACTS, type Act } from '../support/two-acts.ts';
import { CRIB_ACTS } from '../support/two-crib-acts.ts';
import { JOB_ACTS } from '../support/two-job-acts.ts';
import { OFFICE_ACTS } from '../support/two-office-acts.ts';

afterAll(closePool);

const ACTS = [...TOOL_ACTS, ...JOB_ACTS, ...CRIB_ACTS, ...OFFICE_ACTS];
const MACHINES = ['Avocet', 'Bittern', 'Curlew', 'Dunlin', 'Egret', 'Fulmar'];
const STEPS = Number(process.env.STEPS ?? 40);

/** What somebody looked at: two who look both saw it, and a second look changes nothing of what is so. */
const LOOKS = [
  /was found in the spindle$/,
  /^preset /,
  /^check T/,
  /read (off|back)$/,
  / of part \d+ of /,
  /^call pocket/,
  /^parts \d+ to \d+ of/,
  /^a note/,
  /is wrong$/,
  /^line \d+ is not so$/,
];

const asked = (act: Act): Promise<Outcome<unknown>> =>
  act.run().catch((error: Error) => ({ ok: false, reason: `it threw: ${error.message}` }));

const tally = new Map<string, [done: number, again: number]>();
describe('two people who write the same thing down', () => {
  it.each(seedsOr([1]))(
    'it is on record once: the second is refused, or asked whether it is another one: seed %i',
    async (seed) => {
      const luck = chance(seed * 7001);
      const pick = <T>(all: readonly T[]): T => all[Math.floor(luck.next() * all.length)]!;
      const cell = await weirside();
      const wrong: string[] = [];
      // nobody who acts otherwise
      const other = (await row<{ id: number }>(pool(), `SELECT id FROM person WHERE badge = '1006'`))!.id;
      const machineId = await cell.machine(pick(MACHINES));
      for (let step = 0; step < STEPS; step += 1) {
        const act = await pick(ACTS)(await shownOf(cell, machineId, luck));
        if (!act) continue;
        const word = act.what.replace(/\d+/g, '#');
        const of = tally.get(word) ?? [0, 0];
        tally.set(word, of);
        const seen = await lastEntry(pool());
        const first = await asked(act);
        if (!first.ok && first.reason.startsWith('it threw')) wrong.push(`${act.what}: ${first.reason}`);
        if (!first.ok) continue;
        of[0] += 1;
        const stood = await momentNow();
        const second = await signedBy({ personId: other, seen }, () => asked(act));
        if (!second.ok && second.reason.startsWith('it threw')) wrong.push(`${act.what}: ${second.reason}`);
        if (!second.ok || LOOKS.some((look) => look.test(act.what))) continue;
        of[1] += 1;
        const written = (await standsAs(stood)).filter((line) => !/^\w+: \d+ others/.test(line));
        if (written.length > 0)
          wrong.push(`${act.what}, twice:\n  ${written.map((line) => line.slice(0, 300)).join('\n  ')}`);
      }
      if (process.env.TELL)
        console.log(
          [...tally]
            .sort()
            .map(([word, [n, again]]) => `${n} ${again} ${word}`)
            .join('\n'),
        );
      expect(wrong).toEqual([]);
    },
    900_000,
  );
});
