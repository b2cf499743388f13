import { parse } from 'csv-parse/sync';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { readPlanFile } from '../../src/core/formats/plan-file.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { cellOf } from '../../src/server/cell.ts';
import { closePool, pool, rows, transaction } from '../../src/server/db.ts';
import { featureById, featuresOf, importPlan, programById, writeFeature } from '../../src/server/programs.ts';
import { bringIn } from '../../src/server/bring-in.ts';
import { lookAtPlan, lookAtReadingsFile, takeReadingsFile } from '../../src/server/program-files.ts';
import { planTable, readingTable } from '../../src/server/reading-table.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { asSuperuser } from '../support/databases.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');

const program = async (number: string) => (await programById(pool(), await cell.program(number)))!;
const cells = {
  feature: 'Face height',
  kind: 'height',
  nominal: '80',
  upper: '0.04',
  lower: '-0.04',
  target: '80.01',
  tool: '1',
  policy: 'model',
  dead_band: '0.008',
};

describe('the measuring plan by hand', () => {
  it('a feature is changed: its aim, its school, its dead band', async () => {
    const featureId = await cell.feature('O5103', 'Face height');
    const seen = JSON.stringify(await featureById(pool(), featureId));
    const programId = await cell.program('O5103');
    done(await writeFeature(as(cell.lead), { programId, cells, change: { featureId, seen } }));
    expect(await featureById(pool(), featureId)).toMatchObject({
      id: featureId,
      target: lengthOf(80.01, 'mm'),
      deadBand: lengthOf(0.008, 'mm'),
    });
    // somebody else had the old one on the screen
    expect(
      refused(await writeFeature(as(cell.setter), { programId, cells, change: { featureId, seen } })),
    ).toMatch(/Somebody changed this feature meanwhile/);
  });
  it('a second feature of the same name, another end where there is none, and a tool that is not called are refused', async () => {
    const programId = await cell.program('O5103');
    const write = async (over: Record<string, string>) =>
      refused(await writeFeature(as(cell.lead), { programId, cells: { ...cells, ...over }, change: null }));
    expect(await write({})).toMatch(/already has a feature of this name/);
    expect(await write({ feature: 'Rim', kind: 'outsideDiameter', other_tool: '3' })).toMatch(/no other end/);
    expect(await write({ feature: 'Rim', other_tool: '77' })).toMatch(/names T77/);
    expect(await write({ feature: 'Rim', other_tool: '3' })).toBeNull();
    expect(await featureById(pool(), await cell.feature('O5103', 'Rim'))).toMatchObject({
      other: { tool: 3, row: 3 },
    });
  });
  it.each(['O1402', 'O2301', 'O5103'])('what %s gives out is what it was brought in by', async (number) => {
    const of = await program(number);
    const read = readPlanFile(await planTable(pool(), of), of.unit);
    if (!read.ok) throw new Error(JSON.stringify(read.issues));
    const kept = await featuresOf(pool(), of.machineId, of.number);
    expect(read.rows).toHaveLength(kept.length);
    read.rows.forEach((feature, i) => expect(kept[i]).toMatchObject(feature));
  });
});

describe('readings as a table', () => {
  it('says of each what its row held when the part was cut, and keeps a questioned one with its question', async () => {
    const take = async (size: number, part: number, confirmed = false) =>
      done(
        await takeReading(as(cell.operator), {
          featureId: await cell.feature('O5103', 'Face height'),
          programId: await cell.program('O5103'),
          jobId: await cell.job('O5103'),
          part,
          measured: lengthOf(size, 'mm'),
          confirmed,
          firstOff: false,
        }),
      );
    const [id] = (await take(80.024, 40)).proposalIds;
    done(await approve(as(cell.lead), cell.lead, id!));
    const { to } = (await correctionById(pool(), id!))!;
    done(await readBack(as(cell.operator), id!, { shown: to, again: to }));
    await take(80.001, 41);
    await take(80.5, 42);
    await take(80.022, 39, true);
    const text = await readingTable(pool(), await program('O5103'), null, 'Europe/Berlin');
    const lines = (parse(text, { columns: true }) as Record<string, string>[]).filter(
      (line) => line.feature === 'Face height',
    );
    expect(lines.map(({ part, value, wear }) => [part, value, wear])).toEqual([
      ['40', '80.024', '0.000'],
      ['41', '80.001', '-0.024'],
      ['42', '80.500', '-0.024'],
      ['39', '80.022', '0.000'],
    ]);
    expect(lines[2]!.question).toMatch(/thimble/);
    expect(lines[0]).toMatchObject({ machine: 'Egret', unit: 'mm', target: '80.000', person: 'Dede Okafor' });
    const other = await readingTable(pool(), await program('O5103'), '1999-01', 'Europe/Berlin');
    expect(other.trim().split('\r\n')).toHaveLength(1);
  });
});

