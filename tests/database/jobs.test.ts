import { afterAll, beforeEach, expect, it } from 'vitest';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { recordParts } from '../../src/server/counts.ts';
import {
  addJob,
  changeJob,
  isWaiting,
  jobsAhead,
  jobsOf,
  lastCycles,
  moveAhead,
  moveJob,
  runningJob,
} from '../../src/server/jobs.ts';
import { board } from '../../src/server/board.ts';
import { programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let machineId: number;
let programId: number;
beforeEach(async () => {
  cell = await weirside();
  machineId = await cell.machine('Avocet');
  programId = (await runningJob(pool(), machineId))!.programId;
});
afterAll(closePool);

const add = async (quantity: number) =>
  done(await addJob(as(cell.lead), { programId, quantity, cycleMilliseconds: 60_000 }));
const list = async () => (await jobsOf(pool(), machineId)).filter(isWaiting).map((job) => job.id);
const running = async () => (await runningJob(pool(), machineId))!;
const stages = async (jobId: number) =>
  (
    await rows<{ stage: string }>(
      pool(),
      `SELECT stage FROM ledger WHERE kind = 'program' AND job_id = $1 ORDER BY id`,
      [jobId],
    )
  ).map((each) => each.stage);

it('a job is paused with its reason, another runs, and the paused one goes on from its count', async () => {
  const first = await running();
  const second = await add(3);
  expect(refused(await moveJob(as(cell.lead), { jobId: second, move: 'start' }))).toMatch(first.number);
  expect(refused(await moveJob(as(cell.lead), { jobId: first.id, move: 'pause' }))).toMatch(/why/);
  done(await moveJob(as(cell.lead), { jobId: first.id, move: 'pause', why: 'material is missing' }));
  expect(
    refused(
      await recordParts(as(cell.operator), {
        jobId: first.id,
        before: first.made,
        parts: 1,
        source: 'typed',
      }),
    ),
  ).toMatch(/paused.*material is missing/);
  done(await moveJob(as(cell.lead), { jobId: second, move: 'start' }));
  done(await moveJob(as(cell.lead), { jobId: second, move: 'finish', why: 'the order was cut' }));
  done(await moveJob(as(cell.lead), { jobId: first.id, move: 'start' }));
  expect(await running()).toMatchObject({ id: first.id, made: first.made, why: '' });
  expect((await stages(first.id)).slice(-2)).toEqual(['paused', 'taken up']);
  expect((await stages(second)).at(-1)).toBe('stopped');
});

it('two people start two jobs at once: one runs', async () => {
  const first = await running();
  done(await moveJob(as(cell.lead), { jobId: first.id, move: 'pause', why: 'the machine is down' }));
  const ids = [await add(1), await add(2)];
  const outcomes = await Promise.all(
    ids.map((jobId, i) => moveJob(as(i === 0 ? cell.lead : cell.setter), { jobId, move: 'start' })),
  );
  expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
});

it('the list is moved about one by one; whoever saw another list is told', async () => {
  const before = await list();
  const [a, b, c] = [await add(1), await add(2), await add(3)];
  done(await moveAhead(as(cell.lead), { jobId: c, of: b }));
  expect(await list()).toEqual([...before, a, c, b]);
  expect(refused(await moveAhead(as(cell.setter), { jobId: c, of: b }))).toMatch(/changed/);
  const both = await Promise.all([
    moveAhead(as(cell.lead), { jobId: b, of: c }),
    moveAhead(as(cell.setter), { jobId: c, of: a }),
  ]);
  expect(both.some((outcome) => outcome.ok)).toBe(true);
  expect((await list()).toSorted()).toEqual([...before, a, b, c].toSorted());
  expect(refused(await moveAhead(as(cell.lead), { jobId: (await list())[0]!, of: a }))).toMatch(/changed/);
});

it('a job that was never begun is taken off the list; one with parts is stopped', async () => {
  const fresh = await add(5);
  expect(refused(await moveJob(as(cell.lead), { jobId: fresh, move: 'remove' }))).toMatch(/why/);
  done(await moveJob(as(cell.lead), { jobId: fresh, move: 'remove', why: 'ordered twice' }));
  expect(await list()).not.toContain(fresh);
  expect(await stages(fresh)).toEqual(['job', 'removed']);
  const { id, made } = await running();
  expect(made).toBeGreaterThan(0);
  expect(refused(await moveJob(as(cell.lead), { jobId: id, move: 'remove', why: 'x' }))).toMatch(/stop/);
});

it('quantity and cycle change by what the page showed, and never below what is made', async () => {
  const { id, quantity, cycleMilliseconds, made } = await running();
  const shown = { quantity, cycleMilliseconds };
  expect(
    refused(await changeJob(as(cell.lead), { jobId: id, quantity: made - 1, cycleMilliseconds, shown })),
  ).toContain(`${made} of them`);
  const both = await Promise.all([
    changeJob(as(cell.lead), { jobId: id, quantity: quantity + 5, cycleMilliseconds, shown }),
    changeJob(as(cell.setter), { jobId: id, quantity: quantity + 9, cycleMilliseconds, shown }),
  ]);
  expect(both.filter((outcome) => outcome.ok)).toHaveLength(1);
  const fresh = await add(2);
  done(
    await changeJob(as(cell.lead), {
      jobId: fresh,
      quantity: 2,
      cycleMilliseconds: 90_000,
      shown: { quantity: 2, cycleMilliseconds: 60_000 },
    }),
  );
  const [last] = (await lastCycles(pool(), machineId)).filter((each) => each.cycleMilliseconds === 90_000);
  expect(last).toBeDefined();
  expect((await stages(fresh)).at(-1)).toBe('job changed');
});

it('a job that waits is held against what those before it leave of each tool', async () => {
  const plate = (await programById(pool(), await cell.program('O2310')))!;
  const spent = async (before: Awaited<ReturnType<typeof jobsAhead>>) =>
    (await readinessOf(pool(), plate, 40, before)).flatMap(({ code, tool, afterPart }) =>
      code === 'runsOut' ? [[tool, afterPart]] : [],
    );
  // now its rougher has life for thirteen; the job that runs changes it on the way, and takes of others what they have
  expect(await spent([])).toEqual([[2, 13]]);
  const ahead = await jobsAhead(pool(), plate);
  expect(ahead.map(({ number, state }) => [number, state])).toEqual([['O2301', 'running']]);
  const after = await spent(ahead);
  expect(after.map(([tool]) => tool)).not.toContain(2);
  expect(after).toContainEqual([3, 15]);
  const onBoard = (await board(pool())).find((each) => each.machine === 'Avocet')!.next[0]!;
  expect(onBoard.number).toBe('O2310');
  expect([...onBoard.against, ...Array<null>(onBoard.more).fill(null)].length).toBe(
    (await readinessOf(pool(), plate, 40, ahead)).filter(({ weight }) => weight !== 'settled').length,
  );
  // what runs is behind nothing; what is on no list comes after what runs
  expect(await jobsAhead(pool(), { machineId, number: 'O2301' })).toEqual([]);
  expect((await jobsAhead(pool(), { machineId, number: 'O9999' })).map(({ number }) => number)).toEqual([
    'O2301',
  ]);
  expect((await jobsAhead(pool(), { machineId, number: 'O2205' })).map(({ number }) => number)).toEqual([
    'O2301',
    'O2310',
  ]);
});
