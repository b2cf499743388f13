import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RACK_STEPS, type RackStep } from '../../src/core/changer/rack.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { placesOf, takeOut } from '../../src/server/places.ts';
import { captureFork, confirmRackStep, rackOf, setRack, type RackSetting } from '../../src/server/racks.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

const mm = (value: number) => lengthOf(value, 'mm');
let cell: Awaited<ReturnType<typeof weirside>>;
let dunlin: number;
beforeAll(async () => {
  cell = await weirside();
  dunlin = await cell.machine('Dunlin');
});
afterAll(closePool);

const rack = async () => rackOf(pool(), (await machineById(pool(), dunlin))!);
const confirm = (step: RackStep) => confirmRackStep(as(cell.lead), { machineId: dunlin, step });
const capture = (fork: number, over: Partial<Record<'x' | 'y' | 'z', number>> = {}) =>
  captureFork(as(cell.lead), {
    machineId: dunlin,
    fork,
    x: mm(over.x ?? 60 + fork * 110),
    y: mm(over.y ?? 905),
    z: mm(over.z ?? -61.5),
  });
const set = async (typed: RackSetting, shown?: RackSetting) =>
  setRack(as(cell.lead), { machineId: dunlin, typed, shown: shown ?? (await rack()).setting });
const settings = {
  opening: 'Y+' as const,
  slideIn: mm(905),
  slideClear: mm(948.5),
  clearance: mm(70),
  bump: mm(1),
  spindleSeconds: 14,
};

describe('commissioning a rack, step by step (H16)', () => {
  it('nothing is captured before the backup is confirmed, and no step before those above it', async () => {
    expect(refused(await capture(1))).toMatch(/backup of the control’s configuration first/);
    expect(refused(await confirm('home'))).toMatch(/First: .*backed up/);
    done(await confirm('backup'));
    done(await confirm('home'));
  });
  it('two forks propose all the others', async () => {
    done(await capture(1));
    done(await capture(2));
    expect((await rack()).forks[9]).toMatchObject({ captured: null, proposed: { x: mm(1160), y: mm(905) } });
  });
  it('a fork that does not exist, and a machine without a rack, are refused', async () => {
    expect(refused(await capture(11))).toMatch(/forks 1 to 10/);
    const avocet = await cell.machine('Avocet');
    expect(refused(await confirmRackStep(as(cell.lead), { machineId: avocet, step: 'backup' }))).toMatch(
      /no linear rack/,
    );
  });
  it('the dry run waits for opening, a long spindle stop, every fork, a fork that is off, and an empty table', async () => {
    expect(refused(await confirm('opening'))).toMatch(/which way the forks open/);
    done(await set({ ...settings, spindleSeconds: 4 }));
    done(await confirm('opening'));
    done(await confirm('air'));
    expect(refused(await confirm('spindleStop'))).toMatch(/12 s or more/);
    done(await set(settings));
    done(await confirm('spindleStop'));
    // what somebody else set since the page was shown stays, unless it is the same
    const shown = (await rack()).setting;
    done(await set({ ...shown, bump: mm(2) }, shown));
    done(await set({ ...shown, clearance: mm(80) }, shown));
    expect((await rack()).setting).toEqual({ ...shown, bump: mm(2), clearance: mm(80) });
    expect(refused(await set({ ...shown, bump: mm(3) }, shown))).toMatch(/meanwhile/);
    done(await set(settings));
    expect((await rack()).slide).toBe(mm(43.5));
    expect(refused(await confirm('empty'))).toMatch(/Forks 3, 4, 5, 6, 7, 8, 9, 10 have not been captured/);
    for (const fork of [3, 4, 5, 6, 8, 9, 10]) done(await capture(fork));
    done(await capture(7, { x: 803 }));
    expect((await rack()).odd).toEqual({ fork: 7, axis: 'x', off: mm(-27) });
    expect(refused(await confirm('empty'))).toMatch(/Fork 7 stands off the line/);
    done(await capture(7));
    expect(refused(await confirm('empty'))).toMatch(/4 tools in Dunlin: take them all out/);
    for (const place of await placesOf(pool(), dunlin))
      if (place.assembly)
        done(
          await takeOut(as(cell.lead), { placeId: place.id, assemblyId: place.assembly.id, why: 'dry run' }),
        );
    for (const step of ['empty', 'slow', 'fetch', 'labels'] as const) done(await confirm(step));
    expect((await rack()).steps.every((step) => step.done)).toBe(true);
    expect(RACK_STEPS).toHaveLength((await rack()).steps.length);
  });
  it('a fork captured anew must be proved again', async () => {
    done(await capture(5));
    expect((await rack()).steps.filter((step) => !step.done).map((step) => step.name)).toEqual([
      'empty',
      'slow',
      'fetch',
    ]);
    expect(refused(await confirm('backup'))).toMatch(/already confirmed/);
  });
});
