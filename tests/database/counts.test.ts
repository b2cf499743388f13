import { afterAll, beforeEach, expect, it } from 'vitest';
import { closePool, pool, row } from '../../src/server/db.ts';
import { countedTools, recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { placesOf, takeOut } from '../../src/server/places.ts';
import { cutting } from '../../src/server/made-now.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { takeReading } from '../../src/server/readings.ts';
import { openRenewal, startRenewal, takeStep, type StepData } from '../../src/server/renewals.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const curlew = async () => (await runningJob(pool(), await cell.machine('Curlew')))!;
const lives = async () =>
  (await countedTools(pool(), await curlew())).map(({ tool, remaining, flag }) => ({
    tool,
    remaining,
    flag,
  }));
const count = async (parts: number) => {
  const { id, made } = await curlew();
  return done(await recordParts(as(cell.operator), { jobId: id, before: made, parts, source: 'typed' }));
};
const takeBack = async (over: object = {}) => {
  const { id, made } = await curlew();
  const last = (await lastCount(pool(), id))!;
  return takeBackCount(as(cell.operator), {
    jobId: id,
    count: last.id,
    before: made,
    why: 'Typed 9 for 6.',
    ...over,
  });
};

it('a wrong count is taken back: parts, lives and flags are as before, and both entries stay', async () => {
  const [before, made] = [await lives(), (await curlew()).made];
  // T2 has eight pieces left: it runs out by this count
  await count(12);
  expect((await lives()).find(({ tool }) => tool === 2)!.flag).toBe('expired');
  done(await takeBack());
  expect(await lives()).toEqual(before);
  expect((await curlew()).made).toBe(made);
  expect(await disagreements(pool())).toEqual([]);
  expect(
    await cell.count(
      `FROM ledger WHERE kind = 'parts' AND stage = 'taken back' AND (detail ->> 'parts')::integer = -12`,
    ),
  ).toBe(1);
});

it('counts are taken back one by one, the last first, each once; two people at once take it back once', async () => {
  const { made } = await curlew();
  await count(2);
  const first = (await lastCount(pool(), (await curlew()).id))!;
  await count(3);
  expect(refused(await takeBack({ count: first.id }))).toMatch(/came after/);
  const outcomes = await Promise.all([takeBack(), takeBack()]);
  expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
  expect((await curlew()).made).toBe(made + 2);
  done(await takeBack());
  expect((await curlew()).made).toBe(made);
});

it('a count that somebody added to meanwhile is not taken back by what the page showed', async () => {
  await count(2);
  const { made } = await curlew();
  expect(refused(await takeBack({ before: made - 1 }))).toMatch(/in the meantime/);
});

it('a tool renewed since keeps its new life: those parts were not cut with its new edge', async () => {
  await count(12);
  const { id: assemblyId } = (await row<{ id: number }>(
    pool(),
    `SELECT id FROM assembly WHERE number = 'L-202'`,
  ))!;
  done(await startRenewal(as(cell.setter), assemblyId));
  const step = (name: 'changed' | 'lifeSet', life: number | null = null) =>
    takeStep(as(cell.setter), {
      assemblyId,
      step: name,
      what: 'new edge',
      life,
      row: 2,
      values: [],
      gaugeLength: null,
      others: [],
      shown: [],
    });
  done(await step('changed'));
  done(await step('lifeSet', 100));
  done(await takeBack());
  expect((await lives()).find(({ tool }) => tool === 2)).toMatchObject({ remaining: 100 });
});

it('what is counted between the change of an edge and its new life was cut by the new one', async () => {
  const { made } = await curlew();
  const { id: assemblyId } = (await row<{ id: number }>(
    pool(),
    `SELECT id FROM assembly WHERE number = 'L-202'`,
  ))!;
  done(await startRenewal(as(cell.setter), assemblyId));
  expect((await openRenewal(pool(), assemblyId))!.cutSince).toBe(0);
  done(
    await takeStep(as(cell.setter), {
      assemblyId,
      step: 'changed',
      what: 'new edge',
      life: null,
      row: 2,
      values: [],
      gaugeLength: null,
      others: [],
      shown: [],
      made: made + 4,
    }),
  );
  // what is counted with the change was cut by the old edge
  expect((await openRenewal(pool(), assemblyId))!.cutSince).toBe(0);
  await count(2);
  expect((await openRenewal(pool(), assemblyId))!.cutSince).toBe(2);
});

it('what the old edge cut and nobody had counted yet is counted with its renewal, not on the new edge', async () => {
  await count(12);
  const { id: jobId, made } = await curlew();
  const { id: assemblyId } = (await row<{ id: number }>(
    pool(),
    `SELECT id FROM assembly WHERE number = 'L-202'`,
  ))!;
  const left = async () => (await lives()).find(({ tool }) => tool === 2)!.remaining;
  const [before, other] = [await left(), (await lives()).find(({ tool }) => tool === 3)!.remaining];
  done(await startRenewal(as(cell.setter), assemblyId));
  const step = (name: 'changed' | 'lifeSet' | 'flagCleared' | 'measured', over: Partial<StepData> = {}) =>
    takeStep(as(cell.setter), {
      assemblyId,
      step: name,
      what: 'new edge',
      life: null,
      row: 2,
      values: [],
      gaugeLength: null,
      others: [],
      shown: [],
      ...over,
    });
  expect(refused(await step('changed', { made: made - 1 }))).toMatch(/stands at \d+ parts on record/);
  expect(refused(await step('changed', { made: 99_999 }))).toMatch(/more than the \d+ of O1402/);
  done(await step('changed', { made: made + 5 }));
  expect((await curlew()).made).toBe(made + 5);
  expect(await left()).toBe(before - 5);
  expect((await lives()).find(({ tool }) => tool === 3)!.remaining).toBeLessThan(other);
  const ended = (await row<{ used: number; full: number }>(
    pool(),
    'SELECT used, life_limit AS "full" FROM edge_end WHERE assembly_id = $1 ORDER BY id DESC LIMIT 1',
    [assemblyId],
  ))!;
  expect(ended.used).toBe(ended.full - (before - 5));
  done(await step('lifeSet', { life: 100 }));
  await count(3);
  expect(await left()).toBe(97);
  // a part that was cut before and is measured now tells of the edge before
  const size = async (part: number) =>
    done(
      await takeReading(as(cell.inspector), {
        featureId: await cell.feature('O1402', 'Bearing seat OD'),
        programId: await cell.program('O1402'),
        jobId,
        part,
        measured: lengthOf(1.3788, 'in'),
        confirmed: true,
        firstOff: false,
      }),
    );
  expect((await size(made + 3)).answer.reason).toMatch(/cut by the edge, or in the set-up, before/);
  expect((await size(made + 7)).answer.reason).not.toMatch(/before the one that cuts now/);
  expect(await disagreements(pool())).toEqual([]);
});

it('and so with a tool that is taken out: what it cut is not used up of the next', async () => {
  const { made, machineId } = await curlew();
  const running = (await cutting(pool(), machineId))!;
  const place = (await placesOf(pool(), machineId)).find(({ tool }) => tool === 2)!;
  const before = (await lives()).find(({ tool }) => tool === 2)!.remaining;
  const out = (over: object = {}) =>
    takeOut(as(cell.setter), { placeId: place.id, assemblyId: place.assembly!.id, why: 'chipped', ...over });
  expect(refused(await out({ made: made - 2 }))).toMatch(/stands at/);
  done(await out({ made: made + 4 }));
  expect((await curlew()).made).toBe(made + 4);
  const { remaining } = (await assemblyById(pool(), place.assembly!.id))!;
  expect(remaining).toBe(before - 4);
  // what does not cut on the job is taken out without a word of it
  const idle = (await placesOf(pool(), machineId)).find(
    ({ tool, assembly }) => assembly && !running.tools.has(tool!),
  );
  if (idle)
    done(
      await takeOut(as(cell.setter), {
        placeId: idle.id,
        assemblyId: idle.assembly!.id,
        why: '',
        made: made + 9,
      }),
    );
  expect((await curlew()).made).toBe(made + 4);
});

it('a new limit counts from what was cut: a smaller one may be passed at once, a larger one gives life again', async () => {
  const { id: assemblyId } = (await row<{ id: number }>(
    pool(),
    `SELECT id FROM assembly WHERE number = 'L-202'`,
  ))!;
  const limit = (fullLife: number, over: object = {}) =>
    setLifeLimit(as(cell.setter), {
      assemblyId,
      basis: 'pieces',
      fullLife,
      left: null,
      why: 'Experience.',
      ...over,
    });
  const l202 = async () => (await lives()).find(({ tool }) => tool === 2)!;
  const { remaining } = await l202();
  const full = (await countedTools(pool(), await curlew())).find(({ tool }) => tool === 2)!.fullLife;
  done(await limit(full + 40));
  expect(await l202()).toEqual({ tool: 2, remaining: remaining + 40, flag: null });
  done(await limit(full - 60));
  expect(await l202()).toEqual({ tool: 2, remaining: remaining - 60, flag: 'expired' });
  done(await limit(full));
  expect(await l202()).toEqual({ tool: 2, remaining, flag: null });
  expect(refused(await limit(full))).toMatch(/already/);
  expect(refused(await limit(300, { basis: 'holes' }))).toMatch(/left in holes/);
  expect(refused(await limit(300, { why: ' ' }))).toMatch(/why/);
  done(await limit(300, { basis: 'holes', left: 120 }));
  expect(await l202()).toMatchObject({ remaining: 120 });
  expect(await disagreements(pool())).toEqual([]);
});
