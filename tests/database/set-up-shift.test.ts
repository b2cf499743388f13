import { afterAll, beforeEach, expect, it } from 'vitest';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { recordParts } from '../../src/server/counts.ts';
import { cellOf } from '../../src/server/cell.ts';
import { spokenOf } from '../../src/server/handover.ts';
import { shiftAt } from '../../src/core/shift/calendar.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { moveJob, runningJob, setUpAgain } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { measuringOn } from '../../src/server/now.ts';
import { takeReading } from '../../src/server/readings.ts';
import { lengthOf, nanometres } from '../../src/core/units/length.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => {
  cell = await weirside();
  // two more heights of Avocet's O2301, each by a tool of its own; and one more by the same tool in another row
  for (const [name, tool, of] of [
    ['Step height', 3, 3],
    ['Rib height', 5, 5],
    ['Rim height', 1, 21],
  ] as const)
    await pool().query(
      `INSERT INTO feature (machine_id, program_number, name, kind, nominal, upper, lower, target, tool, row, policy, dead_band, average_of, operator_limit, gauge)
       SELECT machine_id, program_number, $1, kind, nominal, upper, lower, target, $2, $3, policy, dead_band, average_of, operator_limit, ''
       FROM feature WHERE program_number = 'O2301' AND name = 'Body height'`,
      [name, tool, of],
    );
});
afterAll(closePool);

const take = async (name: string, size: number, part: number, { firstOff = true } = {}) =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature('O2301', name),
      programId: await cell.program('O2301'),
      jobId: await cell.job('O2301'),
      part,
      measured: lengthOf(size, 'mm'),
      confirmed: true,
      firstOff,
      recut: false,
    }),
  );
/** What Now says of the running job. */
const measuring = async () => {
  const machine = (await machineById(pool(), 1))!;
  const job = (await runningJob(pool(), 1))!;
  return (await measuringOn(pool(), machine, job, job.programId))!;
};
/** Another job is put in between. */
async function between() {
  for (const [program, move] of [
    ['O2301', 'pause'],
    ['O2310', 'start'],
    ['O2310', 'pause'],
    ['O2301', 'start'],
  ] as const)
    done(
      await moveJob(as(cell.lead), {
        jobId: await cell.job(program),
        move,
        why: 'the other is wanted first',
      }),
    );
}

it('three tools that all need the same after a set-up: it is looked at as a whole, as long as nobody moved one of them', async () => {
  await between();
  const answers = [
    await take('Body height', 36.091, 52),
    await take('Step height', 36.089, 52),
    await take('Rib height', 36.09, 52),
  ];
  const { off } = await measuring();
  expect(off!.found).toMatch(/^T1, T3 and T5 all need about −0\.0(89|9) mm in length/);
  expect(off!.look).toContain('work offset in Z');
  // each has its correction all the same, and whoever keys one has decided
  const [proposal] = answers.flatMap(({ proposalIds }) => proposalIds);
  done(await approve(as(cell.lead), cell.lead, proposal!));
  expect((await measuring()).off).not.toBeNull();
  const { to } = (await row<{ to: number }>(pool(), 'SELECT to_value AS "to" FROM proposal WHERE id = $1', [
    proposal,
  ]))!;
  done(await readBack(as(cell.operator), proposal!, { shown: nanometres(to), again: nanometres(to) }));
  expect((await measuring()).off).toBeNull();
});

it('is said of no set-up in which one tool is off otherwise, of no two rows of one tool, and not in the middle of a run', async () => {
  await between();
  await take('Body height', 36.061, 52);
  await take('Rim height', 36.06, 52);
  expect((await measuring()).off).toBeNull();
  await take('Step height', 36.002, 52);
  await take('Rib height', 36.06, 52);
  expect((await measuring()).off).toBeNull();
});

it('a job that goes on as the machine stood was set up long ago: its edges may be worn alike', async () => {
  for (const name of ['Body height', 'Step height', 'Rib height'])
    for (const part of [52, 53, 54, 55]) await take(name, 36.06, part, { firstOff: false });
  expect((await measuring()).off).toBeNull();
});

