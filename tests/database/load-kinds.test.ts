import { traitsOf } from '../../src/core/changer/traits.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Wanted } from '../../src/core/changer/wanted.ts';
import { sweptRadius } from '../../src/core/assembly/silhouette.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { addJob, moveJob, runningJob } from '../../src/server/jobs.ts';
import { lastLoadPlan, makeLoadPlan, openLoadPlan, tickMeasured, tickStep } from '../../src/server/loads.ts';
import { geometryKinds, machineById, type Machine } from '../../src/server/machines.ts';
import { shapeOf } from '../../src/server/machines.ts';
import { placesOf } from '../../src/server/places.ts';
import { stagedTools } from '../../src/server/planning.ts';
import { importProgram } from '../../src/server/programs.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(closePool);

const machineOf = async (name: string) => (await machineById(pool(), await cell.machine(name)))!;

/** Everything stays but one tool, which is wanted in an empty pocket, with empty neighbours where there is one. */
async function oneMoved(machine: Machine) {
  const places = await placesOf(pool(), machine.id);
  const pockets = places.filter((place) => place.kind === 'pocket');
  const empty = pockets.filter((place) => place.inService && !place.reserved && !place.assembly);
  const free = (empty.find((place) =>
    pockets.every((other) => !other.assembly || Math.abs(other.number - place.number) > 1),
  ) ?? empty[0])!;
  const mover = pockets.find(
    (place) => place.assembly && !place.wide && !place.reserved && !place.assembly.flag,
  )!;
  const fixed = !traitsOf(shapeOf(machine)).exchanges && machine.changerKind !== 'tray';
  const tools = places.flatMap((place) =>
    place.assembly
      ? [
          {
            assemblyId: place.assembly.id,
            number: place.assembly.number,
            name: place.assembly.name,
            tool: place === mover && fixed ? free.number : place.tool!,
            pocket: place === mover ? free.number : place.kind === 'spindle' ? place.tool! : place.number,
            wide: place.wide,
            heavy: false,
            radius: sweptRadius(place.assembly),
            orientation: null,
          },
        ]
      : [],
  );
  return {
    wanted: { tools, out: [] } satisfies Wanted,
    mover,
    free,
    tool: fixed ? free.number : mover.tool!,
  };
}

async function workOff(machine: Machine): Promise<string[]> {
  const acts: string[] = [];
  for (let i = 0; i < 200; i += 1) {
    const plan = await openLoadPlan(pool(), machine);
    if (!plan) return acts;
    if (!plan.left.ok) throw new Error(plan.left.reason);
    const [next] = plan.left.steps;
    const { step, key, confirm, turned } = next!;
    acts.push(step.act);
    if (step.act !== 'measure')
      done(
        await tickStep(as(cell.setter), {
          planId: plan.id,
          key,
          confirmed: confirm.length,
          ...(turned && { turned }),
        }),
      );
    else {
      const kinds = machine.kind === 'mill' ? ['lengthGeometry'] : geometryKinds('lathe').slice(0, 2);
      const values = [];
      for (const kind of kinds)
        values.push({
          kind,
          value: lengthOf(101.5 + i / 1000, 'mm'),
          before: (await cell.register(machine.name, step.tool.tool, kind)).value as Length,
        });
      done(
        await tickMeasured(as(cell.setter), {
          planId: plan.id,
          key,
          measuring: {
            machineId: machine.id,
            assemblyId: step.tool.assemblyId,
            row: step.tool.tool,
            values,
            gaugeLength: machine.kind === 'mill' ? lengthOf(101.5, 'mm') : null,
            how: 'Measured straight after loading.',
            method: machine.kind === 'mill' ? 'toolSetter' : 'touchOff',
          },
        }),
      );
    }
  }
  throw new Error('It does not end.');
}

describe('a tool is brought to another pocket, on every kind of changer, by the steps of a plan', () => {
  for (const [name, kind] of [
    ['Avocet', 'randomAccess'],
    ['Bittern', 'fixedCarousel'],
    ['Curlew', 'turret'],
    ['Dunlin', 'rack'],
    ['Egret', 'chain'],
    ['Fulmar', 'tray'],
  ] as const)
    it(`${name}, ${kind}`, async () => {
      const machine = await machineOf(name);
      expect(machine.changerKind).toBe(kind);
      const { wanted, mover, free, tool } = await oneMoved(machine);
      done(await makeLoadPlan(as(cell.lead), { machineId: machine.id, wanted }));
      const acts = await workOff(machine);
      // on a swing arm calls are enough; elsewhere the tool comes out and goes in again, and is measured
      if (traitsOf(shapeOf(machine)).exchanges) expect(acts.slice(0, 2)).toEqual(['call', 'call']);
      else expect(acts).toEqual(expect.arrayContaining(['unload', 'load', 'measure']));
      const after = await placesOf(pool(), machine.id);
      expect(after.find((place) => place.id === free.id)).toMatchObject({
        tool,
        assembly: { id: mover.assembly!.id, measured: true },
      });
      expect(after.find((place) => place.id === mover.id)!.assembly).toBeNull();
      expect(after.filter((place) => place.assembly).every((place) => place.assembly!.measured)).toBe(true);
      expect((await lastLoadPlan(pool(), machine.id))!.outcome).toBe('done');
    });
});

describe('what goes through the loading tray next', () => {
  it('is what the running job calls, in its order, each once, five of them', async () => {
    const machine = await machineOf('Fulmar');
    // what its demo job calls; once that is over, nothing
    expect(await stagedTools(pool(), machine)).toEqual([20, 10, 8, 13, 5]);
    const running = (await runningJob(pool(), machine.id))!;
    done(await moveJob(as(cell.lead), { jobId: running.id, move: 'finish', why: 'the bar ran out' }));
    expect(await stagedTools(pool(), machine)).toEqual([]);
    const calls = [4, 2, 4, 7, 1, 9, 3].map((tool) => `T${tool} M6\nG43 H${tool}\nG1 Z-1. F100.`).join('\n');
    const programId = await transaction((db) =>
      importProgram(db, cell.lead.id, {
        machineId: machine.id,
        fileName: 'o4001.nc',
        text: `%\nO4001 (SMALL)\nG21\n${calls}\nM30\n%\n`,
        partsPerCycle: 1,
      }),
    );
    done(await addJob(as(cell.lead), { programId, quantity: 3, cycleMilliseconds: 60_000 }));
    expect(await stagedTools(pool(), machine)).toEqual([4, 2, 7, 1, 9]);
    expect(await stagedTools(pool(), await machineOf('Avocet'))).toEqual([]);
  });
});
