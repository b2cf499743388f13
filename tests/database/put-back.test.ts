import { afterAll, describe, expect, it } from 'vitest';
import { lengthOf, nanometres } from '../../src/core/units/length.ts';
import { recordText } from '../../src/server/control-looks.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machines } from '../../src/server/machines.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { programById } from '../../src/server/programs.ts';
import { keepPutBack, lookAtKept } from '../../src/server/put-back.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { measureTool } from '../../src/server/registers.ts';
import { netTools } from '../../src/server/safety-net.ts';
import { unmeasured } from '../../src/server/tools-of-jobs.ts';
import { as, done, weirside } from '../support/cell.ts';

afterAll(closePool);

describe('a table that was kept before a tool came, and is put back', () => {
  it('holds the length of the tool before: the job is stopped until it is measured, whoever asks', async () => {
    const cell = await weirside();
    const avocet = (await machines(pool())).find(({ name }) => name === 'Avocet')!;
    const program = (await programById(pool(), await cell.program('O2301')))!;
    const said = async () =>
      (await readinessOf(pool(), program, 1, [])).flatMap(({ tool, code, weight }) =>
        tool === 5 && code === 'geometryLeft' ? [weight] : [],
      );
    const [a105, place] = [
      await cell.assembly('A-105'),
      (await placesOf(pool(), avocet.id)).find(({ tool }) => tool === 5)!,
    ];
    const measure = async (millimetres: number, assemblyId: number) =>
      done(
        await measureTool(as(cell.setter), {
          machineId: avocet.id,
          assemblyId,
          row: 5,
          values: [
            {
              kind: 'lengthGeometry',
              value: lengthOf(millimetres, 'mm'),
              before: nanometres((await cell.register('Avocet', 5, 'lengthGeometry')).value),
            },
          ],
          gaugeLength: null,
          how: 'on the setter',
          method: 'typed',
        }),
      );
    await measure(142.1, a105);
    const { text } = await recordText(pool(), avocet, new Date());
    done(await takeOut(as(cell.setter), { placeId: place.id, assemblyId: a105, why: 'worn' }));
    const other = await cell.assembly('A-142');
    done(
      await placeTool(as(cell.setter), { placeId: place.id, assemblyId: other, tool: 5, knob: avocet.knob }),
    );
    await measure(135.4, other);
    expect(await said()).toEqual([]);
    const looked = done(await lookAtKept(as(cell.setter), { machineId: avocet.id, text, lost: true }));
    done(
      await keepPutBack(as(cell.setter), { machineId: avocet.id, text, shown: text, entry: looked.entry }),
    );
    expect(await said()).toEqual(['stop']);
    expect(
      (await unmeasured(pool())).find(({ machineId, tool }) => machineId === avocet.id && tool === 5),
    ).toMatchObject({
      rows: [5],
    });
    expect((await netTools(pool(), avocet)).find(({ tool }) => tool === 5)!.measured).toBe(false);
    await measure(135.4, other);
    expect(await said()).toEqual([]);
  });
});
