import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { assemblyById } from '../../src/server/assemblies.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { groupsOf } from '../../src/server/groups.ts';
import { addJob, moveJob, openJobs, setUpAgain } from '../../src/server/jobs.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { machineById } from '../../src/server/machines.ts';
import { featureById } from '../../src/server/programs.ts';
import { startRenewal, type StepData } from '../../src/server/renewals.ts';
import { setUpOf } from '../../src/server/set-ups.ts';
import { takeBackReading } from '../../src/server/wrong-readings.ts';
import { as, done, weirside } from '../support/cell.ts';
import { onEgret, stepOf, takeSize } from '../support/egret.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const egret = () => cell.machine('Egret');
const running = () => onEgret(cell);
const count = async (parts: number) => {
  const { id, made } = await running();
  done(await recordParts(as(cell.operator), { jobId: id, before: made, parts, source: 'typed' }));
};
const countBack = async (really?: number) => {
  const { id, made } = await running();
  const last = (await lastCount(pool(), id))!;
  const wrong = { jobId: id, count: last.id, before: made, why: 'A nought too many.' };
  done(await takeBackCount(as(cell.operator), { ...wrong, ...(really === undefined ? {} : { really }) }));
};
const take = (size: number, part: number, name?: string) => takeSize(cell, size, part, name);
/** A correction is approved, keyed and read back, "from the next part on". */
const key = async (id: number) => {
  done(await approve(as(cell.lead), cell.lead, id));
  const { to } = (await correctionById(pool(), id))!;
  done(await readBack(as(cell.operator), id, { shown: to, again: to }));
  return to;
};
/** What the size's row held when a part was cut; null: nobody can tell. */
const heldFor = async (part: number) => {
  const { readingId } = await take(80.001, part);
  const feature = (await featureById(pool(), await cell.feature('O5103', 'Face height')))!;
  const { readings } = await evidenceOf(pool(), (await machineById(pool(), await egret()))!, feature);
  return readings.find(({ id }) => id === readingId)!.held;
};

describe('a correction that was keyed while too many parts were on record', () => {
  /** Forty are counted for four, and a correction is keyed by then. */
  const tenfold = async () => {
    const { made } = await running();
    const id = (await take(80.024, made)).proposalIds[0]!;
    await count(40);
    return { made, to: await key(id) };
  };

  it('is taken for what it did as soon as the count was put right', async () => {
    const { made, to } = await tenfold();
    await countBack();
    await count(4);
    const { took } = await take(80.001, made + 5);
    expect(took).not.toBeNull();
    expect(await heldFor(made + 6)).toEqual([to]);
  });
  it('nobody can tell of the parts between', async () => {
    const { made } = await tenfold();
    await countBack();
    expect(await heldFor(made + 3)).toBeNull();
    await count(4);
    expect(await heldFor(made + 2)).toBeNull();
    expect(await heldFor(made)).not.toBeNull();
  });
  it('or it is told, with the count that it really was', async () => {
    const { made, to } = await tenfold();
    await countBack(4);
    expect((await running()).made).toBe(made + 4);
    expect(await heldFor(made + 5)).toEqual([to]);
    expect(await heldFor(made + 4)).not.toEqual([to]);
    expect(await heldFor(made + 4)).not.toBeNull();
    expect(await disagreements(pool())).toEqual([]);
  });
  it('a later count does not stretch it', async () => {
    const { made, to } = await tenfold();
    await countBack();
    await count(4);
    await count(30);
    expect(await heldFor(made + 20)).toEqual([to]);
  });
  it('holds of a part number that was typed wrong as well', async () => {
    const { made } = await running();
    const id = (await take(80.024, made)).proposalIds[0]!;
    const wrong = (await take(16.009, made + 60, 'Dowel bore')).readingId!;
    const to = await key(id);
    const why = 'of another part';
    done(await takeBackReading(as(cell.operator), { machineId: await egret(), readingId: wrong, why }));
    await count(4);
    expect(await heldFor(made + 5)).toEqual([to]);
    expect(await heldFor(made + 2)).toBeNull();
  });
  it('where a part number was said, that stands', async () => {
    const { made } = await running();
    const id = (await take(80.024, made)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    await count(40);
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to, first: made + 3 }));
    await countBack();
    expect(await heldFor(made + 3)).toEqual([to]);
    expect(await heldFor(made + 2)).not.toBeNull();
  });
  it('a new set-up begins where it was made', async () => {
    const { id, made } = await running();
    await count(40);
    done(await setUpAgain(as(cell.setter), { jobId: id, why: 'the jaws were bored anew' }));
    expect((await setUpOf(pool(), id))!.cut).toBe(made + 40);
    await countBack(4);
    expect((await setUpOf(pool(), id))!.cut).toBe(made + 4);
  });
});

