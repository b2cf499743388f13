import pg from 'pg';
import { afterAll, afterEach, beforeEach, describe, expect, it } from 'vitest';
import { setClock } from '../../sim/play/clock.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { cellOf } from '../../src/server/cell.ts';
import { correctionById, readBack, strayCorrections } from '../../src/server/corrections.ts';
import { recordParts } from '../../src/server/counts.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { setUpAgain } from '../../src/server/jobs.ts';
import { foundAtControl } from '../../src/server/registers.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { machineById } from '../../src/server/machines.ts';
import { nextOnJob } from '../../src/server/now.ts';
import { featureById, programById } from '../../src/server/programs.ts';
import { startRenewal } from '../../src/server/renewals.ts';
import { as, done, weirside } from '../support/cell.ts';
import { onEgret, stepOf, takeSize } from '../support/egret.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let owner: pg.Client;
let now: number;
beforeEach(async () => {
  cell = await weirside();
  owner = new pg.Client({ connectionString: cell.database.ownerUrl });
  await owner.connect();
  now = Date.now();
  await later(0);
});
afterEach(() => owner.end());
afterAll(closePool);

/** So many minutes pass. */
const later = async (minutes: number) => setClock(owner, new Date((now += minutes * 60_000)), 0);
/** What a device kept for so many minutes until it could be sent. */
const kept = <T>(minutes: number, act: () => Promise<T>) =>
  answering('kept', typedAgo(String(minutes * 60)), act);

const egret = () => cell.machine('Egret');
const running = () => onEgret(cell);
const size = () => cell.feature('O5103', 'Face height');
const take = (measured: number, part: number) => takeSize(cell, measured, part);
const key = async (id: number) => {
  done(await approve(as(cell.lead), cell.lead, id));
  const { to, from } = (await correctionById(pool(), id))!;
  done(await readBack(as(cell.operator), id, { shown: to, again: to }));
  return { to, from };
};
const count = async (parts: number, before?: number) => {
  const { id, made } = await running();
  done(await recordParts(as(cell.operator), { jobId: id, before: before ?? made, parts, source: 'typed' }));
};
const held = async (readingId: number | null) => {
  const feature = (await featureById(pool(), await size()))!;
  const { readings } = await evidenceOf(pool(), (await machineById(pool(), await egret()))!, feature);
  return readings.find(({ id }) => id === readingId)!.held;
};
const accused = async () =>
  (await strayCorrections(pool(), new Date(0))).filter(({ feature }) => feature === 'Face height').length;

describe('a reading that was typed before a correction was keyed, and arrives after it', () => {
  it('says nothing of it, whatever the number of its part', async () => {
    const { made } = await running();
    const id = (await take(80.024, made)).proposalIds[0]!;
    await later(10);
    const { from } = await key(id);
    await later(5);
    const late = await kept(8, () => take(80.024, made + 6));
    expect(late.took).toBeNull();
    expect(await held(late.readingId)).toEqual([from]);
    expect(late.proposalIds).toEqual([]);
    expect(await accused()).toBe(0);
  });
  it('and parts up to that one were cut before as well', async () => {
    const { made } = await running();
    const { to, from } = await key((await take(80.024, made)).proposalIds[0]!);
    await later(5);
    await kept(8, () => take(80.024, made + 6));
    expect(await held((await take(80.024, made + 5)).readingId)).toEqual([from]);
    expect(await accused()).toBe(0);
    const next = await take(80.001, made + 7);
    expect(await held(next.readingId)).toEqual([to]);
    expect(next.took).not.toBeNull();
  });
  it('one that was typed after it tells whether it took, however late it arrives', async () => {
    const { made } = await running();
    const { to } = await key((await take(80.024, made)).proposalIds[0]!);
    await later(30);
    const late = await kept(20, () => take(80.001, made + 2));
    expect(late.took).not.toBeNull();
    expect(await held(late.readingId)).toEqual([to]);
  });
  it('parts that were counted late were cut before as well', async () => {
    const { made } = await running();
    const { from, to } = await key((await take(80.024, made)).proposalIds[0]!);
    await later(5);
    await kept(8, () => count(6));
    expect(await held((await take(80.024, made + 6)).readingId)).toEqual([from]);
    expect(await held((await take(80.001, made + 7)).readingId)).toEqual([to]);
    expect(await accused()).toBe(0);
  });
});

