import { lengthOf } from '../../src/core/units/length.ts';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { ShiftPattern } from '../../src/core/shift/calendar.ts';
import { cellOf } from '../../src/server/cell.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { lastEntry } from '../../src/server/control-roads.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { moveJob, runningJob } from '../../src/server/jobs.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { awayFrom, nightOf, standsFrom } from '../../src/server/night.ts';
import {
  isolatePallet,
  movePallet,
  orderPallets,
  palletsOf,
  putPallet,
  setNightSchool,
  takePallet,
} from '../../src/server/pallets.ts';
import { perPart } from '../../src/core/shift/job.ts';
import { aheadOf } from '../../src/server/ahead.ts';
import { forecast } from '../../src/server/forecast.ts';
import { likelyOf } from '../../src/server/likely-made.ts';
import { setRunsOn } from '../../src/server/machine-hours.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { placeTool, takeOut } from '../../src/server/places.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let egret: Machine;
beforeEach(async () => {
  cell = await weirside();
  egret = (await machineById(pool(), await cell.machine('Egret')))!;
});
afterAll(closePool);

const HOUR = 3_600_000;

/** When its job was counted last: nothing has been made since. */
const counted = async () => {
  const job = (await runningJob(pool(), egret.id))!;
  return (await row<{ at: Date }>(pool(), 'SELECT at FROM job_told WHERE job_id = $1', [job.id]))!.at;
};
const night = async (later = 0) =>
  nightOf(pool(), egret, await cellOf(pool()), new Date((await counted()).getTime() + later));
const numbers = async () => (await palletsOf(pool(), egret.id)).map(({ number }) => number);
const byNumber = async (number: number) =>
  (await palletsOf(pool(), egret.id)).find((pallet) => pallet.number === number)!;
/** A pallet moves ahead of the one before it. */
const ahead = async (number: number) => {
  const all = await palletsOf(pool(), egret.id);
  const at = all.findIndex((pallet) => pallet.number === number);
  return movePallet(as(cell.lead), egret, { id: all[at]!.id, by: -1 });
};

describe('a program that is not ready is not left to itself', () => {
  const against = async () => (await night()).notReady;
  const place = async (tool: number) =>
    (await row<{ placeId: number; assemblyId: number }>(
      pool(),
      'SELECT place_id AS "placeId", assembly_id AS "assemblyId" FROM placement WHERE machine_id = $1 AND tool = $2',
      [egret.id, tool],
    ))!;
  it('a length that the control holds otherwise, a tool that was put back and not measured: however much life they have', async () => {
    // the made-up cell's control was read off with another length of T1
    const [first, ...others] = await against();
    expect(others).toEqual([]);
    expect(first).toMatchObject({ program: 'O5103', stops: true });
    expect(first!.told[0]!.sentence).toMatch(/^Row 1, .* when the control was last read off/);
    const all = (each: NonNullable<typeof first>) => each.told.length + each.more;
    const two = await place(2);
    done(await takeOut(as(cell.setter), { ...two, why: 'looked at' }));
    // what is missing the play says itself
    expect((await night()).play.stop).toMatchObject({ tool: 2, why: 'missing' });
    expect((await against()).map(all)).toEqual([all(first!)]);
    done(await placeTool(as(cell.setter), { ...two, tool: 2, knob: egret.knob }));
    expect((await night()).play.stop?.tool).not.toBe(2);
    expect((await against()).map(all)).toEqual([all(first!) + 1]);
    for (const { id } of await palletsOf(pool(), egret.id))
      done(await isolatePallet(as(cell.lead), egret, { id, why: 'not tonight' }));
    expect(await against()).toEqual([]);
  });
  it('one that does not run yet, and cannot be told to be ready, is named', async () => {
    const cover = (await row<{ id: number }>(
      pool(),
      `SELECT id FROM program WHERE number = 'O7010' AND machine_id = $1`,
      [egret.id],
    ))!.id;
    const told = async () => (await against()).filter(({ programId }) => programId === cover);
    expect(await told()).toEqual([]);
    done(await putPallet(as(cell.lead), egret, { number: 9, programId: cover, parts: 2 }));
    await cell.asOwner((db) =>
      db.query(
        `UPDATE program SET remarks = '[{"code": "unknownCode", "line": 4, "text": "M77 is not known.", "wants": "M77", "affects": ["speed"], "tool": null}]' WHERE id = $1`,
        [cover],
      ),
    );
    expect(await told()).toMatchObject([{ program: 'O7010' }]);
  });
});

