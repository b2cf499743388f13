import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import {
  likelyMade,
  likelyWords,
  sinceTold,
  toldWords,
  wholeParts,
  type Known,
  type Told,
} from './likely-made.ts';
import { runOuts } from './run-out.ts';
import { workedBetween } from './working-time.ts';

const at = (hour: number, minute = 0) => new Date(Date.UTC(2026, 2, 3, hour, minute));
const MINUTE = 60_000;
const stretches = [
  { start: at(6), end: at(14) },
  { start: at(15), end: at(22) },
  { start: at(30), end: at(38) },
];
const told = (parts: number, when: Date, by: Told['by'] = 'record'): Told => ({ parts, at: when, by });
const known = (more: Partial<Known>): Known => ({
  record: told(20, at(8)),
  reading: null,
  control: null,
  standsSince: null,
  ...more,
});
const pace = { quantity: 100, cycleMilliseconds: 6 * MINUTE };
const parts = (more: Partial<Known>, now = at(10)) => likelyMade(known(more), pace, now, stretches);

describe('parts made by now', () => {
  it('goes on from the last count at the cycle, in working time, as far as the order', () => {
    expect(parts({}).parts).toBe(40);
    expect(parts({}, at(8)).parts).toBe(20);
    expect(parts({}, at(8, 3)).parts).toBe(20.5);
    // an hour of the day nobody works
    expect(parts({ record: told(20, at(13)) }, at(16)).parts).toBe(40);
    expect(parts({}, at(21, 59)).parts).toBe(100);
    expect(parts({ record: told(103, at(8)) }, at(12)).parts).toBe(103);
  });
  it('a clock that was set back takes nothing away', () => {
    expect(parts({}, at(7)).parts).toBe(20);
  });
  it('a part that was measured was cut', () => {
    const measured = told(33, at(9), 'reading');
    expect(parts({ reading: measured })).toEqual({ parts: 43, from: measured, counting: false });
    expect(parts({ reading: told(25, at(9), 'reading') })).toMatchObject({
      parts: 40,
      from: { by: 'record' },
    });
  });
  const counted = (n: number, when: Date, heard = false) => ({ ...told(n, when, 'control'), heard });
  it('a control that counted says it, unless it is behind the record', () => {
    expect(parts({ control: counted(24, at(9, 57)) })).toEqual({
      parts: 24.5,
      from: told(24, at(9, 57), 'control'),
      counting: false,
    });
    expect(parts({ control: counted(19, at(9, 59), true) }).parts).toBe(40);
    expect(parts({ control: counted(20, at(9)) }).parts).toBe(30);
    expect(parts({ control: counted(20, at(7)) }).parts).toBe(40);
    // it had counted four more an hour before somebody wrote down twenty
    expect(parts({ control: counted(24, at(7)) }).parts).toBe(54);
    expect(parts({ control: counted(24, at(9)), reading: told(33, at(9), 'reading') }).parts).toBe(43);
  });
  it('one that is heard has counted no more: only the part in the machine is not told of', () => {
    const heard = (when: Date) => parts({ control: counted(20, when, true) });
    expect(heard(at(9, 57)).parts).toBe(20.5);
    expect(heard(at(9))).toMatchObject({ parts: 21 - 1e-6, counting: true });
    expect(heard(at(7)).parts).toBe(21 - 1e-6);
    const bar = likelyMade(
      known({ control: counted(20, at(9), true) }),
      { ...pace, partsPerCycle: 2 },
      at(10),
      stretches,
    );
    expect(bar.parts).toBe(22 - 1e-6);
  });
  it('a machine that stands makes none from then on', () => {
    expect(parts({ standsSince: at(8, 30) }).parts).toBe(25);
    expect(parts({ standsSince: at(7) }).parts).toBe(20);
    expect(parts({ standsSince: at(11) }).parts).toBe(40);
  });
});

it.each([
  [told(20, at(8)), '20 counted at 09:00'],
  [told(0, at(8)), 'none counted since 09:00'],
  [told(31, at(8), 'reading'), 'part 31 measured at 09:00'],
  [told(31, at(8), 'control'), '31 by the control at 09:00'],
])('says what it is reckoned from: %j', (from, words) => {
  expect(toldWords(from, at(10), 'Europe/Vienna')).toBe(words);
});

it('says how many are made by now', () => {
  const said = (n: number, from: Told, counting = false) => {
    const likely = { parts: n, from, counting };
    return [likelyWords(likely), wholeParts(likely), sinceTold(likely)];
  };
  // the second of two on a bar is not off before both are
  expect(said(32.9, told(31, at(8), 'control'), true)).toEqual(['31 by the control', 31, 0]);
  expect(said(33.4, told(31, at(8), 'control'))).toEqual(['about 33 by now', 33, 2]);
  expect(said(31.9, told(31, at(8)))).toEqual(['about 31 by now', 31, 0]);
});

/** A machine that is truly played: it cuts, stands now and then, and somebody counts when there is time to. */
function played(seed: number, stops: boolean) {
  const { next } = chance(seed);
  const cycle = (1 + Math.floor(next() * 30)) * MINUTE;
  const quantity = 20 + Math.floor(next() * 60);
  const lasts = 1 + Math.floor(next() * (quantity - 2));
  const ends: number[] = [];
  let time = at(6).getTime();
  while (ends.length < quantity && time < at(22).getTime()) {
    const stood = stops && next() < 0.2 ? Math.floor(next() * 40) * MINUTE : 0;
    let left = cycle + stood;
    while (left > 0 && time < at(22).getTime()) {
      const minute = new Date(time);
      if (workedBetween(minute, new Date(time + MINUTE), stretches) > 0) left -= MINUTE;
      time += MINUTE;
    }
    if (left <= 0) ends.push(time);
  }
  return { next, cycle, quantity, lasts, ends };
}

describe('when a tool runs out, held against what a machine did (simulated, hidden truth)', () => {
  it.each([
    ['without a stop it is told to within a cycle, whenever somebody looks', false],
    ['with stops it never comes as a surprise: no later than it does', true],
  ])('%s', (_, stops) => {
    let looked = 0;
    for (let seed = 1; seed <= 400; seed += 1) {
      const { next, cycle, quantity, lasts, ends } = played(seed, stops);
      const truly = ends[lasts - 1];
      if (truly === undefined) continue;
      const counted = at(6).getTime() + Math.floor(next() * (truly - at(6).getTime()));
      const now = counted + Math.floor(next() * (truly - counted));
      const made = ends.filter((end) => end <= counted).length;
      const likely = likelyMade(
        known({ record: told(made, new Date(counted)) }),
        { quantity, cycleMilliseconds: cycle },
        new Date(now),
        stretches,
      );
      const job = {
        machine: 'Avocet',
        partsToGo: quantity - made,
        unrecorded: likely.parts - made,
        cycleMilliseconds: cycle,
        tools: [
          {
            tool: 1,
            remaining: lasts - made,
            basis: 'pieces' as const,
            use: { holes: 0, cutMilliseconds: 0, parts: 1 },
          },
        ],
      };
      const [out] = runOuts(job, new Date(now), stretches);
      const off = workedBetween(new Date(truly), out!.at!, stretches);
      const early = workedBetween(out!.at!, new Date(truly), stretches);
      // what was done of the part that was in the machine at the count nobody knows: less than one
      expect(off, `seed ${seed}`).toBeLessThan(cycle);
      if (!stops) expect(early, `seed ${seed}`).toBe(0);
      looked += 1;
    }
    expect(looked).toBeGreaterThan(250);
  });
});
