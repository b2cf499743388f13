import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { aheadOf, expectedOf, shelvesAhead } from '../../src/server/ahead.ts';
import { cellOf } from '../../src/server/cell.ts';
import { countedTools, recordParts } from '../../src/server/counts.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { addJob, runningJob } from '../../src/server/jobs.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { takeOut } from '../../src/server/places.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => {
  cell = await weirside();
});
afterAll(closePool);

const NOW = new Date('2026-11-02T08:00:00Z');
const ahead = async () => aheadOf(pool(), await cellOf(pool()), NOW);

describe('a fortnight ahead', () => {
  it('the first edge of each tool ends where the counters of the running job say', async () => {
    const { edges } = await ahead();
    const avocet = (await runningJob(pool(), await cell.machine('Avocet')))!;
    const tools = await countedTools(pool(), avocet);
    let counted = 0;
    for (const tool of tools.filter(
      (each) => each.flag === null && each.basis === 'holes' && each.use.holes > 0,
    )) {
      const part = avocet.made + Math.ceil(tool.remaining / (tool.use.holes / avocet.partsPerCycle));
      const found = edges.find((edge) => edge.machine === 'Avocet' && edge.tool === tool.tool);
      if (part > avocet.quantity) continue;
      counted += 1;
      expect(found).toMatchObject({ job: avocet.number, part });
    }
    expect(counted).toBeGreaterThan(0);
    expect(edges.map(({ at }) => at.getTime())).toEqual(
      edges.map(({ at }) => at.getTime()).sort((a, b) => a - b),
    );
    expect(edges.length).toBeGreaterThan(3);
  });
  it('moves as parts are counted, and grows with a job that is put on the list', async () => {
    const of = (edges: Awaited<ReturnType<typeof ahead>>['edges'], tool: number) =>
      edges.filter((edge) => edge.machine === 'Egret' && edge.tool === tool).map(({ part }) => part);
    const before = of((await ahead()).edges, 5);
    const jobId = await cell.job('O5103');
    const { made } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [jobId]))!;
    done(await recordParts(as(cell.operator), { jobId, before: made, parts: 2, source: 'typed' }));
    // the same part of the job is its last, however many are made by now
    expect(of((await ahead()).edges, 5)).toEqual(before);
    done(
      await addJob(as(cell.lead), {
        programId: await cell.program('O5103'),
        quantity: 200,
        cycleMilliseconds: 5 * 60_000,
      }),
    );
    expect(of((await ahead()).edges, 5).length).toBeGreaterThan(before.length);
  });
  it('a sister on the rack is counted on once; a T that is not there is to be loaded before its job', async () => {
    const drill = await cell.assembly('A-105');
    done(
      await setLifeLimit(as(cell.lead), {
        assemblyId: drill,
        basis: 'holes',
        fullLife: 480,
        left: null,
        why: 'trial',
      }),
    );
    const found = (await ahead()).edges.filter(({ number }) => number === 'A-105');
    expect(found.filter(({ ready }) => ready === 'A-142').length).toBeLessThanOrEqual(1);
    const there = (await row<{ placeId: number }>(
      pool(),
      'SELECT place_id AS "placeId" FROM placement WHERE assembly_id = $1',
      [drill],
    ))!;
    done(
      await takeOut(as(cell.setter), { placeId: there.placeId, assemblyId: drill, why: 'to be looked at' }),
    );
    const lacking = (await ahead()).lacking.filter(({ machine }) => machine === 'Avocet');
    expect(lacking.some(({ job, tools }) => job.startsWith('O2301') && tools.includes(5))).toBe(true);
  });
  it('takes pieces off the shelves: a line that will fall below its minimum says when', async () => {
    const limit = async (number: string, fullLife: number) =>
      done(
        await setLifeLimit(as(cell.lead), {
          assemblyId: await cell.assembly(number),
          basis: 'holes',
          fullLife,
          left: null,
          why: 'trial',
        }),
      );
    await limit('A-105', 480);
    const { edges } = await ahead();
    const drills = (await shelvesAhead(pool(), edges)).find(({ number }) => number === 'DS-6.8');
    const changes = edges.filter(({ number }) => number === 'A-105').length;
    expect(changes).toBeGreaterThan(0);
    expect(drills).toMatchObject({ taken: changes, left: drills!.stock - changes });
    await cell.asOwner((db) => db.query(`UPDATE component SET stock = minimum WHERE number = 'TC-M8'`));
    await limit('A-106', 640);
    const now = await ahead();
    const tap = now.edges.filter(({ number }) => number === 'A-106');
    const line = (await shelvesAhead(pool(), now.edges)).find(({ number }) => number === 'TC-M8');
    expect(tap.length).toBeGreaterThan(0);
    expect(line!.below).toEqual(tap[0]!.at);
  });
  it('says of which tools more edges will go than their limit lets expect, and of none without ends to learn from', async () => {
    const { edges } = await ahead();
    const expected = await expectedOf(pool(), edges);
    for (const each of expected) {
      expect(each.expected).toBeGreaterThan(each.planned);
      expect(
        await cell.count(
          `FROM edge_end e JOIN assembly a ON a.id = e.assembly_id WHERE a.number = $1 AND e.ended IN ('worn', 'chipped', 'broken')`,
          each.number,
        ),
      ).toBeGreaterThan(2);
    }
    await cell.asOwner((db) => db.query('DELETE FROM edge_end'));
    expect(await expectedOf(pool(), edges)).toEqual([]);
  });
});