describe('readings of before a plan was changed', () => {
  it('go out with the limits, the aim and the gauge that they were measured by', async () => {
    const of = await program('O5103');
    const take = async (part: number) =>
      done(
        await takeReading(as(cell.operator), {
          featureId: await cell.feature('O5103', 'Face height'),
          programId: of.id,
          jobId: await cell.job('O5103'),
          part,
          measured: lengthOf(80.001, 'mm'),
          confirmed: false,
          firstOff: false,
        }),
      );
    await take(40);
    const height = (await featuresOf(pool(), of.machineId, of.number)).find(
      ({ name }) => name === 'Face height',
    )!;
    const changed = { ...height, upper: mm(0.01), target: mm(79.995), gauge: 'probe' };
    await transaction((db) => importPlan(db, cell.lead.id, of.id, [changed]));
    await take(41);
    const lines = (
      parse(await readingTable(pool(), of, null, 'UTC'), { columns: true }) as Record<string, string>[]
    ).filter((line) => line.feature === 'Face height');
    expect(
      lines.map(({ part, upper, target, deviation, gauge }) => [part, upper, target, deviation, gauge]),
    ).toEqual([
      ['40', '0.040', '80.000', '0.001', 'height gauge'],
      ['41', '0.010', '79.995', '0.006', 'probe'],
    ]);
  });
});

describe('a plan brought in as a file', () => {
  it('is looked at first: what it would change, and what does not go with the program', async () => {
    const of = await program('O1402');
    const text = await planTable(pool(), of);
    const seen = async (changed: string) =>
      done(await lookAtPlan(pool(), { programId: of.id, text: changed }));
    expect((await seen(text)).sizes.every(({ verdict }) => verdict === 'same')).toBe(true);
    const changed = await seen(text.replace('Bore,bore,0.5905,0.0007', 'Bore,bore,0.5905,0.0011'));
    expect(changed.sizes.filter(({ verdict }) => verdict === 'changed')).toEqual([
      { name: 'Bore', verdict: 'changed', changes: [{ column: 'upper', before: '0.0007', after: '0.0011' }] },
    ]);
    const strange = text.replace(/(Bore,bore,[^,]*,[^,]*,[^,]*,5),5/, '$1,6');
    expect((await seen(strange)).faults).toEqual([expect.stringMatching(/T5 is called with row 5/)]);
    // the look took nothing, and neither does bringing it in as it stands
    expect(
      refused(
        await bringIn(as(cell.lead), 'plan', {
          fileName: 'plan.csv',
          text: strange,
          machineId: null,
          programId: of.id,
          partsPerCycle: 1,
        }),
      ),
    ).toMatch(/not with row 6/);
    expect(await planTable(pool(), of)).toBe(text);
  });
});