describe('what nobody looks at in the night', () => {
  /** People are there until two hours after the last count, and come back for the same hours on the next day. */
  const tonight = async (later = 0) => {
    const at = await counted();
    const began = new Date(at.getTime() - 4 * HOUR);
    const day: ShiftPattern = {
      id: 1,
      name: 'Day',
      startMinute: began.getUTCHours() * 60 + began.getUTCMinutes(),
      lengthMinutes: 6 * 60,
      days: [0, 1, 2, 3, 4, 5, 6],
    };
    const there = { ...(await cellOf(pool())), timeZone: 'UTC', patterns: [day] };
    return nightOf(pool(), egret, there, new Date(at.getTime() + later));
  };
  const unseen = async () => (await tonight()).unseen!;
  const cover = async () =>
    (await row<{ id: number }>(pool(), `SELECT id FROM program WHERE number = 'O7010' AND machine_id = $1`, [
      egret.id,
    ]))!.id;
  const measure = async (feature: string, part: number, mm: number) =>
    done(
      await takeReading(as(cell.inspector), {
        featureId: await cell.feature('O5103', feature),
        programId: await cell.program('O5103'),
        jobId: (await runningJob(pool(), egret.id))!.id,
        part,
        measured: lengthOf(mm, 'mm'),
        confirmed: true,
        firstOff: false,
      }),
    );

  it('a size falls due there, and of one that was not measured nobody can tell where it will be', async () => {
    const { unseen: told, away } = await tonight();
    const depth = told!.sizes.find(({ name }) => name === 'Body depth')!;
    expect(depth).toMatchObject({ every: 8, notKnown: true, riskyFrom: null });
    // one part of it was measured: that foretells nothing
    expect(told!.sizes.find(({ name }) => name === 'Body width')?.foreseen ?? false).toBe(false);
    expect(depth.due!.getTime()).toBeGreaterThan(away!.from.getTime());
    expect(depth.due!.getTime()).toBeLessThan(away!.to.getTime());
    expect(depth.parts).toBeGreaterThan(8);
  });
  it('one that drifts towards its limit is told with how many parts are bad by the morning, one that stands is not', async () => {
    // a twentieth of its tolerance a part, from the middle on
    for (const part of [20, 22, 24, 26, 28]) await measure('Body depth', part, 207.6 + 0.005 * (part - 20));
    for (const part of [20, 22, 24, 26, 28]) await measure('Face height', part, 80 + 0.001 * (part % 3));
    const { sizes } = await unseen();
    const depth = sizes.find(({ name }) => name === 'Body depth')!;
    expect(depth).toMatchObject({ notKnown: false, foreseen: true });
    expect(depth.riskyFrom).not.toBeNull();
    expect(depth.bad).toBeGreaterThan(1);
    expect(depth.bad).toBeLessThanOrEqual(depth.parts);
    expect(sizes.map(({ name }) => name)).not.toContain('Face height');
  });
  it('another program that begins there cuts a first part that nobody measures; a check that could not tell is named', async () => {
    done(await putPallet(as(cell.lead), egret, { number: 9, programId: await cover(), parts: 2 }));
    expect((await unseen()).begun).toEqual([]);
    for (let up = 0; up < 3; up += 1) done(await ahead(9));
    const late = await tonight();
    const [begun] = late.unseen!.begun;
    expect(begun!.program).toBe('O7010');
    expect(begun!.at.getTime()).toBeGreaterThanOrEqual(late.away!.from.getTime());
    expect(begun!.at.getTime()).toBeLessThan(late.stands!.getTime());
    expect(late.unseen!.doubted).toEqual([]);
    const drill = await row<{ id: number }>(
      pool(),
      'SELECT assembly_id AS id FROM placement WHERE machine_id = $1 AND tool = 5',
      [egret.id],
    );
    await cell.asOwner((db) =>
      db.query(
        `INSERT INTO tool_check (assembly_id, machine_id, tool, method, source, measured, verdict, doubt, person_id, entry)
         SELECT $1, $2, 5, 'setter', 'typed', 0, 'cannotTell', 'noReference', $3, (SELECT max(id) FROM ledger)`,
        [drill!.id, egret.id, cell.lead.id],
      ),
    );
    expect((await unseen()).doubted).toEqual([5]);
  });
  it('nothing of it is asked where another program is what the queue begins with', async () => {
    const all = await palletsOf(pool(), egret.id);
    for (const { id } of all) done(await takePallet(as(cell.lead), egret, { id, made: null }));
    done(await putPallet(as(cell.lead), egret, { number: 9, programId: await cover(), parts: 2 }));
    expect((await unseen()).sizes).toEqual([]);
  });
});

