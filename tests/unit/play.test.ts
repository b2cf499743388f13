import { describe, expect, it } from 'vitest';
import { slipBetween } from '../../src/core/correction/slips.ts';
import { nanometres, type Length } from '../../src/core/units/length.ts';
import { chance } from '../../sim/play/chance.ts';
import { HandCrew } from '../../sim/play/hand-crew.ts';
import type { PlantMachine } from '../../sim/play/plant.ts';
import { run } from '../../sim/play/run.ts';
import { KEYING, keyed, slipAt, swapped } from '../../sim/play/slips.ts';
import { emptyTally, settle, total } from '../../sim/play/tally.ts';
import { Machine } from '../../sim/play/world.ts';

const mm = (value: number) => nanometres(Math.round(value * 1e6));
const LIFE = 60;

/** A mill with one face that the length of T1 moves, and one width that the radius of T2 moves twice. */
const mill = (over: Partial<PlantMachine> = {}): PlantMachine => ({
  id: 1,
  name: 'Test mill',
  unit: 'mm',
  increment: mm(0.001),
  dialect: {} as PlantMachine['dialect'],
  job: { id: 1, programId: 1, number: 'O1', made: 0, quantity: 1000, cycle: 600_000, parts: 1 },
  calls: [
    { tool: 1, share: 0.5 },
    { tool: 2, share: 0.5 },
  ],
  registers: [
    { id: 1, row: 1, kind: 'lengthWear', value: mm(0) },
    { id: 2, row: 2, kind: 'cutterWear', value: mm(0.02) },
    { id: 3, row: 2, kind: 'lengthWear', value: mm(0) },
  ],
  sizes: [
    {
      id: 1,
      name: 'Height',
      gauge: 'height gauge',
      tool: 1,
      target: mm(20),
      lower: mm(-0.02),
      upper: mm(0.02),
      every: 4,
      moves: [{ register: 1, tool: 1, by: 1 }],
      off: mm(0.004),
    },
    {
      id: 2,
      name: 'Width',
      gauge: 'micrometer',
      tool: 2,
      target: mm(40),
      lower: mm(-0.02),
      upper: mm(0.02),
      every: 4,
      moves: [{ register: 2, tool: 2, by: 2 }],
      off: mm(0),
    },
  ],
  tools: [
    { tool: 1, assemblyId: 1, number: 'A-1', life: LIFE, left: LIFE, flag: null },
    { tool: 2, assemblyId: 2, number: 'A-2', life: LIFE, left: LIFE, flag: null },
  ],
  ...over,
});

const average = (machine: Machine, parts: number, size: number) => {
  const made = Array.from({ length: parts }, () => machine.cycle(0)).flat();
  return made.reduce((sum, part) => sum + part.off.get(size)!, 0) / made.length;
};

describe('slips', () => {
  it('are the ones that reading back knows by name', () => {
    const meant = mm(0.027);
    const between = (slip: Parameters<typeof keyed>[0], from: Length) =>
      slipBetween(nanometres(keyed(slip, from, meant, 'mm', 3)!), meant, 'mm', 3);
    expect(between('signTurned', mm(0))).toBe('sign');
    expect(between('decimalPoint', mm(0.01))).toBe('decimalPoint');
    expect(between('digitsSwapped', mm(0.01))).toBe('digitsSwapped');
    expect(keyed('keyedTwice', mm(0.01), meant, 'mm', 3)).toBe(mm(0.044));
    expect(keyed('neighbourRow', mm(0.01), meant, 'mm', 3)).toBeNull();
  });
  it('swap two digits that differ, and leave alone what has none', () => {
    expect(swapped(mm(36.004), 'mm', 3)).toBe(mm(36.04));
    expect(swapped(mm(-0.012), 'mm', 3)).toBe(mm(-0.021));
    expect(swapped(mm(1.111), 'mm', 3)).toBe(mm(1.111));
  });
  it('come at the rates that are told', () => {
    const luck = chance('rates');
    const made = Array.from({ length: 20_000 }, () => slipAt(luck)).filter((slip) => slip !== null);
    const rate = Object.values(KEYING).reduce((sum, each) => sum + each, 0);
    // five sigmas of a count of so many
    expect(Math.abs(made.length - 20_000 * rate)).toBeLessThan(5 * Math.sqrt(20_000 * rate));
  });
});

