import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { differingControls, differingElsewhere } from '../../src/server/control-differing.ts';
import { answerLook } from '../../src/server/control-looks.ts';
import { bringRead, lastEntry } from '../../src/server/control-roads.ts';
import {
  clearRow,
  openCorrections,
  strayCorrections,
  type Correction,
} from '../../src/server/corrections.ts';
import { refuse } from '../../src/server/decided-corrections.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { takeOut, toolsStanding } from '../../src/server/places.ts';
import { bringPockets } from '../../src/server/pocket-looks.ts';
import { programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { registerNamed } from '../../src/server/registers.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let avocet: Machine;
beforeEach(async () => {
  cell = await weirside();
  avocet = (await machineById(pool(), await cell.machine('Avocet')))!;
});
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
const length = (row: number) => cell.register('Avocet', row, 'lengthGeometry');
/** Rows are read off the screen one by one: what each showed, by how much it is off the record. */
const read = async (off: Readonly<Record<number, number>>) => {
  const since = await lastEntry(pool());
  const shown: Record<number, string> = {};
  for (const [row, by] of Object.entries(off)) {
    const { id, value } = await length(Number(row));
    shown[id] = ((value + mm(by)) / 1e6).toFixed(3);
  }
  return done(await bringRead(as(cell.operator), { machineId: avocet.id, read: shown, since })).id;
};
const differing = async () =>
  (await differingControls(pool(), avocet.id)).map((each) => each.differing)[0] ?? 0;
/** O2301 runs on Avocet, and calls T1 and T2 with the rows of their own. */
const told = async () =>
  (await readinessOf(pool(), (await programById(pool(), await cell.program('O2301')))!, 5, []))
    .filter(({ code }) => code === 'controlDiffers')
    .map(({ weight, tool }) => `${weight} T${tool}`);
const answer = async (look: number, row: number, which: 'control' | 'record' | 'open') =>
  answerLook(as(cell.lead), {
    machineId: avocet.id,
    lookId: look,
    registers: [(await length(row)).id],
    answer: which,
    why: 'looked at it',
  });

describe('what a control was seen to hold', () => {
  it('differs until that register is read again, whatever else is read meanwhile', async () => {
    const first = await read({ 1: 0.5, 2: 0.012, 5: 0 });
    expect(await differing()).toBe(2);
    const second = await read({ 5: 0 });
    expect(await differing()).toBe(2);
    expect(await differingElsewhere(pool(), avocet.id, second)).toMatchObject([
      { look: first, differing: 2 },
    ]);
    expect(await differingElsewhere(pool(), avocet.id, first)).toEqual([]);
    await read({ 1: 0 });
    expect(await differing()).toBe(1);
    // the older look no longer says what it holds
    expect(refused(await answer(first, 1, 'control'))).toMatch(/differ any more|read off again/);
    await read({ 1: 0.25 });
    expect(refused(await answer(first, 1, 'control'))).toMatch(/row 1 was read off again since this look/);
    const was = (await length(2)).value;
    done(await answer(first, 2, 'control'));
    expect((await length(2)).value).toBe(was + mm(0.012));
    expect(await differing()).toBe(1);
  });

  it('is not ready for a program that calls the row, whatever was said of it, until it is read and agrees', async () => {
    expect(await told()).toEqual([]);
    const look = await read({ 1: 0.5, 2: 0.012 });
    // far off it stops; a little off, whether the length is right cannot be told
    expect(await told()).toEqual(['stop T1', 'unknown T2']);
    done(await answer(look, 1, 'record'));
    done(await answer(look, 2, 'open'));
    expect(await differing()).toBe(1);
    expect(await told()).toEqual(['stop T1', 'unknown T2']);
    await read({ 2: 0 });
    expect(await told()).toEqual(['stop T1']);
    await read({ 1: 0 });
    expect(await told()).toEqual([]);
  });
});

describe('corrections of a row that a program calls', () => {
  /** What readiness says of the row of a correction, for the program that it came from. */
  const said = async ({ programId, row, tool }: Correction) =>
    (await readinessOf(pool(), (await programById(pool(), programId))!, 5, []))
      .filter((each) => each.code === 'correctionLeft' && each.tool === tool)
      .flatMap(({ weight, sentence }) =>
        sentence.includes(` of row ${row},`) ? [`${weight}: ${sentence}`] : [],
      );

  it('are looked at until they are keyed or refused', async () => {
    const open = await openCorrections(pool());
    expect(open.length).toBeGreaterThan(1);
    for (const each of open) {
      const words = each.state === 'approved' ? 'waits to be keyed' : 'waits for approval';
      expect(await said(each)).toContainEqual(expect.stringMatching(new RegExp(`^look: .*${words}`)));
      done(await refuse(as(cell.lead), each.id, 'for the test'));
      expect((await said(each)).filter((words) => words.includes('waits'))).toEqual([]);
    }
  });

  it('that did not do what was asked are looked at until the row is read off', async () => {
    const stray = await strayCorrections(pool(), new Date(0));
    expect(stray.length).toBeGreaterThan(0);
    const [last] = stray;
    // it was read off with a table as well, and differed there
    const { id, unit } = (await registerNamed(pool(), last!.registerId))!;
    const off = last!.present + lengthOf(unit === 'mm' ? 0.02 : 0.0008, unit);
    const read = { [id]: (off / (unit === 'mm' ? 1e6 : 25.4e6)).toFixed(4) };
    const since = await lastEntry(pool());
    const before = (await differingControls(pool(), last!.machineId))[0]?.differing ?? 0;
    done(await bringRead(as(cell.setter), { machineId: last!.machineId, read, since }));
    const differ = async () => (await differingControls(pool(), last!.machineId))[0]?.differing ?? 0;
    expect(await differ()).toBe(before + 1);
    expect(await said(last!)).toContainEqual(expect.stringMatching(/^look: The last correction of /));
    done(await clearRow(as(cell.setter), last!.id, last!.present));
    expect((await said(last!)).filter((words) => words.includes('last correction'))).toEqual([]);
    expect(await differ()).toBe(before);
    // nor does the leaf go on about it
    expect((await strayCorrections(pool(), new Date(0))).map(({ id: each }) => each)).not.toContain(last!.id);
  });
});

describe('pockets that the control has otherwise', () => {
  it('leave it open which tool a program gets, until something of the magazine is recorded', async () => {
    const standing = await toolsStanding(pool(), avocet.id);
    const [one, two] = [1, 2].map((tool) => standing.find((each) => each.tool === tool)!);
    const table = standing
      .filter(({ kind }) => kind === 'pocket')
      .map(({ number, tool }) => `${number} ${tool === 1 ? 2 : tool === 2 ? 1 : tool}`)
      .join('\n');
    const found = async () =>
      (await readinessOf(pool(), (await programById(pool(), await cell.program('O2301')))!, 5, [])).filter(
        ({ code }) => code === 'whereItStands',
      );
    expect(await found()).toEqual([]);
    done(await bringPockets(as(cell.setter), { machineId: avocet.id, fileName: 'pockets', text: table }));
    expect(await found()).toMatchObject([
      {
        weight: 'unknown',
        sentence: expect.stringMatching(
          /where T1, T2 stand\. T1 and T2 have changed places\. Look into/,
        ) as string,
      },
    ]);
    // somebody looked, and took it out
    const placeId = await cell.place('Avocet', two!.number);
    const assemblyId = two!.assembly.id;
    done(await takeOut(as(cell.setter), { placeId, assemblyId, why: 'looked into the pocket' }));
    expect(await found()).toEqual([]);
    expect(one!.assembly.id).not.toBe(assemblyId);
  });
});
