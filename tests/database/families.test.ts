import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { kindOfFile, takeFile } from '../../src/server/bring-in.ts';
import { familiesOf, familyParted } from '../../src/server/families.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(closePool);

const HEAD =
  'feature,kind,nominal,upper,lower,tool,row,target,policy,dead_band,average_of,operator_limit,gauge,every';
const within = lengthOf(50, 'mm');

async function family() {
  const found = await familiesOf(pool());
  expect(found.map(({ number }) => number)).toEqual(['O7010']);
  return found[0]!;
}
const parted = async () =>
  (await familyParted(pool(), await family(), within)).map(({ of, what, sides, by, since }) => ({
    of,
    what,
    words: sides.map(({ words }) => words),
    by,
    atLeast: since?.atLeast ?? null,
    since: since?.since ?? null,
  }));
const plan = async (line: string) =>
  transaction((db) => {
    const text = `${HEAD}\n${line}\n`;
    return takeFile(db, cell.inspector.id, kindOfFile(text), {
      fileName: 'plan.csv',
      text,
      machineId: null,
      programId: egret,
      partsPerCycle: 1,
    });
  });
let egret: number;

describe('a program that runs on two machines', () => {
  it('is told with what stands under its T, and what one of them was given of its own, since that day', async () => {
    egret = (await family()).machines.find(({ name }) => name === 'Egret')!.programId;
    const all = await parted();
    expect(all.map(({ of, what }) => `${of} ${what}`)).toEqual([
      'T1 tool',
      'T2 tool',
      'Cover width aim',
      'Cover width dead band',
      'Cover width parts between readings',
      'T1 good for',
      'T2 good for',
    ]);
    expect(all[2]).toMatchObject({ words: ['160.000 mm', '159.990 mm'], by: '0.010 mm', atLeast: false });
    const hours = (Date.now() - all[2]!.since!.getTime()) / 3_600_000;
    expect(hours).toBeGreaterThan(6);
    expect(all[5]!.since).toBeNull();
  });

  it('is alike again where the plan is; and parts anew from the day of the next change', async () => {
    const aimOf = (all: Awaited<ReturnType<typeof parted>>) => all.find(({ what }) => what === 'aim');
    await plan(
      'Cover width,outsideWidth,160.000,0.040,-0.040,2,2,160.000,deadBand,0.008,1,0.020,micrometer 150-175,5',
    );
    expect(aimOf(await parted())).toBeUndefined();
    const before = Date.now();
    await plan(
      'Cover width,outsideWidth,160.000,0.040,-0.040,2,2,160.005,deadBand,0.008,1,0.020,micrometer 150-175,5',
    );
    const again = aimOf(await parted())!;
    expect(again.atLeast).toBe(false);
    expect(again.since!.getTime()).toBeGreaterThanOrEqual(before);
  });

  it('has lives of its tools told since their limit was set otherwise', async () => {
    const assemblyId = await cell.assembly('E-501');
    done(
      await setLifeLimit(as(cell.lead), {
        assemblyId,
        basis: 'minutes',
        fullLife: 220 * 60_000,
        left: null,
        why: 'As on Avocet.',
      }),
    );
    expect((await parted()).find(({ of, what }) => of === 'T1' && what === 'good for')).toBeUndefined();
    const before = Date.now();
    done(
      await setLifeLimit(as(cell.lead), {
        assemblyId,
        basis: 'minutes',
        fullLife: 200 * 60_000,
        left: null,
        why: 'It chips.',
      }),
    );
    const life = (await parted()).find(({ of, what }) => of === 'T1' && what === 'good for')!;
    expect(life.words).toEqual(['220.0 minutes', '200.0 minutes']);
    expect(life.atLeast).toBe(false);
    expect(life.since!.getTime()).toBeGreaterThanOrEqual(before);
  });

  it('counts as one only where machines of a kind have it', async () => {
    await cell.asOwner((client) =>
      client.query("UPDATE program SET number = 'O1402' WHERE number = 'O7010' AND machine_id = 5"),
    );
    expect(await familiesOf(pool())).toEqual([]);
  });
});
