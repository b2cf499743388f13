import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { assemblyById } from '../../src/server/assemblies.ts';
import { recordParts } from '../../src/server/counts.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { machineById } from '../../src/server/machines.ts';
import { takeOut } from '../../src/server/places.ts';
import { featureById } from '../../src/server/programs.ts';
import { dropRenewal } from '../../src/server/renewal-dropped.ts';
import { openRenewal, startRenewal, type StepData } from '../../src/server/renewals.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { onEgret, stepOf, takeSize } from '../support/egret.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const NUMBER = 'E-501';
const standing = async () => (await assemblyById(pool(), await cell.assembly(NUMBER)))!;
const begin = async () => startRenewal(as(cell.setter), await cell.assembly(NUMBER));
const step = async (step: StepData['step'], over?: Partial<StepData>) =>
  stepOf(cell, await cell.assembly(NUMBER), step, {
    ended: { end: 'worn', sign: null, flank: null },
    ...over,
  });
const drop = async (why = 'it was T2 that was changed', who = cell.setter) =>
  dropRenewal(as(who), { assemblyId: await cell.assembly(NUMBER), why });
const count = async (parts: number) => {
  const { id, made } = await onEgret(cell);
  done(await recordParts(as(cell.operator), { jobId: id, before: made, parts, source: 'typed' }));
};
/** The face that it cuts, of a part. */
const take = (size: number, part: number) => takeSize(cell, size, part);
const expire = async () => {
  await cell.asOwner((client) =>
    client.query(
      `INSERT INTO ledger (kind, stage, person_id, assembly_id, counter_id, before_value, after_value, change_value, said)
       SELECT 'life', 'set', $2, a.id, c.id, c.value, 0, -c.value, 'for the test' FROM assembly a JOIN life_counter c ON c.assembly_id = a.id WHERE a.number = $1`,
      [NUMBER, cell.lead.id],
    ),
  );
  await cell.asOwner((client) =>
    client.query(`UPDATE assembly SET flag = 'expired' WHERE number = $1`, [NUMBER]),
  );
};
/** What the face that it cuts knows of the past. */
const evidence = async () => {
  const feature = (await featureById(pool(), await cell.feature('O5103', 'Face height')))!;
  const { readings, edges } = await evidenceOf(
    pool(),
    (await machineById(pool(), await cell.machine('Egret')))!,
    feature,
  );
  return { held: readings.map(({ held }) => held), edges };
};

describe('a renewal that was begun at the wrong tool', () => {
  it('is dropped before anything was done, and another may begin', async () => {
    const before = await standing();
    done(await begin());
    done(await drop());
    expect(await openRenewal(pool(), before.id)).toBeNull();
    expect(await standing()).toEqual(before);
    done(await begin());
  });
  it('leaves the edge as it was: its life, its flag, and what was measured of it', async () => {
    const { made } = await onEgret(cell);
    for (const part of [made - 2, made - 1, made]) await take(80.001, part);
    await expire();
    const before = await standing();
    const known = await evidence();
    const ends = await cell.count('FROM edge_end');
    done(await begin());
    done(await step('changed'));
    expect(await cell.count('FROM edge_end')).toBe(ends + 1);
    expect((await evidence()).edges).not.toEqual(known.edges);
    done(await step('lifeSet', { life: before.fullLife }));
    done(await step('flagCleared'));
    expect((await standing()).flag).toBeNull();
    done(await drop());
    expect(await standing()).toEqual(before);
    expect(before).toMatchObject({ flag: 'expired', remaining: 0 });
    expect(await evidence()).toEqual(known);
    expect(await cell.count('FROM edge_end')).toBe(ends);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('what was cut meanwhile is off its life', async () => {
    const before = await standing();
    done(await begin());
    done(await step('changed'));
    done(await step('lifeSet', { life: before.fullLife }));
    await count(2);
    const used = before.fullLife! - (await standing()).remaining!;
    done(await drop());
    expect((await standing()).remaining).toBe(before.remaining! - used);
    expect(used).toBeGreaterThan(0);
  });
  it('runs out where it has cut more than it had', async () => {
    await expire();
    done(await begin());
    done(await step('changed'));
    done(await step('lifeSet', { life: (await standing()).fullLife }));
    done(await step('flagCleared'));
    await count(2);
    done(await drop());
    expect((await standing()).flag).toBe('expired');
    expect((await standing()).remaining).toBeLessThan(0);
  });
  it('parts that are measured then are of one edge with those before', async () => {
    const { made } = await onEgret(cell);
    await take(80.001, made);
    done(await begin());
    done(await step('changed'));
    done(await drop());
    await count(2);
    const { answer } = await take(80.001, made + 1);
    expect(answer.reason).not.toMatch(/edge/);
  });
  it('says why, is dropped once, and not when it is finished', async () => {
    expect(refused(await drop())).toMatch(/No renewal/);
    done(await begin());
    expect(refused(await drop(' '))).toMatch(/Say why/);
    const both = await Promise.all([drop(), drop()]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
  });
  it.each([true, false])(
    'by two people at once, in a machine: %s: the step goes with it, or it is refused',
    async (standsIn) => {
      if (!standsIn) {
        const assemblyId = await cell.assembly(NUMBER);
        const { placeId } = (await row<{ placeId: number }>(
          pool(),
          'SELECT place_id AS "placeId" FROM placement WHERE assembly_id = $1',
          [assemblyId],
        ))!;
        done(await takeOut(as(cell.setter), { assemblyId, placeId, why: 'to the bench' }));
      }
      const before = await standing();
      done(await begin());
      const [stepped, dropped] = await Promise.all([step('changed'), drop()]);
      expect(dropped.ok).toBe(true);
      if (!stepped.ok) expect(stepped.reason).toMatch(/No renewal/);
      expect(await standing()).toEqual(before);
      expect(await openRenewal(pool(), before.id)).toBeNull();
    },
  );
});
