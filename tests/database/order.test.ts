import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { quarantineOf, standOf } from '../../src/server/quarantine.ts';
import { takeReading } from '../../src/server/readings.ts';
import { writeMeasurement } from '../../src/server/registers.ts';
import { recordParts } from '../../src/server/counts.ts';
import { machineById } from '../../src/server/machines.ts';
import { startRenewal, takeStep } from '../../src/server/renewals.ts';
import { checksOf, takeCheck } from '../../src/server/tool-checks.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** The database's clock is put back by an hour for everything from now on. */
async function clockBack(): Promise<void> {
  const back = new Date(Date.now() - 3_600_000).toISOString();
  await cell.asOwner((client) =>
    client.query(`ALTER DATABASE ${cell.database.name} SET "tin.at" = '${back}'`),
  );
  await closePool();
}
const reading = async (size: number, part: number) => ({
  featureId: await cell.feature('O5103', 'Face height'),
  programId: await cell.program('O5103'),
  jobId: await cell.job('O5103'),
  part,
  measured: lengthOf(size, 'mm'),
  confirmed: true,
  firstOff: false,
});

/** A check of Dunlin's T1 on the setter: it has changed by so much, in millimetres. */
async function check(change: number) {
  const dunlin = (await machineById(pool(), await cell.machine('Dunlin')))!;
  const there = (await checksOf(pool(), dunlin)).find(({ tool }) => tool === 1)!;
  return done(
    await takeCheck(as(cell.setter), dunlin, {
      tool: 1,
      assemblyId: there.assemblyId,
      method: 'setter',
      measured: nanometres(there.reference! + lengthOf(change, 'mm')),
      lastPart: null,
      source: 'typed',
    }),
  );
}

describe('"later than" is asked of entries, never of the clock', () => {
  it('readings from before a correction are not averaged in again when the clock was put back', async () => {
    let proposal: number | undefined;
    for (let part = 29; part < 35 && proposal === undefined; part += 1)
      proposal = done(await takeReading(as(cell.operator), await reading(80.018, part))).proposalIds[0];
    done(await approve(as(cell.lead), cell.lead, proposal!));
    await clockBack();
    const { to } = (await correctionById(pool(), proposal!))!;
    expect(done(await readBack(as(cell.operator), proposal!, { shown: to, again: to }))).toEqual({
      kept: true,
    });
    const next = done(await takeReading(as(cell.operator), await reading(80, 36)));
    expect(next.proposalIds).toEqual([]);
    expect(next.answer.verdict).toBe('leave');
  });
  it('a tool measured after it was loaded is measured, whatever the clock says', async () => {
    const machineId = await cell.machine('Avocet');
    const assemblyId = await cell.assembly('A-110');
    const empty = (await placesOf(pool(), machineId)).find(
      (place) =>
        place.kind === 'pocket' && !place.assembly && place.inService && !place.reserved && !place.wide,
    )!;
    done(await placeTool(as(cell.setter), { placeId: empty.id, assemblyId, tool: 28 }));
    const measured = async () =>
      (await placesOf(pool(), machineId)).find((place) => place.assembly?.id === assemblyId)!.assembly!
        .measured;
    expect(await measured()).toBe(false);
    await clockBack();
    const { value: before } = await cell.register('Avocet', 28, 'lengthGeometry');
    await transaction((db) =>
      writeMeasurement(db, cell.setter.id, {
        machineId,
        assemblyId,
        row: 28,
        values: [{ kind: 'lengthGeometry', value: lengthOf(101.2, 'mm'), before: before as Length }],
        gaugeLength: lengthOf(101.2, 'mm'),
        how: 'Measured after loading.',
        method: 'typed',
      }),
    );
    expect(await measured()).toBe(true);
    done(await takeOut(as(cell.setter), { placeId: empty.id, assemblyId, why: '' }));
    done(await placeTool(as(cell.setter), { placeId: empty.id, assemblyId, tool: 28 }));
    expect(await measured()).toBe(false);
  });
  it('parts that were cut after the last good check are held back, whatever the clock says', async () => {
    await check(0.004);
    await clockBack();
    const jobId = await cell.job('O4102');
    const made = await cell.count('FROM generate_series(1, (SELECT made FROM job WHERE id = $1))', jobId);
    done(await recordParts(as(cell.operator), { jobId, before: made, parts: 5, source: 'typed' }));
    await check(-6.1);
    const of = (await quarantineOf(pool(), await cell.assembly('D-401')))!;
    const { parts } = await standOf(pool(), of);
    expect(parts.filter(({ job }) => job === jobId).map(({ part }) => part)).toEqual(
      // the one that was in the machine at the check was whole by it
      Array.from({ length: 5 }, (_, i) => made + i + 2),
    );
  });
  it('a broken tool that is replaced and measured after the clock was put back is replaced and measured', async () => {
    await check(-6.1);
    const assemblyId = await cell.assembly('D-401');
    const of = (await quarantineOf(pool(), assemblyId))!;
    expect((await standOf(pool(), of)).replaced).toBeNull();
    await clockBack();
    done(await startRenewal(as(cell.setter), assemblyId));
    const base = {
      assemblyId,
      what: 'a new one',
      ended: { end: 'broken' as const, sign: null, flank: null },
      row: 1,
      life: 200,
      values: [],
      gaugeLength: null,
      others: [],
      shown: [],
    };
    done(await takeStep(as(cell.setter), { ...base, step: 'changed' }));
    expect((await standOf(pool(), of)).replaced).not.toBeNull();
    done(await takeStep(as(cell.setter), { ...base, step: 'lifeSet' }));
    done(await takeStep(as(cell.setter), { ...base, step: 'flagCleared' }));
    const register = await cell.register('Dunlin', 1, 'lengthGeometry');
    done(
      await takeStep(as(cell.setter), {
        ...base,
        step: 'measured',
        values: [
          {
            kind: 'lengthGeometry',
            value: nanometres(register.value + 20_000),
            before: nanometres(register.value),
          },
        ],
      }),
    );
    expect((await standOf(pool(), of)).measured).not.toBeNull();
  });
});
