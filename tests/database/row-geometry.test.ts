import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { againstNextPart } from '../../src/core/readiness/check.ts';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { placesOf, placeTool, takeOut, toolsStanding } from '../../src/server/places.ts';
import { programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { foundAtControl, measureTool } from '../../src/server/registers.ts';
import { netTools } from '../../src/server/safety-net.ts';
import { readCopies, secondPart } from '../../src/server/second-part.ts';
import { geometryLeft, toolRows } from '../../src/server/tool-rows.ts';
import { lackedByJobs, unmeasured } from '../../src/server/tools-of-jobs.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let curlew: Machine;
beforeEach(async () => {
  cell = await weirside();
  curlew = (await machineById(pool(), await cell.machine('Curlew')))!;
});
afterAll(closePool);

const inch = (value: number) => lengthOf(value, 'in');
/** O1402 turns two parts on a bar: station 2 finishes the first with row 2, the second with row 22. */
const told = async () => {
  const program = (await programById(pool(), await cell.program('O1402')))!;
  return (await readinessOf(pool(), program, 10, [])).filter(
    ({ code, tool }) => code === 'geometryLeft' && tool === 2,
  );
};
/** Another finisher comes into station 2. */
const loadSister = async () => {
  const placeId = await cell.place('Curlew', 2);
  const [was, sister] = [await cell.assembly('L-202'), await cell.assembly('L-221')];
  done(await takeOut(as(cell.setter), { placeId, assemblyId: was, why: 'chipped' }));
  done(await placeTool(as(cell.setter), { placeId, assemblyId: sister, tool: 2 }));
  return sister;
};
const measure = async (assemblyId: number, row: number, x: number, z: number) => {
  const values = [];
  for (const [kind, by] of [
    ['xGeometry', x],
    ['zGeometry', z],
  ] as const) {
    const { value } = await cell.register('Curlew', row, kind);
    values.push({ kind, value: nanometres(value + inch(by)), before: value as Length });
  }
  return measureTool(as(cell.setter), {
    machineId: curlew.id,
    assemblyId,
    row,
    values,
    gaugeLength: null,
    how: 'Touched off.',
    method: 'touchOff',
  });
};
const family = { rows: [2], block: 20, partLength: inch(3.635), parting: inch(0.125), facing: inch(0.01) };
const copy = async () => {
  const found = await secondPart(pool(), curlew, family);
  if (!found.ok) throw new Error(found.reason);
  const shown = found.copied.map(({ registerId, after }) => ({ registerId, value: after }));
  done(await readCopies(as(cell.setter), curlew, family, shown));
};

describe('the second row of a station that was loaded anew', () => {
  it('stops the job while it holds the former tool’s geometry, until it is copied; and again once what it was copied from moves', async () => {
    expect(await told()).toEqual([]);
    const sister = await loadSister();
    // not measured at all: that is said, and covers it
    expect(await told()).toEqual([]);
    expect(await unmeasured(pool())).toContainEqual({
      machine: 'Curlew',
      machineId: curlew.id,
      tool: 2,
      number: 'L-221',
      rows: [],
    });
    done(await measure(sister, 2, 0.0123, 0));
    expect(await told()).toMatchObject([
      {
        weight: 'stop',
        sentence: expect.stringMatching(
          /^Row 22, which T2 uses on line 219, still holds the X geometry and Z geometry from before T2 came or its edge was changed; row 2 was set since: X geometry by \+0\.0123 in\.$/,
        ) as string,
      },
    ]);
    const measured = async () =>
      (await netTools(pool(), curlew)).filter(({ tool }) => tool === 2).map((each) => each.measured);
    // the job runs: whoever makes its next part is told, and the leaf
    const waits = async () =>
      (await unmeasured(pool())).filter(({ machine, tool }) => machine === 'Curlew' && tool === 2);
    expect(againstNextPart(await told())).toHaveLength(1);
    expect(await waits()).toEqual([
      { machine: 'Curlew', machineId: curlew.id, tool: 2, number: 'L-221', rows: [22] },
    ]);
    // the check of lengths does not take it for the tool's length either
    expect(await measured()).toEqual([true, false]);
    await copy();
    expect(await told()).toEqual([]);
    expect(await measured()).toEqual([true, true]);
    expect(await waits()).toEqual([]);
  });

  it('measured itself it is its own, whatever it shows', async () => {
    const sister = await loadSister();
    done(await measure(sister, 2, 0.0123, -0.004));
    done(await measure(sister, 22, 0, 0));
    expect(await told()).toEqual([]);
    done(await measure(sister, 2, 0, 0.003));
    expect(await told()).toMatchObject([
      {
        weight: 'look',
        sentence: expect.stringMatching(
          /row 2 was set once more since: Z geometry by \+0\.0030 in/,
        ) as string,
      },
    ]);
  });

  it('copied, it goes with the row that it was copied from: through a new tool of the same size, and not through another', async () => {
    await copy();
    const sister = await loadSister();
    done(await measure(sister, 2, 0, 0));
    const z = (await told()).map(({ sentence }) => sentence);
    done(await measure(sister, 2, 0.001, 0));
    expect(z).toEqual([]);
    expect(await told()).toMatchObject([
      {
        sentence: expect.stringMatching(
          /was copied from row 2, and row 2 has moved since: X geometry by \+0\.0010 in/,
        ) as string,
      },
    ]);
    await copy();
    expect(await told()).toEqual([]);
  });

  it('what was found at the control since counts; a tool is measured only into a row that it is used with', async () => {
    const sister = await loadSister();
    done(await measure(sister, 2, 0.01, 0.01));
    for (const kind of ['xGeometry', 'zGeometry']) {
      const { id: registerId, value } = await cell.register('Curlew', 22, kind);
      done(
        await foundAtControl(as(cell.setter), {
          registerId,
          before: value as Length,
          after: nanometres(value + inch(0.01)),
          why: 'Touched off on the second part.',
        }),
      );
    }
    expect(await told()).toEqual([]);
    expect(refused(await measure(sister, 3, 0.01, 0))).toMatch(/^T2 is not used with row 3\.$/);
    expect((await assemblyById(pool(), sister))!.number).toBe('L-221');
  });

  it('rows that it is used with are its own and each that a program names', async () => {
    expect((await toolRows(pool(), curlew)).get(2)).toEqual([2, 22]);
    const avocet = (await machineById(pool(), await cell.machine('Avocet')))!;
    expect([...(await toolRows(pool(), avocet)).values()].every((rows) => rows.length === 1)).toBe(true);
    // T9 was never measured, which is said of it as it is; there is no other row to ask for
    expect(await geometryLeft(pool(), avocet)).toEqual(new Map());
  });

  it('a member of a group that a job calls waits to be measured too', async () => {
    const egret = (await machineById(pool(), await cell.machine('Egret')))!;
    const { tool, assembly } = (await toolsStanding(pool(), egret.id)).find((each) => each.tool === 24)!;
    const of = async () => (await unmeasured(pool())).filter((each) => each.machineId === egret.id);
    expect(await of()).toEqual([]);
    const placeId = (await placesOf(pool(), egret.id)).find((each) => each.tool === tool)!.id;
    done(await takeOut(as(cell.setter), { placeId, assemblyId: assembly.id, why: '' }));
    done(await placeTool(as(cell.setter), { placeId, assemblyId: assembly.id, tool }));
    expect(await of()).toMatchObject([{ tool: 24, rows: [] }]);
  });

  it('a tool that is taken out in the middle of its job is lacked until one is in under its T', async () => {
    const at = async () => (await lackedByJobs(pool())).filter(({ machineId }) => machineId === curlew.id);
    expect(await at()).toEqual([]);
    const [placeId, assemblyId] = [await cell.place('Curlew', 2), await cell.assembly('L-202')];
    done(await takeOut(as(cell.setter), { placeId, assemblyId, why: 'chipped' }));
    expect(await at()).toEqual([{ machineId: curlew.id, machine: 'Curlew', program: 'O1402', tools: [2] }]);
    done(await placeTool(as(cell.setter), { placeId, assemblyId: await cell.assembly('L-221'), tool: 2 }));
    expect(await at()).toEqual([]);
  });
});