describe('an edge that was changed before what the old one cut has arrived', () => {
  const tool = async () => (await assemblyById(pool(), await cell.assembly('E-501')))!;
  const change = async () => {
    const assemblyId = await cell.assembly('E-501');
    done(await startRenewal(as(cell.setter), assemblyId));
    for (const step of ['changed', 'lifeSet'] as const)
      done(await stepOf(cell, assemblyId, step, { life: (await tool()).fullLife }));
  };
  it('is charged for none of it', async () => {
    await change();
    await later(5);
    await kept(8, () => count(4));
    expect((await tool()).remaining).toBe((await tool()).fullLife);
    await count(4);
    expect((await tool()).remaining).toBeLessThan((await tool()).fullLife!);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('and is charged for what was cut since, however late that arrives', async () => {
    await change();
    await later(30);
    await kept(20, () => count(4));
    expect((await tool()).remaining).toBeLessThan((await tool()).fullLife!);
  });
  it('a size that was measured since is not to be measured again for one that was told late', async () => {
    const job = await running();
    const program = (await programById(pool(), job.programId))!;
    const why = async () => {
      const next = await nextOnJob(pool(), program, job, new Date(now), await cellOf(pool()));
      const own = await size();
      return next.find(({ id }) => id === own)!.why;
    };
    await cell.asOwner(async (client) =>
      client.query("UPDATE feature SET also = '{renewal}' WHERE id = $1", [await size()]),
    );
    for (const part of [job.made - 1, job.made]) await take(80.001, part);
    await change();
    expect(await why()).toBe('afterRenewal');
    await later(5);
    await take(80.001, job.made + 1);
    const since = await why();
    expect(since).not.toBe('afterRenewal');
    await kept(8, () => take(80.001, job.made));
    expect(await why()).toBe(since);
  });
});

describe('the first reading of a size, of a part that was cut before something was changed', () => {
  /** No size that shares a row with it was measured on this job yet. */
  const unmeasured = () =>
    cell.asOwner(async (client) => {
      const { rows } = await client.query<{ n: number }>(
        `SELECT count(*)::integer AS n FROM reading r JOIN feature f ON f.id = r.feature_id WHERE f.id = $1`,
        [await size()],
      );
      expect(rows[0]!.n).toBe(0);
    });

  it('says nothing of the edge that was put in since', async () => {
    await unmeasured();
    const { made } = await running();
    await count(4);
    const assemblyId = await cell.assembly('E-501');
    done(await startRenewal(as(cell.setter), assemblyId));
    done(await stepOf(cell, assemblyId, 'changed'));
    await count(4);
    const { answer, proposalIds } = await take(80.03, made + 3);
    expect(proposalIds).toEqual([]);
    expect(answer.reason).toMatch(/cut by the edge, or in the set-up, before/);
  });
  it('nor of the set-up since', async () => {
    await unmeasured();
    const { id, made } = await running();
    await count(4);
    done(await setUpAgain(as(cell.setter), { jobId: id, why: 'the jaws were bored anew' }));
    await count(4);
    const { answer, proposalIds } = await take(80.03, made + 3);
    expect(proposalIds).toEqual([]);
    expect(answer.reason).toMatch(/cut by the edge, or in the set-up, before/);
  });
  it('and was cut with what the row held then', async () => {
    await unmeasured();
    const { made } = await running();
    await count(4);
    const { id, value } = await cell.register('Egret', 1, 'lengthWear');
    const after = lengthOf(0.02, 'mm');
    done(
      await foundAtControl(as(cell.setter), {
        registerId: id,
        before: value,
        after,
        why: 'nobody knows',
      } as never),
    );
    await count(4);
    expect(await held((await take(80.03, made + 3)).readingId)).not.toEqual([after]);
  });
});

describe('a correction that was keyed, and withdrawn before it was read back', () => {
  it('is on record as it was read off: the parts since were cut with nobody knows what', async () => {
    const { id: jobId, made } = await running();
    const id = (await take(80.024, made)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    await count(4);
    done(await setUpAgain(as(cell.setter), { jobId, why: 'the jaws were bored anew' }));
    const read = done(await readBack(as(cell.operator), id, { shown: to, again: to }));
    expect(read).toMatchObject({ kept: false, overtaken: expect.stringMatching(/was keyed by then/) });
    expect((await cell.register('Egret', 1, 'lengthWear')).value).toBe(to);
    expect(await held((await take(80.001, made + 3)).readingId)).toBeNull();
    await count(1);
    expect(await held((await take(80.001, made + 5)).readingId)).toEqual([to]);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('stays as it is on record where the row shows that', async () => {
    const { id: jobId, made } = await running();
    const id = (await take(80.024, made)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { from } = (await correctionById(pool(), id))!;
    done(await setUpAgain(as(cell.setter), { jobId, why: 'the jaws were bored anew' }));
    const read = done(await readBack(as(cell.operator), id, { shown: from, again: from }));
    expect(read).toMatchObject({ overtaken: expect.stringMatching(/If you keyed this one/) });
    expect((await cell.register('Egret', 1, 'lengthWear')).value).toBe(from);
  });
});