describe('readings brought in as a file', () => {
  const text = 'feature,part,value\nFace height,301,80.012\nBody width,301,287.604\nface height,302,80.013\n';
  it('are looked at, taken once, and judged as if they had been typed', async () => {
    const of = await program('O5103');
    const brought = { programId: of.id, text, part: null };
    const look = done(await lookAtReadingsFile(pool(), brought));
    expect(look.readings.map(({ verdict }) => verdict)).toEqual(['added', 'added', 'added']);
    // that the machine has not cut so many is said before anything is taken
    expect(look.readings[0]!.words).toMatch(/Part 301\? O5103 stands at \d+ of \d+ parts/);
    const before = await cell.count('FROM reading');
    const taken = done(await takeReadingsFile(as(cell.inspector), brought));
    expect(taken).toMatchObject({ taken: 3, same: 0, again: [] });
    expect(await cell.count('FROM reading')).toBe(before + 3);
    expect(
      done(await lookAtReadingsFile(pool(), brought)).readings.every(({ verdict }) => verdict === 'same'),
    ).toBe(true);
    expect(done(await takeReadingsFile(as(cell.inspector), brought))).toMatchObject({ taken: 0, same: 3 });
    expect(await cell.count('FROM reading')).toBe(before + 3);
  });
  it('the table of all readings comes in again as what it is: parts of a job that is over count for none that runs', async () => {
    const of = await program('O5103');
    await takeReadingsFile(as(cell.inspector), { programId: of.id, text, part: null });
    const { timeZone } = await cellOf(pool());
    const table = await readingTable(pool(), of, null, timeZone);
    const brought = { programId: of.id, text: table, part: null };
    const verdicts = async () =>
      new Set(done(await lookAtReadingsFile(pool(), brought)).readings.map(({ verdict }) => verdict));
    expect(await verdicts()).toEqual(new Set(['same']));
    // the same table, once this job is over and another of the program runs
    const before = await cell.count('FROM reading');
    const job = await cell.job('O5103');
    await asSuperuser(async (client) => {
      await client.query("UPDATE job SET state = 'done' WHERE id = $1", [job]);
      await client.query(
        `INSERT INTO job (machine_id, program_id, quantity, cycle_milliseconds, state, set_up_at, place)
         SELECT machine_id, program_id, 40, cycle_milliseconds, 'running', now(), place FROM job WHERE id = $1`,
        [job],
      );
    }, cell.database.name);
    expect(await verdicts()).toEqual(new Set(['same']));
    const other = table.replace(/80\.012/, '80.014');
    expect(other).not.toBe(table);
    expect(refused(await takeReadingsFile(as(cell.inspector), { ...brought, text: other }))).toMatch(
      /another job of O5103/,
    );
    expect(
      refused(
        await takeReadingsFile(as(cell.inspector), {
          programId: (await program('O2301')).id,
          text: table,
          part: null,
        }),
      ),
    ).toMatch(/no size of this name|It is of Egret/);
    expect(await cell.count('FROM reading')).toBe(before);
  });
  it('says when each was measured', async () => {
    const of = await program('O5103');
    const at = new Date(Date.now() - 40 * 60_000).toISOString();
    const late = `feature,part,value,time\nFace height,29,80.012,${at}\nFace height,30,80.012,2126-01-01T00:00:00Z\n`;
    done(await takeReadingsFile(as(cell.inspector), { programId: of.id, text: late, part: null }));
    const kept = await rows<{ part: number; ago: number }>(
      pool(),
      'SELECT part, extract(epoch FROM tin_now() - at)::float8 / 60 AS ago FROM reading WHERE part IN (29, 30) AND job_id = $1 ORDER BY id DESC LIMIT 2',
      [await cell.job('O5103')],
    );
    // a clock that is ahead tells nothing
    expect(kept.map(({ part, ago }) => [part, Math.round(ago / 10)])).toEqual([
      [30, 0],
      [29, 4],
    ]);
  });
  it('by two people at once, each reading is taken once', async () => {
    const brought = { programId: (await program('O5103')).id, text, part: null };
    const before = await cell.count('FROM reading');
    await Promise.all([
      takeReadingsFile(as(cell.inspector), brought),
      takeReadingsFile(as(cell.setter), brought),
    ]);
    expect(await cell.count('FROM reading')).toBe(before + 3);
  });
  it('one that is surprising is kept and asked for again; a size the plan does not have refuses them all', async () => {
    const of = await program('O5103');
    const odd = { programId: of.id, text: 'feature,part,value\nFace height,301,8.0012\n', part: null };
    const taken = done(await takeReadingsFile(as(cell.inspector), odd));
    expect(taken).toMatchObject({
      taken: 0,
      again: [expect.stringMatching(/Face height, part 301.*decimal point/)],
    });
    const before = await cell.count('FROM reading');
    expect(
      refused(await takeReadingsFile(as(cell.inspector), { ...odd, text: `${text}Rim,301,5\n` })),
    ).toMatch(/no size of this name/);
    expect(await cell.count('FROM reading')).toBe(before);
    expect(refused(await lookAtReadingsFile(pool(), { ...odd, programId: null }))).toMatch(
      /Choose the program/,
    );
  });
});