describe('an edge that was changed while too many parts were on record', () => {
  const left = async () => (await assemblyById(pool(), await cell.assembly('E-501')))!.remaining!;
  const full = async () => (await assemblyById(pool(), await cell.assembly('E-501')))!.fullLife!;
  const step = async (step: StepData['step'], over?: Partial<StepData>) =>
    done(await stepOf(cell, await cell.assembly('E-501'), step, over));
  const begin = async () => done(await startRenewal(as(cell.setter), await cell.assembly('E-501')));
  /** What so many parts take of it. */
  const takes = async (parts: number) => {
    const before = await left();
    await count(parts);
    const after = await left();
    await countBack();
    expect(await left()).toBe(before);
    return before - after;
  };

  it('has cut none of the parts before it', async () => {
    await count(40);
    await begin();
    await step('changed');
    await step('lifeSet', { life: await full() });
    await countBack(4);
    expect(await left()).toBe(await full());
    const two = await takes(2);
    await count(2);
    expect(await left()).toBe((await full()) - two);
    expect(two).toBeGreaterThan(0);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('gets back what was counted wrong since, though its life was set then', async () => {
    const forty = await takes(40);
    await begin();
    await step('changed');
    await count(40);
    await step('lifeSet', { life: (await full()) - forty });
    await countBack();
    expect(await left()).toBe(await full());
    await count(4);
    expect(await left()).toBe((await full()) - forty / 10);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('but not where its life was read off and not reckoned', async () => {
    await begin();
    await step('changed');
    await count(40);
    await step('lifeSet', { life: (await full()) - 7 });
    await countBack();
    expect(await left()).toBe((await full()) - 7);
  });
});

describe('a group whose members cut for two jobs', () => {
  it('has in use who cut the last part, whichever job’s count is taken back', async () => {
    const group = async () => (await groupsOf(pool(), await egret()))[0]!;
    const first = await running();
    const [T4, T24] = (await group()).members.map(({ tool }) => tool) as [number, number];
    const setLeft = (tool: number, remaining: number) =>
      cell.asOwner(async (client) =>
        client.query(
          `INSERT INTO ledger (kind, stage, person_id, assembly_id, counter_id, before_value, after_value, change_value, said)
           SELECT 'life', 'set', $3, a.id, c.id, c.value, $2, $2 - c.value, 'for the test' FROM placement s JOIN assembly a ON a.id = s.assembly_id
           JOIN life_counter c ON c.assembly_id = a.id WHERE s.machine_id = $4 AND s.tool = $1`,
          [tool, remaining, cell.lead.id, await egret()],
        ),
      );
    const second = done(
      await addJob(as(cell.lead), { programId: first.programId, quantity: 60, cycleMilliseconds: 360_000 }),
    );
    await setLeft(T4, 6);
    await setLeft(T24, 100);
    // two holes a part: T4 cuts three of the four and expires
    await count(4);
    const counted = (await lastCount(pool(), first.id))!;
    done(await moveJob(as(cell.setter), { jobId: first.id, move: 'pause', why: 'urgent work' }));
    done(await moveJob(as(cell.setter), { jobId: second, move: 'start', why: 'urgent work' }));
    await count(5);
    expect((await group()).inUse).toBe(T24);
    const { made } = (await openJobs(pool())).find(({ id }) => id === first.id)!;
    const wrong = { jobId: first.id, count: counted.id, before: made, why: 'counted twice' };
    done(await takeBackCount(as(cell.operator), wrong));
    expect((await group()).inUse).toBe(T24);
    expect(await disagreements(pool())).toEqual([]);
  });
});
