import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { expectedTwice } from '../../src/server/across.ts';
import { importProgram } from '../../src/server/programs.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { addJob } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { programsAsked, switchingFor } from '../../src/server/switching.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(closePool);

describe('one piece that two machines’ open jobs both want', () => {
  it('is named once both have a job for it, with the machines', async () => {
    const named = async () => (await expectedTwice(pool())).map((each) => `${each.number}: ${each.machines}`);
    const before = await named();
    const machineId = await cell.machine('Bittern');
    const programId = await transaction((db) =>
      importProgram(db, cell.lead.id, {
        machineId,
        fileName: 'o3301.nc',
        text: '%\nO3301 (TWICE)\nG20\nT9 M6 (TAP M10 SPIRAL)\nG43 H9\nG1 Z-.2 F5.\nM30\n%\n',
        partsPerCycle: 1,
      }),
    );
    expect(await named()).toEqual(before);
    done(await addJob(as(cell.lead), { programId, quantity: 5, cycleMilliseconds: 60_000 }));
    const now = (await named()).filter((each) => !before.includes(each));
    expect(now).toEqual(['A-110: Avocet,Bittern']);
  });
});

describe('sisters among the places', () => {
  it('are counted when asked for: a tool that does not last the job takes another place', async () => {
    const machine = (await machineById(pool(), await cell.machine('Avocet')))!;
    const chosen = [await cell.program('O2310')];
    done(
      await addJob(as(cell.lead), {
        programId: chosen[0]!,
        quantity: 90_000,
        cycleMilliseconds: 60_000,
      }),
    );
    const without = await switchingFor(pool(), machine, chosen, null);
    const counted = await switchingFor(pool(), machine, chosen, null, true);
    expect(without.jobs[0]!.tools.every((tool) => tool < 10_000)).toBe(true);
    expect(counted.jobs[0]!.tools.length).toBeGreaterThan(without.jobs[0]!.tools.length);
    expect(counted.together).toBeGreaterThan(without.together);
    const firsts = counted.jobs[0]!.tools.filter((tool) => tool < 10_000).sort((a, b) => a - b);
    expect(firsts).toEqual(without.jobs[0]!.tools);
  });
});

it('every job that is ticked is asked about, once, however many there are', async () => {
  const ticked = Array.from({ length: 90 }, (_, i) => ['program', String(i + 1)]);
  const search = new URLSearchParams([...ticked, ['program', '7'], ['program', '-1'], ['program', 'x']]);
  expect(await programsAsked(pool(), 1, search)).toEqual(ticked.map(([, id]) => Number(id)));
});