describe('the night of the demo', () => {
  it('does not last: the drill for M12 ends it after twelve parts, and one sister each would see it through', async () => {
    const { play, shortages, best } = await night();
    // twelve holes a cycle of two parts, seventy-two left
    expect(play).toMatchObject({ parts: 12, stop: { tool: 5, why: 'expired', at: 6 * 62 * 60_000 } });
    expect(shortages.map(({ tool, sisters }) => [tool, sisters])).toEqual([
      [2, 1],
      [5, 1],
      [6, 1],
    ]);
    // all pallets carry the same part: no order makes more
    expect(best).toMatchObject({ proven: true, play: { parts: 12 } });
  });
  it('what was cut since the last count was cut on the first pallets: it stops when the leaf says that the drill runs out', async () => {
    // round the clock, so that no shift ends meanwhile
    const always: ShiftPattern[] = [0, 8, 16].map((hour, i) => ({
      id: i + 1,
      name: `shift ${i}`,
      startMinute: hour * 60,
      lengthMinutes: 480,
      days: [0, 1, 2, 3, 4, 5, 6],
    }));
    const there = { ...(await cellOf(pool())), timeZone: 'UTC', patterns: always };
    const cycle = 62 * 60_000;
    const at = await counted();
    for (const [later, cuts] of [
      [0, [0, 0]],
      [0.4 * cycle, [0, 0]],
      [2.5 * cycle, [2, 3]],
      [4 * cycle, [2, 4, 2, 0]],
      // past its end: it must have stopped
      [9 * cycle, [2, 4, 2, 4]],
    ] as const) {
      const now = new Date(at.getTime() + later);
      const { play, pallets, begins, best } = await nightOf(pool(), egret, there, now);
      expect(pallets.slice(0, cuts.length).map(({ cut }) => cut)).toEqual(cuts);
      const made = pallets.reduce((sum, { cut }) => sum + cut, 0);
      expect(made + play.parts).toBe(12);
      expect(made + best.play.parts).toBe(12);
      const stops = new Date(begins.getTime() + play.stop!.at);
      expect(Math.abs(stops.getTime() - at.getTime() - 6 * cycle)).toBeLessThan(1000);
      const leaf = (await forecast(pool(), there, now)).find(({ machineId }) => machineId === egret.id)!;
      const drill = leaf.runsOut.find(({ tool }) => tool === play.stop!.tool)!;
      expect(Math.abs(drill.at!.getTime() - Math.max(stops.getTime(), now.getTime()))).toBeLessThan(1000);
    }
  });
  it('parts that are counted while their pallets stand there are those of the first, and are not counted again', async () => {
    const job = async () => (await runningJob(pool(), egret.id))!;
    const cuts = async () => (await palletsOf(pool(), egret.id)).map(({ cut }) => cut);
    const record = async (parts: number) => {
      const { id, made } = await job();
      done(await recordParts(as(cell.operator), { jobId: id, before: made, parts, source: 'typed' }));
    };
    const before = (await job()).made;
    await record(4);
    expect(await cuts()).toEqual([2, 2, 0, 0, 0, 0]);
    // the same night as before the count: twelve parts, and the same drill
    const { play, pallets } = await night();
    expect(pallets.reduce((sum, { cut }) => sum + cut, 0) + play.parts).toBe(12);
    const take = async (number: number, parts: number) =>
      takePallet(as(cell.setter), egret, {
        id: (await byNumber(number)).id,
        made: { parts, before: (await job()).made },
      });
    expect(refused(await take(1, 3))).toMatch(/2 of them are counted already/);
    done(await takePallet(as(cell.setter), egret, { id: (await byNumber(3)).id, made: null }));
    done(await take(1, 2));
    expect((await job()).made).toBe(before + 6);
    expect(await cuts()).toEqual([0, 0, 0, 0]);
    // a count that is taken back goes back from the last
    await record(3);
    expect(await cuts()).toEqual([2, 1, 0, 0]);
    const { id, made } = await job();
    done(
      await takeBackCount(as(cell.operator), {
        jobId: id,
        count: (await lastCount(pool(), id))!.id,
        before: made,
        why: 'typed twice',
      }),
    );
    expect(await cuts()).toEqual([0, 0, 0, 0]);
  });
  it('a broken tool stops it at once, or sets the pallets aside one by one, as the machine does', async () => {
    done(
      await flagAssembly(as(cell.operator), {
        assemblyId: await cell.assembly('E-507'),
        flag: 'broken',
        why: 'no reamer in the hole',
      }),
    );
    expect((await night()).play).toMatchObject({ parts: 0, stop: { tool: 7, why: 'broken' } });
    done(await setNightSchool(as(cell.lead), egret, { school: 'isolate' }));
    const { play } = await night();
    expect(play).toMatchObject({ parts: 0, stop: null });
    expect(play.steps.every(({ stopped }) => stopped?.why === 'broken')).toBe(true);
  });
  it('a pallet that comes off cut records its parts with the job, once; more than it carries, or of a job that does not run, is refused', async () => {
    const [pallet, next] = await palletsOf(pool(), egret.id);
    const job = (await runningJob(pool(), egret.id))!;
    const off = (parts: number, before = job.made) =>
      takePallet(as(cell.operator), egret, { id: pallet!.id, made: { parts, before } });
    expect(refused(await off(pallet!.parts + 1))).toMatch(/carries 2 parts, not 3/);
    expect(refused(await off(2, job.made - 1))).toMatch(/Somebody recorded parts/);
    done(await off(2));
    expect(await runningJob(pool(), egret.id)).toMatchObject({ made: job.made + 2 });
    expect((await palletsOf(pool(), egret.id))[0]!.id).toBe(next!.id);
    done(await moveJob(as(cell.lead), { jobId: job.id, move: 'pause', why: 'a night of another part' }));
    expect(
      refused(
        await takePallet(as(cell.operator), egret, {
          id: next!.id,
          made: { parts: 1, before: job.made + 2 },
        }),
      ),
    ).toMatch(/No job of O5103 runs/);
  });
  it('a pallet that is set aside is not cut, and its parts are not lacking', async () => {
    for (const number of [2, 6, 4]) {
      const { id } = await byNumber(number);
      done(await isolatePallet(as(cell.setter), egret, { id, why: 'loose clamp' }));
    }
    const { play, shortages } = await night();
    expect(play).toMatchObject({ parts: 8, stop: null });
    expect(shortages).toEqual([]);
    const { id } = await byNumber(2);
    expect(refused(await isolatePallet(as(cell.setter), egret, { id, why: '  ' }))).toMatch(/why/);
    done(await isolatePallet(as(cell.setter), egret, { id, why: null }));
    expect((await night()).play.stop).not.toBeNull();
  });
});

