import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { tryNet } from '../../src/core/safety-net/try-net.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { placesOf } from '../../src/server/places.ts';
import { measureTool, registersOf } from '../../src/server/registers.ts';
import { keepNet, netCalls, netOf, netTools, sinceNet } from '../../src/server/safety-net.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const machine = async (name: string) => (await machineById(pool(), await cell.machine(name)))!;
const mm = (value: number) => lengthOf(value, 'mm');

describe('the check of lengths that the control is handed', () => {
  it('is written from what stands in the machine, and stops what its rows do not show', async () => {
    const avocet = await machine('Avocet');
    const net = avocet.dialect.net!;
    done(await keepNet(as(cell.setter), avocet, mm(0.2)));
    const kept = (await netOf(pool(), avocet.id))!;
    const standing = (await placesOf(pool(), avocet.id)).flatMap(({ tool }) => tool ?? []);
    expect(kept.tools.map(({ tool }) => tool)).toEqual([...standing].sort((a, b) => a - b));
    const registers = (await registersOf(pool(), avocet.id)).filter(({ kind }) => kind === 'lengthGeometry');
    const said = (shown: number, wrong = registers) =>
      tryNet(kept.text.split('\n'), { ...avocet.dialect, net }, { shown, registers: wrong, unit: 'mm' });
    const five = kept.tools.find(({ tool }) => tool === 5)!;
    expect([five.flag, five.measured]).toEqual([null, true]);
    expect(said(5)).toBeNull();
    const zero = registers.map((each) => (each.row === 5 ? { ...each, value: mm(0) } : each));
    expect(said(5, zero)).toBe('T5 LENGTH NOT SET');
    expect(said(29)).toBe('T IS NOT ON THIS LIST');
    const entry = await row<{ said: string }>(
      pool(),
      `SELECT said FROM ledger WHERE kind = 'machine' AND stage = 'safetyNet' ORDER BY id DESC LIMIT 1`,
    );
    expect(entry!.said).toMatch(
      /^The check of lengths on Avocet was written for \d+ tools, within 0.200 mm.$/,
    );
  });

  it('says what of it is no longer so once a tool was measured anew', async () => {
    const avocet = await machine('Avocet');
    done(await keepNet(as(cell.setter), avocet, mm(0.2)));
    const kept = (await netOf(pool(), avocet.id))!;
    const since = async () => sinceNet(avocet, kept, await netTools(pool(), avocet));
    expect(await since()).toEqual([]);
    const five = (await placesOf(pool(), avocet.id)).find(({ tool }) => tool === 5)!;
    const before = kept.tools.find(({ tool }) => tool === 5)!.lengths[0]!.value;
    done(
      await measureTool(as(cell.setter), {
        machineId: avocet.id,
        assemblyId: five.assembly!.id,
        row: 5,
        values: [{ kind: 'lengthGeometry', value: (before + mm(1)) as typeof before, before }],
        gaugeLength: null,
        how: 'on the plate',
        method: 'presetter',
      }),
    );
    expect(await since()).toEqual([expect.stringMatching(/^T5 is .* now, and .* in it: it is stopped\.$/)]);
    done(await keepNet(as(cell.setter), avocet, mm(0.2)));
    expect(sinceNet(avocet, (await netOf(pool(), avocet.id))!, await netTools(pool(), avocet))).toEqual([]);
  });

  it('is not written for a machine whose profile does not say how', async () => {
    expect(refused(await keepNet(as(cell.setter), await machine('Fulmar'), mm(0.2)))).toMatch(
      /profile of Fulmar does not say/,
    );
  });

  it('finds the changes that no call follows in time, and each row of a turret', async () => {
    const avocet = await machine('Avocet');
    const calls = await netCalls(pool(), avocet.id, avocet.dialect.net!);
    expect(calls.find(({ number }) => number === 'O2205')!.without.map(({ tool }) => tool)).toEqual([10]);
    const curlew = await machine('Curlew');
    done(await keepNet(as(cell.setter), curlew, lengthOf(0.008, 'in')));
    const kept = (await netOf(pool(), curlew.id))!;
    expect(kept.tools.every(({ lengths }) => lengths.length === 2)).toBe(true);
    expect(kept.text).toMatch(/ X LENGTH NOT SET/);
  });

  it('of a turret lets by each row that a program calls a station with, as it is on record', async () => {
    const curlew = await machine('Curlew');
    const net = curlew.dialect.net!;
    done(await keepNet(as(cell.setter), curlew, lengthOf(0.008, 'in')));
    const kept = (await netOf(pool(), curlew.id))!;
    const registers = await registersOf(pool(), curlew.id);
    const said = (shown: number, held = registers) =>
      tryNet(kept.text.split('\n'), { ...curlew.dialect, net }, { shown, registers: held, unit: 'in' });
    // the second part on the bar has rows of its own (H8)
    const second = kept.tools.find(({ tool, row }) => tool === 2 && row === 22)!;
    expect(second.flag).toBeNull();
    expect(second.lengths.every(({ value }) => value !== 0)).toBe(true);
    expect(said(222)).toBeNull();
    const off = (row: number) =>
      registers.map((each) =>
        each.row === row && each.kind === 'zGeometry'
          ? { ...each, value: (each.value + mm(1)) as typeof each.value }
          : each,
      );
    expect(said(222, off(22))).toBe('T0222 Z NOT AS ON RECORD');
    expect(said(222, off(2))).toBeNull();
    // a row that is another station's own stays what nobody should call
    expect(said(203)).toBe('T IS NOT ON THIS LIST');
  });
});
