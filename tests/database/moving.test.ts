import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { gaugeLengthFromRegister, referenceOf } from '../../src/core/length/schools.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { toolLengths, transferCard, transferLengths } from '../../src/server/lengths.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { movingSheet } from '../../src/server/moving.ts';
import { programById } from '../../src/server/programs.ts';
import { registersOf } from '../../src/server/registers.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const sheet = async (number: string, to: string) => {
  const program = (await programById(pool(), await cell.program(number)))!;
  const machine = async (id: number) => (await machineById(pool(), id))!;
  return movingSheet(
    pool(),
    program,
    await machine(program.machineId),
    await machine(await cell.machine(to)),
  );
};

describe('a job that moves to another machine', () => {
  it('carries the very tool where no other serves, and its gauge length is the same by either school', async () => {
    const { found, carried, lengths, keyText } = await sheet('O2301', 'Bittern');
    expect(found.tools.length).toBeGreaterThan(0);
    expect(carried.length).toBeGreaterThan(0);
    const [avocet, bittern] = await Promise.all(
      ['Avocet', 'Bittern'].map(async (name) => (await machineById(pool(), await cell.machine(name)))!),
    );
    const registers = await registersOf(pool(), avocet!.id);
    for (const line of lengths) {
      expect(carried).toContain(line.tool);
      const held = registers.find(({ row, kind }) => row === line.tool && kind === 'lengthGeometry')!;
      const here = gaugeLengthFromRegister(held.value, referenceOf(avocet!));
      const there = gaugeLengthFromRegister(line.after, referenceOf(bittern!));
      expect(Math.abs(here - there)).toBeLessThanOrEqual(bittern!.increment / 2);
      // what another tool stands under is not written over
      const text = (keyText ?? []).filter((each) => each.includes(`P${line.tool} `)).join('\n');
      if (line.takenBy !== null || line.blocked !== null) expect(text).not.toContain('L10');
    }
    // nor anything of a row whose T is another tool's there
    const { taken, wears } = await sheet('O2301', 'Bittern');
    expect(Object.keys(taken).length).toBeGreaterThan(0);
    for (const tool of Object.keys(taken))
      expect((keyText ?? []).filter((line) => line.includes(`P${tool} `))).toEqual([]);
    expect(wears.length).toBeGreaterThan(0);
    // in the other machine's unit
    expect((keyText ?? ['G20'])[0]).toContain('G20');
  });

  it('leaves at home what the spindle there does not take: nothing of its length is keyed', async () => {
    const { carried, stay, lengths, keyText } = await sheet('O2301', 'Egret');
    expect(carried).toEqual([]);
    expect(stay[1]).toEqual({ number: 'A-101', why: 'its end is steep 40, it takes hollow 63' });
    expect(lengths).toEqual([]);
    expect((keyText ?? []).filter((line) => line.includes('L10'))).toEqual([]);
    // nor is it on the card of the two machines
    const [avocet, egret] = await Promise.all(
      ['Avocet', 'Egret'].map(async (name) => (await machineById(pool(), await cell.machine(name)))!),
    );
    const card = await transferCard(pool(), avocet!, egret!);
    expect(card.every(({ blocked }) => blocked !== null)).toBe(true);
  });

  it('carries no length that is not known to be the tool’s, and says what the changer there does not take', async () => {
    const [avocet, bittern] = await Promise.all(
      ['Avocet', 'Bittern'].map(async (name) => (await machineById(pool(), await cell.machine(name)))!),
    );
    const five = async () =>
      (await transferCard(pool(), avocet!, { ...bittern!, longest: lengthOf(100, 'mm') })).find(
        ({ tool }) => tool === 5,
      )!;
    expect(await five()).toMatchObject({
      blocked: null,
      caution: expect.stringMatching(/The changer of Bittern must not take A-105: its length/) as string,
    });
    const place = (await placesOf(pool(), avocet!.id)).find(({ tool }) => tool === 5)!;
    done(await takeOut(as(cell.setter), { placeId: place.id, assemblyId: place.assembly!.id, why: 'worn' }));
    const placing = { placeId: place.id, assemblyId: await cell.assembly('A-142'), tool: 5 };
    done(await placeTool(as(cell.setter), { ...placing, knob: avocet!.knob }));
    // nor is it shown as the tool's
    expect((await toolLengths(pool(), avocet!)).find(({ tool }) => tool === 5)).toMatchObject({
      number: 'A-142',
      own: false,
    });
    const line = await five();
    expect(line).toMatchObject({
      number: 'A-142',
      blocked: expect.stringMatching(/T5 has not been measured on Avocet/) as string,
    });
    const read = [{ tool: 5, before: line.before, shown: line.after }];
    expect(refused(await transferLengths(as(cell.setter), avocet!.id, bittern!.id, read))).toMatch(
      /Measure it first/,
    );
  });

  it('says of a row with months of edges how much of its wear is the machine’s', async () => {
    const { wears } = await sheet('O6105', 'Egret');
    expect(wears).toHaveLength(1);
    const [seat] = wears;
    expect(seat).toMatchObject({ size: 'Seat height', row: 20, kind: 'lengthWear' });
    expect(seat!.home.edges).toBeGreaterThanOrEqual(3);
    expect(seat!.home.verdict).not.toBe('cannotTell');
    // nothing was ever measured of it at Egret
    expect(seat!.away).toMatchObject({ verdict: 'cannotTell', edges: 0 });
    const step = (await machineById(pool(), await cell.machine('Egret')))!.increment;
    expect(Math.abs(seat!.there % step)).toBe(0);
  });

  it('does not go from a mill to a lathe', async () => {
    const { found, carried, lengths } = await sheet('O2301', 'Curlew');
    expect(found.verdict).toBe('not');
    expect([carried, lengths]).toEqual([[], []]);
  });
});