describe('the metal', () => {
  it('begins where its sizes were last measured, and answers a row by what it moves', () => {
    const ends = [0, mm(0.01)].map((more) => {
      const offs = Array.from({ length: 40 }, (_, seed) => {
        const machine = new Machine(mill(), seed);
        machine.control.set(2, mm(0.02) + more);
        return [average(machine, 2, 1), average(machine, 2, 2)] as const;
      });
      return [0, 1].map((i) => offs.reduce((sum, each) => sum + each[i]!, 0) / offs.length);
    });
    // the mean of eighty parts, of a sigma of 4.4 µm
    expect(Math.abs(ends[0]![0]! - mm(0.004))).toBeLessThan(mm(0.0025));
    // the very same parts: what differs is the row alone
    expect(Math.round(ends[1]![1]! - ends[0]![1]!)).toBe(mm(0.02));
    expect(Math.round(ends[1]![0]! - ends[0]![0]!)).toBe(0);
  });
  it('wears, so that a size grows with the parts of its edge', () => {
    const grown = Array.from({ length: 30 }, (_, seed) => {
      const machine = new Machine(mill(), seed);
      return average(machine, 5, 1) - average(machine, 45, 1);
    });
    expect(grown.filter((each) => each < 0).length).toBeGreaterThan(27);
  });
  it('cuts too deep or too high by the wear that somebody left in a row for a fresh edge', () => {
    const off = (left: boolean) => {
      const machine = new Machine(mill(), 3);
      machine.control.set(1, mm(-0.05));
      machine.renew(1);
      if (!left) machine.control.set(1, 0);
      return average(machine, 3, 1);
    };
    expect(Math.round(off(true) - off(false))).toBe(mm(-0.05));
  });
  it('breaks in time when nobody changes its edge, and then every part is bad', () => {
    const machine = new Machine(mill(), 5);
    for (let i = 0; i < LIFE * 5; i += 1) machine.cycle(0);
    expect(machine.isBroken(1)).toBe(true);
    expect(machine.cycle(0)[0]!.bad).toContain(1);
    machine.renew(1);
    expect(machine.isBroken(1)).toBe(false);
    expect(machine.cycle(0)[0]!.past).not.toContain(1);
  });
  it('is the same for every crew: the same edges, the same scatter', () => {
    const one = new Machine(mill(), 8);
    const other = new Machine(mill(), 8);
    one.cycle(0);
    other.cycle(5);
    expect([...one.parts[0]!.off]).toEqual([...other.parts[0]!.off]);
    expect([...new Machine(mill(), 9).cycle(0)[0]!.off]).not.toEqual([...one.parts[0]!.off]);
  });
});

describe('a crew by hand', () => {
  const played = async (seed: number) => {
    const machines = [new Machine(mill(), seed)];
    const crew = new HandCrew(seed, emptyTally(seed, 'by hand'));
    await run({ machines, crew, seed, from: 0, to: 8 * 3_600_000, until: async () => {} });
    return { tally: settle(crew.tally, machines, crew.aside), machine: machines[0]!, crew };
  };
  it('plays the same story from the same seed, and its sums add up', async () => {
    const [one, again] = [await played(4), await played(4)];
    expect(one.tally).toEqual(again.tally);
    const { parts, bad, caught, missed, slips, slipsFound } = one.tally;
    expect(parts).toBe(one.machine.parts.length);
    // eight hours of ten minutes and the loading, less what it stood
    expect(parts).toBeGreaterThan(30);
    expect(parts).toBeLessThan(46);
    expect(bad).toBe(one.machine.parts.filter((part) => part.bad.length > 0).length);
    expect(caught + missed).toBe(bad);
    expect(slipsFound).toBeLessThanOrEqual(slips);
  });
  it('leaves a machine alone that somebody else has taken, and begins a cycle of its own when it is given back', async () => {
    const machine = new Machine(mill(), 1);
    const crew = new HandCrew(1, emptyTally(1, 'by hand'));
    let now = 0;
    const begun: number[] = [];
    await run({
      machines: [machine],
      crew,
      seed: 1,
      from: 0,
      to: 3 * 3_600_000,
      until: async (at) => void (now = at),
      taken: () => now > 1_800_000 && now < 7_200_000,
      began: (_, at) => void begun.push(at),
    });
    expect(machine.parts.every(({ at }) => at <= 1_800_000 || at >= 7_200_000)).toBe(true);
    expect(begun.some((at) => at >= 7_200_000 && at < 7_200_000 + 2 * 60_000)).toBe(true);
    expect(machine.parts.length).toBeGreaterThan(5);
  });
  it('is added up over several shifts', async () => {
    const tallies = [(await played(1)).tally, (await played(2)).tally];
    expect(total(tallies).parts).toBe(tallies[0]!.parts + tallies[1]!.parts);
  });
});