describe('a machine without pallets', () => {
  it('is played to the end of what runs on it, lathe or mill', async () => {
    const curlew = (await machineById(pool(), await cell.machine('Curlew')))!;
    const now = new Date();
    const { job, play, pallets, begins, likely } = await nightOf(pool(), curlew, await cellOf(pool()), now);
    expect(job).toBe('O1402');
    // the finisher has eight pieces left
    expect(play.stop).toMatchObject({ tool: 2, why: 'expired', pallet: pallets[0]!.id });
    // nobody counted for two hours and a half: it must have stopped, two of them come off in nineteen minutes
    expect(pallets[0]!.cut).toBe(8);
    expect(play).toMatchObject({ parts: 0, stop: { at: 0 } });
    expect(Math.abs(begins.getTime() - likely!.from.at.getTime() - 8 * 9.5 * 60_000)).toBeLessThan(2);
    expect(now.getTime() - begins.getTime()).toBeGreaterThan(3_600_000);
    // asked just after the count
    const then = await nightOf(pool(), curlew, await cellOf(pool()), likely!.from.at);
    expect(then.pallets[0]!.cut).toBe(0);
    expect(then.play).toMatchObject({ parts: 8, stop: { at: 8 * 9.5 * 60_000 } });
  });
});

describe('the queue', () => {
  it('pallets move by a place, and two who move at once both move', async () => {
    expect(await numbers()).toEqual([3, 1, 5, 2, 6, 4]);
    const [one, four] = [await byNumber(1), await byNumber(4)];
    const both = await Promise.all([
      movePallet(as(cell.setter), egret, { id: one.id, by: -1 }),
      movePallet(as(cell.lead), egret, { id: four.id, by: -1 }),
    ]);
    both.forEach(done);
    expect(await numbers()).toEqual([1, 3, 5, 2, 4, 6]);
    expect(refused(await movePallet(as(cell.setter), egret, { id: one.id, by: -1 }))).toMatch(/end already/);
    // both meant the same step; whoever presses twice means two
    const later = { id: (await byNumber(3)).id, by: 1 as const };
    const seen = await lastEntry(pool());
    done(await movePallet(as(cell.setter), egret, later));
    expect(refused(await movePallet({ ...as(cell.lead), seen }, egret, later))).toMatch(
      /wrote down meanwhile/,
    );
    done(await movePallet({ ...as(cell.setter), seen }, egret, later));
    done(await ahead(3));
    done(await ahead(3));
  });
  it('another order is taken only on the queue that was looked at', async () => {
    const seen = (await palletsOf(pool(), egret.id)).map(({ id }) => id);
    const ids = [...seen].reverse();
    done(await takePallet(as(cell.setter), egret, { id: seen[0]!, made: null }));
    expect(refused(await orderPallets(as(cell.setter), egret, { ids, seen }))).toMatch(/changed meanwhile/);
    done(await orderPallets(as(cell.setter), egret, { ids: ids.slice(0, -1), seen: seen.slice(1) }));
    expect(await numbers()).toEqual([4, 6, 2, 5, 1]);
    expect(refused(await takePallet(as(cell.setter), egret, { id: seen[0]!, made: null }))).toMatch(
      /taken off/,
    );
  });
  it('a pallet stands in it once, with a program of its machine', async () => {
    const put = async (number: number, program: string) =>
      putPallet(as(cell.setter), egret, { number, programId: await cell.program(program), parts: 2 });
    const twice = await Promise.all([put(9, 'O5103'), put(9, 'O5103')]);
    expect(twice.filter(({ ok }) => ok)).toHaveLength(1);
    expect(twice.map(refused).join('')).toMatch(/stands in the queue already/);
    expect(refused(await put(10, 'O1402'))).toMatch(/program of this machine/);
  });
});

