import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, nanometres } from '../../src/core/units/length.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { readCounter } from '../../src/server/counters.ts';
import { countedTools, cycleBrokenOff, recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { runningJob, setUpAgain } from '../../src/server/jobs.ts';
import { setLifeLimit, watchedOf } from '../../src/server/lives.ts';
import { machineById } from '../../src/server/machines.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => {
  cell = await weirside();
});
afterAll(closePool);

const left = async (number: string) => (await assemblyById(pool(), await cell.assembly(number)))!.remaining!;
const machine = async (name: string) => (await machineById(pool(), await cell.machine(name)))!;
const madeOf = async (program: string) =>
  (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [await cell.job(program)]))!
    .made;

describe('a cycle that was broken off', () => {
  const off = async (tool: number, why = 'tap squealed') =>
    cycleBrokenOff(as(cell.operator), {
      jobId: await cell.job('O2301'),
      before: await madeOf('O2301'),
      tool,
      why,
    });
  it('takes off each tool what it had cut by then, and makes no part', async () => {
    const numbers = ['A-101', 'A-102', 'A-105', 'A-106', 'A-107', 'A-114'];
    const before = Object.fromEntries(
      await Promise.all(numbers.map(async (each) => [each, await left(each)])),
    );
    const made = await madeOf('O2301');
    const calls = (
      await pool().query<{ tool: number; ord: number; holes: number }>(
        'SELECT tool, ord, holes FROM program_call WHERE program_id = $1 ORDER BY ord',
        [await cell.program('O2301')],
      )
    ).rows;
    const stop = calls.find(({ tool }) => tool === 5)!;
    done(await off(5));
    expect(await madeOf('O2301')).toBe(made);
    expect(await left('A-105')).toBe(before['A-105']! - stop.holes);
    expect(await left('A-102')).toBeLessThan(before['A-102']!);
    for (const [number, tool] of [
      ['A-106', 6],
      ['A-107', 7],
    ] as const)
      if (calls.every((call) => call.tool !== tool || call.ord > stop.ord))
        expect(await left(number)).toBe(before[number]);
  });
  it('is taken back like a count, and gives back what it took', async () => {
    const before = await left('A-105');
    done(await off(5));
    const jobId = await cell.job('O2301');
    const count = (await lastCount(pool(), jobId))!;
    expect(count.parts).toBe(0);
    done(
      await takeBackCount(as(cell.operator), {
        jobId,
        count: count.id,
        before: await madeOf('O2301'),
        why: 'it was another machine',
      }),
    );
    expect(await left('A-105')).toBe(before);
  });
  it('asks why, at a tool of the program, on the count that was shown', async () => {
    expect(refused(await off(5, ' '))).toMatch(/Say why/);
    expect(refused(await off(99))).toBe('O2301 does not call T99.');
    const jobId = await cell.job('O2301');
    expect(refused(await cycleBrokenOff(as(cell.operator), { jobId, before: 3, tool: 5, why: 'x' }))).toMatch(
      /Somebody recorded parts/,
    );
  });
});

describe('a counter that is read off the control', () => {
  const read = async (shown: number, over: { take?: boolean; seen?: number } = {}) =>
    readCounter(as(cell.setter), await machine('Avocet'), {
      tool: 5,
      assemblyId: await cell.assembly('A-105'),
      shown,
      seen: over.seen ?? (await left('A-105')),
      take: over.take ?? false,
    });
  it('is compared and explained first, and taken over only when asked for, with the reason in the ledger', async () => {
    const before = await left('A-105');
    expect(done(await read(before)).said).toBe('Both agree.');
    const told = done(await read(before - 1));
    expect(told).toMatchObject({ taken: false });
    expect(await left('A-105')).toBe(before);
    expect(done(await read(before - 3, { take: true }))).toMatchObject({ taken: true });
    expect(await left('A-105')).toBe(before - 3);
    const kept = await row<{ why: string }>(
      pool(),
      `SELECT why FROM ledger WHERE kind = 'life' AND stage = 'read off' ORDER BY id DESC LIMIT 1`,
    );
    expect(kept!.why).toMatch(/broken off/);
  });
  it('flags a tool that has run out by it, and lets one go that has not', async () => {
    done(await read(0, { take: true }));
    expect((await assemblyById(pool(), await cell.assembly('A-105')))!.flag).toBe('expired');
    done(await read(120, { take: true }));
    expect((await assemblyById(pool(), await cell.assembly('A-105')))!.flag).toBeNull();
  });
  it('more than a full life, on a record that went on, or of another tool is refused', async () => {
    expect(refused(await read(5000, { take: true }))).toMatch(/more than its full life, 900 holes/);
    expect(refused(await read(10, { seen: 1 }))).toMatch(/went on meanwhile/);
    expect(
      refused(
        await readCounter(as(cell.setter), await machine('Avocet'), {
          tool: 5,
          assemblyId: await cell.assembly('A-142'),
          shown: 5,
          seen: 5,
          take: true,
        }),
      ),
    ).toMatch(/Another tool stands under T5/);
  });
  it('two who take it over at once: one does, the other is told that the record went on', async () => {
    const seen = await left('A-105');
    const outcomes = await Promise.all([
      read(seen - 8, { take: true, seen }),
      read(seen - 8, { take: true, seen }),
    ]);
    expect(outcomes.filter(({ ok }) => ok)).toHaveLength(1);
    expect(await left('A-105')).toBe(seen - 8);
  });
});