it('whoever moves the work offset says so: what waits is withdrawn, nothing of it is keyed, and the next part is a first-off', async () => {
  await between();
  const jobId = await cell.job('O2301');
  done(await recordParts(as(cell.operator), { jobId, before: 51, parts: 1, source: 'typed' }));
  const waiting = [
    ...(await take('Body height', 36.061, 52)).proposalIds,
    ...(await take('Step height', 36.059, 52)).proposalIds,
  ];
  expect(waiting).toHaveLength(2);
  done(await setUpAgain(as(cell.setter), { jobId, why: 'work offset moved' }));
  for (const id of waiting) {
    expect(await correctionById(pool(), id)).toMatchObject({ state: 'superseded' });
    expect(refused(await approve(as(cell.lead), cell.lead, id))).not.toBe('');
  }
  const { made } = (await runningJob(pool(), 1))!;
  const { setUp, features, off } = await measuring();
  expect(setUp).toEqual({ parts: null });
  expect(off).toBeNull();
  expect(features.map(({ part }) => part)).toEqual(features.map(() => made + 1));
  // whoever comes next hears of it
  const { patterns, timeZone } = await cellOf(pool());
  const shift = shiftAt(new Date(), patterns, timeZone)!;
  const spoken = await spokenOf(pool(), await cellOf(pool()), shift, new Date());
  // in full, or where there is more to say than a minute takes by its number
  expect(spoken.join(' ')).toMatch(
    /Set up anew while it ran: Avocet O2301, work offset moved\.|1 job set up anew\./,
  );
  // the part that was cut before it says nothing of those to come; the next one is taken out whole
  done(await recordParts(as(cell.operator), { jobId, before: made, parts: 1, source: 'typed' }));
  const { answer } = await take('Body height', 36.02, made + 1);
  expect(answer.verdict === 'change' && answer.rows.map(({ change }) => change)).toEqual([-20_000]);
});

it('which part was the first cut so is said: those before it say nothing of it, and where nobody knows, neither do they', async () => {
  await between();
  const jobId = await cell.job('O2301');
  done(await recordParts(as(cell.operator), { jobId, before: 51, parts: 4, source: 'typed' }));
  await take('Body height', 36.061, 52);
  const question = async (part: number, size: number) => {
    const { answer } = await take('Body height', size, part, { firstOff: false });
    return answer.verdict === 'change' ? answer.rows.map(({ change }) => change / 1000) : answer.verdict;
  };
  // the stop was moved before part 54, and is told after part 55 was cut
  done(await setUpAgain(as(cell.setter), { jobId, why: 'stop moved', first: 54 }));
  expect((await measuring()).features.map(({ part }) => part)).toEqual(
    (await measuring()).features.map(() => 55),
  );
  expect(await question(53, 36.06)).toBe('leave');
  expect(await question(55, 36.02)).toEqual([-20]);
});

it('where nobody knows when it was changed, what was cut about then is no evidence', async () => {
  await between();
  const jobId = await cell.job('O2301');
  done(await recordParts(as(cell.operator), { jobId, before: 51, parts: 4, source: 'typed' }));
  await take('Body height', 36.002, 52);
  done(await setUpAgain(as(cell.setter), { jobId, why: 'stop moved', first: 'unsure' }));
  // perhaps of the one set-up, perhaps of the other
  const { answer } = await take('Body height', 36.03, 54, { firstOff: false });
  expect(answer.verdict).toBe('leave');
  done(await recordParts(as(cell.operator), { jobId, before: 55, parts: 2, source: 'typed' }));
  const after = await take('Body height', 36.03, 57, { firstOff: false });
  expect(after.answer.verdict === 'change' && after.answer.rows.map(({ change }) => change)).toEqual([
    -30_000,
  ]);
});

it('is not said of a job that waits', async () => {
  const why = refused(await setUpAgain(as(cell.setter), { jobId: await cell.job('O2310'), why: 'jaws' }));
  expect(why).toContain('not running');
});
