import { afterAll, describe, expect, it } from 'vitest';
import { cellOf } from '../../src/server/cell.ts';
import { cellNow } from '../../src/server/clock.ts';
import { recordParts } from '../../src/server/counts.ts';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { forecast } from '../../src/server/forecast.ts';
import { asSeen, groupsOf, writeGroup } from '../../src/server/groups.ts';
import { addJob, jobsOf, moveJob } from '../../src/server/jobs.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { as, done, weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';

afterAll(closePool);

type Cell = Awaited<ReturnType<typeof weirside>>;
const MACHINES = ['Avocet', 'Bittern', 'Curlew', 'Dunlin', 'Egret', 'Fulmar'];
const ROUNDS = 4;
/** Counted after each forecast. */
const PARTS = 16;

const standing = (machineId: number) =>
  rows<{ id: number; tool: number; flagged: boolean }>(
    pool(),
    `SELECT a.id, s.tool, a.flag IS NOT NULL AS flagged FROM placement s JOIN assembly a ON a.id = s.assembly_id
     WHERE s.machine_id = $1 AND s.tool IS NOT NULL ORDER BY s.tool`,
    [machineId],
  );
const spent = async (machineId: number) =>
  (await standing(machineId)).filter(({ flagged }) => flagged).map(({ tool }) => tool);

/** What runs on a machine: the job that runs, or one of its first program. */
async function runningOn(cell: Cell, machineId: number) {
  const find = async () => (await jobsOf(pool(), machineId)).find(({ state }) => state === 'running');
  const running = await find();
  if (running) return running;
  const [program] = await rows<{ id: number }>(
    pool(),
    'SELECT id FROM program WHERE machine_id = $1 AND EXISTS (SELECT FROM program_call c WHERE c.program_id = program.id) ORDER BY id LIMIT 1',
    [machineId],
  );
  const fresh = { programId: program!.id, quantity: 60, cycleMilliseconds: 300_000 };
  const jobId = done(await addJob(as(cell.lead), fresh));
  done(await moveJob(as(cell.lead), { jobId, move: 'start', why: 'all that is against it is known' }));
  return (await find())!;
}

const tally = new Map<string, number>();
const tell = (what: string) => tally.set(what, (tally.get(what) ?? 0) + 1);
describe('when tools run out', () => {
  it.each(seedsOr([1, 4]))(
    'is foretold to the part, by the forecast and before the job begins: seed %i',
    async (seed) => {
      const luck = chance(seed * 9001);
      const pick = <T>(all: readonly T[]): T => all[Math.floor(luck.next() * all.length)]!;
      const whole = (from: number, to: number) => from + Math.floor(luck.next() * (to - from + 1));
      const cell = await weirside();
      const machine = (await machineById(pool(), await cell.machine(pick(MACHINES))))!;
      const { id: jobId, programId, partsPerCycle } = await runningOn(cell, machine.id);
      const program = (await programById(pool(), programId))!;
      const job = async () => (await jobsOf(pool(), machine.id)).find(({ id }) => id === jobId)!;
      const wrong: string[] = [];

      const otherLives = async () => {
        for (const { id: assemblyId } of await standing(machine.id)) {
          if (luck.next() < 0.35) continue;
          const basis = pick(['pieces', 'holes', 'minutes'] as const);
          const about = { pieces: 1, holes: 6, minutes: 90_000 }[basis];
          const fullLife = about * whole(2, 14) + whole(0, about - 1);
          await setLifeLimit(as(cell.lead), {
            assemblyId,
            basis,
            fullLife,
            left: luck.next() < 0.3 ? null : whole(1, fullLife),
            why: 'as it was seen',
          });
        }
      };
      for (let round = 0; round < ROUNDS; round += 1) {
        await otherLives();
        await otherRules(cell, machine, pick);
        const groups = await groupsOf(pool(), machine.id);
        const inGroup = new Set(groups.flatMap(({ members }) => members.map(({ tool }) => tool)));
        const { made: start, quantity } = await job();
        const all = await forecast(pool(), await cellOf(pool()), cellNow());
        const told = all
          .find(({ machineId }) => machineId === machine.id)!
          .runsOut.filter(({ flag }) => flag === null);
        const asked = (await readinessOf(pool(), program, PARTS * 2, [])).filter(
          ({ code, tool }) => code === 'runsOut' && !inGroup.has(tool!),
        );
        let before = await spent(machine.id);
        for (let made = 0; made < PARTS && start + made < quantity;) {
          const parts = Math.min(partsPerCycle * whole(1, 2), quantity - start - made);
          const count = { jobId, before: start + made, parts, source: 'typed' };
          done(await recordParts(as(cell.operator), count));
          const until = made;
          made += parts;
          const due = (at: number | null | undefined) => at! > until && at! <= made;
          const now = await spent(machine.id);
          const ran = now.filter((tool) => !before.includes(tool) && !inGroup.has(tool));
          before = now;
          const say = (by: string, foretold: readonly (number | null)[]) => {
            if (String(ran) !== String([...foretold].sort((a, b) => a! - b!)))
              wrong.push(
                `${machine.name}, part ${start + made} of ${quantity}: T${ran} ran out, ${by} said T${foretold}`,
              );
          };
          ran.forEach(() => tell('ran out'));
          // what ends with the job keeps nobody from its last part, and is not told with it
          if (start + made < quantity)
            say(
              'the forecast',
              told
                .filter(({ tool, afterParts }) => !inGroup.has(tool) && due(afterParts))
                .map(({ tool }) => tool),
            );
          say(
            'the question before',
            asked.filter(({ afterPart }) => due(afterPart)).map(({ tool }) => tool),
          );
          for (const group of groups.filter(({ rules }) => rules.spares)) {
            const of = group.members.filter(({ assembly }) => assembly !== null).map(({ tool }) => tool);
            const end = told.find(({ tool }) => of.includes(tool))?.afterParts;
            if (end === undefined || end === 0) continue;
            tell('of a group');
            if (of.every((tool) => now.includes(tool)) !== end <= made)
              wrong.push(`${machine.name}: group ${group.number} after ${made}, said to last ${end}`);
          }
        }
      }
      expect(wrong).toEqual([]);
    },
    120_000,
  );
  it('tools and groups did run out', () => {
    for (const what of ['ran out', 'of a group']) expect(tally.get(what), what).toBeGreaterThan(0);
  });
});

/** One of the groups is played by other rules. */
async function otherRules(cell: Cell, machine: Machine, pick: <T>(all: readonly T[]) => T) {
  const groups = await groupsOf(pool(), machine.id);
  if (groups.length === 0) return;
  const one = pick(groups);
  await writeGroup(as(cell.lead), machine, {
    id: one.id,
    seen: asSeen(one),
    group: {
      number: one.number,
      purpose: one.purpose,
      next: pick(['lowest', 'mostUsed', 'leastUsed']),
      renewed: pick(['atOnce', 'spareRuns']),
      spares: pick([true, true, false]),
      initialise: false,
      members: one.members.map(({ tool, role, lengthRows, radiusRows }) => ({
        tool,
        role,
        lengthRows,
        radiusRows,
      })),
    },
  });
}
