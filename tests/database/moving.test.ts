import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { gaugeLengthFromRegister, referenceOf } from '../../src/core/length/schools.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { movingSheet } from '../../src/server/moving.ts';
import { programById } from '../../src/server/programs.ts';
import { registersOf } from '../../src/server/registers.ts';
import { weirside } from '../support/cell.ts';

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
    const { taken, wears } = await sheet('O2301', 'Egret');
    expect(Object.keys(taken).length).toBeGreaterThan(0);
    const egret = await sheet('O2301', 'Egret');
    for (const tool of Object.keys(taken))
      expect((egret.keyText ?? []).filter((line) => line.includes(`P${tool} `))).toEqual([]);
    expect(wears.length).toBeGreaterThan(0);
    // in the other machine's unit
    expect((keyText ?? ['G20'])[0]).toContain('G20');
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