describe('life that is counted by wear', () => {
  /** L-204 on Curlew cuts the bore; its life is counted by what is corrected for it. */
  const byWear = async (watched?: { kind: string | null; featureId: number | null }, mm = 0.05) =>
    setLifeLimit(as(cell.lead), {
      assemblyId: (await row<{ id: number }>(
        pool(),
        `SELECT s.assembly_id AS id FROM placement s JOIN feature f ON f.machine_id = s.machine_id AND f.tool = s.tool WHERE f.program_number = 'O2301' AND f.name = 'Bearing pocket'`,
      ))!.id,
      basis: 'wear',
      fullLife: Math.round(mm * 1e6),
      left: Math.round(mm * 1e6),
      watched,
      why: 'the pocket shows it first',
    });
  const tool = async () =>
    (await row<{
      assemblyId: number;
      tool: number;
      remaining: number;
      flag: string | null;
      perPart: number | null;
    }>(
      pool(),
      `SELECT s.assembly_id AS "assemblyId", s.tool, c.value AS remaining, a.flag, c.per_part AS "perPart"
       FROM placement s JOIN feature f ON f.machine_id = s.machine_id AND f.tool = s.tool JOIN life_counter c ON c.assembly_id = s.assembly_id JOIN assembly a ON a.id = s.assembly_id
       WHERE f.program_number = 'O2301' AND f.name = 'Bearing pocket'`,
    ))!;
  /** Measures the pocket so far off that a correction is proposed, and keys it. */
  async function corrected(mm: number, firstOff = false) {
    const jobId = await cell.job('O2301');
    const made = await madeOf('O2301');
    done(await recordParts(as(cell.operator), { jobId, before: made, parts: 1, source: 'typed' }));
    const taken = done(
      await takeReading(as(cell.operator), {
        featureId: await cell.feature('O2301', 'Bearing pocket'),
        programId: await cell.program('O2301'),
        jobId,
        part: made + 1,
        measured: lengthOf(mm, 'mm'),
        confirmed: true,
        firstOff,
      }),
    );
    const [proposal] = taken.proposalIds;
    if (proposal === undefined) return null;
    done(await approve(as(cell.lead), cell.lead, proposal));
    const { to, change } = (await row<{ to: number; change: number }>(
      pool(),
      'SELECT to_value AS "to", change_value AS change FROM proposal WHERE id = $1',
      [proposal],
    ))!;
    done(await readBack(as(cell.operator), proposal, { shown: nanometres(to), again: nanometres(to) }));
    return Math.abs(change);
  }
  it('goes down by what is corrected, not by parts; a first-off takes nothing', async () => {
    done(await byWear());
    const full = (await tool()).remaining;
    const setUp = await corrected(40.06, true);
    expect(setUp).toBeGreaterThan(0);
    expect((await tool()).remaining).toBe(full);
    let sum = 0;
    // set up it is on target, and the edge wears: the pocket comes out narrower
    for (const size of [40.013, 40.012, 40.012, 39.997, 39.998, 40.012, 39.996])
      sum += (await corrected(size)) ?? 0;
    expect(sum).toBeGreaterThan(0);
    const now = await tool();
    expect(now.remaining).toBe(full - sum);
    expect(now.perPart).toBeGreaterThan(0);
    const running = await countedTools(pool(), (await runningJob(pool(), await cell.machine('Avocet')))!);
    expect(running.find((each) => each.tool === now.tool)).toMatchObject({
      basis: 'wear',
      perPart: now.perPart,
    });
  });
  it('where an edge begins, and where a set-up does, is no wear, ticked as a first-off or not', async () => {
    done(await byWear());
    const left = async () => (await tool()).remaining;
    const full = await left();
    // measured on this edge before: what is corrected now it has worn
    expect(await corrected(40.0)).toBeGreaterThan(0);
    const worn = await left();
    expect(worn).toBeLessThan(full);
    // the jaws were bored again in the middle of the job
    const jobId = await cell.job('O2301');
    done(await setUpAgain(as(cell.setter), { jobId, why: 'jaws bored again' }));
    expect(await corrected(40.07)).toBeGreaterThan(0);
    expect(await left()).toBe(worn);
    let sum = 0;
    for (const size of [39.995, 39.994, 39.993]) sum += (await corrected(size)) ?? 0;
    expect(sum).toBeGreaterThan(0);
    expect(await left()).toBe(worn - sum);
  });
  it('runs out when its whole limit was corrected', async () => {
    done(await byWear(undefined, 0.004));
    for (const size of [40.03, 40.035, 40.04, 40.045]) await corrected(size);
    expect(await tool()).toMatchObject({ flag: 'expired' });
    expect((await tool()).remaining).toBeLessThanOrEqual(0);
  });
  it('of one size only where that is chosen', async () => {
    const other = await cell.feature('O2301', 'Body width');
    done(await byWear({ kind: null, featureId: other }));
    const { assemblyId, tool: number, remaining } = await tool();
    for (const size of [40.03, 40.035]) await corrected(size);
    expect((await tool()).remaining).toBe(remaining);
    const watched = await watchedOf(pool(), {
      id: assemblyId,
      machineId: await cell.machine('Avocet'),
      tool: number,
    });
    expect(watched.watched).toBe(`feature:${other}`);
    expect(watched.watchable.map(({ words }) => words).join()).toContain('Bearing pocket');
  });
});
