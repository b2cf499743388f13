import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { approve, correctionById, readBack } from '../../src/server/corrections.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { takeReading } from '../../src/server/readings.ts';
import { writeMeasurement } from '../../src/server/registers.ts';
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

describe('"later than" is asked of entries, never of the clock', () => {
  it('readings from before a correction are not averaged in again when the clock was put back', async () => {
    let proposal: number | undefined;
    for (let part = 60; part < 66 && proposal === undefined; part += 1)
      proposal = done(await takeReading(as(cell.operator), await reading(80.018, part))).proposalIds[0];
    done(await approve(as(cell.lead), cell.lead, proposal!));
    await clockBack();
    const { to } = (await correctionById(pool(), proposal!))!;
    expect(done(await readBack(as(cell.operator), proposal!, { shown: to, again: to }))).toEqual({
      kept: true,
    });
    const next = done(await takeReading(as(cell.operator), await reading(80, 70)));
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
});