describe('when nobody is here', () => {
  const pattern = (id: number, startMinute: number, hours: number): ShiftPattern => ({
    id,
    name: `shift ${id}`,
    startMinute,
    lengthMinutes: hours * 60,
    days: [1, 2, 3, 4, 5],
  });
  const of = async (patterns: ShiftPattern[], text: string) => {
    const away = awayFrom({ ...(await cellOf(pool())), timeZone: 'UTC', patterns }, new Date(text));
    return away && [away.from, away.to].map((each) => each.toISOString().slice(0, 16));
  };
  it('from the end of the shifts to the next one; from now on where nobody is; over a weekend', async () => {
    const two = [pattern(1, 6 * 60, 8), pattern(2, 14 * 60, 8)];
    expect(await of(two, '2026-11-26T10:00:00Z')).toEqual(['2026-11-26T22:00', '2026-11-27T06:00']);
    expect(await of(two, '2026-11-26T23:30:00Z')).toEqual(['2026-11-26T23:30', '2026-11-27T06:00']);
    expect(await of(two, '2026-11-27T21:00:00Z')).toEqual(['2026-11-27T22:00', '2026-11-30T06:00']);
  });
  it('a machine stands where its hours are over before they are back', async () => {
    const two = [pattern(1, 6 * 60, 8), pattern(2, 14 * 60, 8)];
    const stands = async (runsOn: number, text: string) => {
      const there = { ...(await cellOf(pool())), timeZone: 'UTC', patterns: two };
      return (
        standsFrom(there, runsOn, awayFrom(there, new Date(text))!)
          ?.toISOString()
          .slice(0, 16) ?? null
      );
    };
    expect(await stands(0, '2026-11-26T10:00:00Z')).toBe('2026-11-26T22:00');
    expect(await stands(4, '2026-11-26T10:00:00Z')).toBe('2026-11-27T02:00');
    expect(await stands(8, '2026-11-26T10:00:00Z')).toBeNull();
    // asked in the night: it goes on, or stands already
    expect(await stands(4, '2026-11-26T23:30:00Z')).toBe('2026-11-27T02:00');
    expect(await stands(4, '2026-11-27T03:30:00Z')).toBe('2026-11-27T03:30');
    expect(await stands(8, '2026-11-27T21:00:00Z')).toBe('2026-11-28T06:00');
  });
  it('the leaf, what is ahead and what is likely made go by the same hours', async () => {
    const job = (await runningJob(pool(), egret.id))!;
    const two = [pattern(1, 6 * 60, 8), pattern(2, 14 * 60, 8)];
    const there = { ...(await cellOf(pool())), timeZone: 'UTC', patterns: two };
    const runsOn = async (hours: number) => done(await setRunsOn(as(cell.lead), egret, { hours }));
    // a Tuesday evening a week from now, with an hour of the late shift to go
    const now = new Date(Date.now() + 7 * 86_400_000);
    now.setUTCDate(now.getUTCDate() + ((2 - now.getUTCDay() + 7) % 7));
    now.setUTCHours(21, 0, 0, 0);
    await cell.asOwner(async (db) => {
      await db.query('ALTER TABLE ledger DISABLE TRIGGER USER');
      await db.query(`UPDATE ledger SET at = $2 WHERE job_id = $1`, [job.id, now]);
      await db.query('UPDATE job SET set_up_at = $2 WHERE id = $1', [job.id, now]);
      await db.query('ALTER TABLE ledger ENABLE TRIGGER USER');
    });
    const leaf = async () => {
      const machine = (await forecast(pool(), there, now)).find((each) => each.machineId === egret.id)!;
      return machine.runsOut.find(({ tool, afterParts }) => afterParts > 0 && tool > 0)!;
    };
    const first = await leaf();
    const cutting = first.afterParts * perPart(job);
    // an hour, and then the night; or from the morning on
    const after = (from: string, milliseconds: number) => new Date(new Date(from).getTime() + milliseconds);
    const evening = now.toISOString().slice(0, 10);
    const morning = new Date(now.getTime() + 86_400_000).toISOString().slice(0, 10);
    expect(cutting).toBeGreaterThan(HOUR);
    expect(cutting).toBeLessThan(9 * HOUR);
    await runsOn(0);
    expect(await leaf()).toMatchObject({ at: after(`${morning}T06:00:00Z`, cutting - HOUR), gone: null });
    await runsOn(8);
    const night = { at: after(now.toISOString(), cutting), gone: new Date(`${evening}T22:00:00Z`) };
    expect(await leaf()).toMatchObject(night);
    const { edges } = await aheadOf(pool(), there, now);
    expect(edges.find(({ machineId, tool }) => machineId === egret.id && tool === first.tool)).toMatchObject({
      ...night,
      shift: `${evening}/shift 2`,
    });
    // in the morning, before anybody has counted
    const six = new Date(`${morning}T06:00:00Z`);
    const made = async () => (await likelyOf(pool(), there, job, six)).parts;
    expect(await made()).toBeCloseTo(Math.min(job.quantity, job.made + (9 * HOUR) / perPart(job)), 6);
    await runsOn(3);
    expect(await made()).toBeCloseTo(Math.min(job.quantity, job.made + (4 * HOUR) / perPart(job)), 6);
    await runsOn(0);
    expect(await made()).toBeCloseTo(Math.min(job.quantity, job.made + HOUR / perPart(job)), 6);
  });
  it('how long it runs on is written down once, whoever presses twice', async () => {
    const said = () => cell.count(`FROM ledger WHERE kind = 'machine' AND stage = 'runsOn'`);
    const before = await said();
    done(await setRunsOn(as(cell.lead), egret, { hours: 6 }));
    done(await setRunsOn(as(cell.lead), egret, { hours: 6 }));
    expect(await said()).toBe(before + 1);
  });
  it('not where one shift follows on the other round the clock, nor where nobody ever comes', async () => {
    const always = [0, 8, 16].map((hour, i) => ({
      ...pattern(i + 1, hour * 60, 8),
      days: [0, 1, 2, 3, 4, 5, 6],
    }));
    expect(await of(always, '2026-11-26T10:00:00Z')).toBeNull();
    expect(await of([], '2026-11-26T10:00:00Z')).toBeNull();
  });
});
