import { describe, expect, it } from 'vitest';
import { judgedSize } from '../../../tests/support/judged.ts';
import { chance } from '../../../tests/support/chance.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import type { JudgedReading, JudgeQuestion } from './judge-question.ts';
import { judge } from './judge.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const SEAT = judgedSize({ upper: mm(0.03), lower: mm(-0.03) });
function questionOf(deviations: readonly number[]): JudgeQuestion {
  return {
    unit: 'mm',
    increment: nanometres(1000),
    limit: mm(0.3),
    sizes: [SEAT],
    registers: [{ row: 2, role: 'xWear', value: nanometres(0), locked: null }],
    readings: deviations.map((deviation, at): JudgedReading => ({
      size: 0,
      at,
      measured: nanometres(SEAT.target + Math.round(deviation)),
      held: [0],
    })),
    edges: [],
    setUps: [],
    taken: deviations.length - 1,
    firstOff: false,
    confirmed: true,
    every: 1,
    next: deviations.length,
  };
}
const ask = (deviations: readonly number[], over: Partial<JudgeQuestion> = {}) =>
  judge({ ...questionOf(deviations), ...over });

describe('a correction that was approved and waits to be keyed, against a hidden truth', () => {
  // where the edge stands, and whether somebody keyed the correction without saying so, is known to nobody
  const { next, normal } = chance(20_261_129);
  const NOISE = 4000;
  const told = { keep: [] as number[], hold: [] as number[] };
  const clear = { asked: 0, of: 0 };
  const silent = { found: 0, of: 0 };
  for (let round = 0; round < 600; round += 1) {
    const stands = normal() * 10_000;
    const readings = Array.from({ length: 1 + Math.floor(next() * 3) }, () => stands + NOISE * normal());
    const first = ask(readings);
    if (first.verdict !== 'change') continue;
    const { change } = first.rows[0]!;
    const keyed = round % 3 === 0;
    let said = null;
    for (let part = 0; part < 4; part += 1) {
      readings.push(stands + (keyed ? change : 0) + NOISE * normal());
      said = ask(readings, { approved: [change] }).approved!;
      const harm = ((stands + change) ** 2 - stands ** 2) / NOISE ** 2;
      if (!keyed) told[said.worth ? 'keep' : 'hold'].push(harm);
      if (!keyed && Math.abs(stands) > 2 * NOISE && Math.abs(stands + change) < Math.abs(stands) / 3) {
        clear.of += 1;
        if (!said.worth) clear.asked += 1;
      }
    }
    if (keyed && Math.abs(change) > 2 * NOISE) {
      silent.of += 1;
      if (!said!.worth) silent.found += 1;
    }
  }
  const mean = (all: readonly number[]) => all.reduce((sum, each) => sum + each, 0) / all.length;

  it('is held back where keying it would do harm on average, and keyed where it would do good', () => {
    expect(told.hold.length).toBeGreaterThan(30);
    expect(told.keep.length).toBeGreaterThan(500);
    expect(mean(told.hold)).toBeGreaterThan(0);
    expect(mean(told.keep)).toBeLessThan(-1);
  });
  it('is hardly ever asked about where it is plainly needed', () => {
    expect(clear.of).toBeGreaterThan(300);
    expect(clear.asked / clear.of).toBeLessThan(0.01);
  });
  it('is asked about within four parts where it was keyed and nobody said so', () => {
    expect(silent.of).toBeGreaterThan(60);
    expect(silent.found / silent.of).toBeGreaterThan(0.95);
  });
});

describe('what is said of it', () => {
  const approved = [mm(-0.012)];
  it('reads the row first, and says what it would do, but not what the row should show', () => {
    const { approved: said } = ask([12_000, -1000, 1000], { approved });
    expect(said).toMatchObject({ worth: false });
    expect(said).toHaveProperty('reason', expect.stringMatching(/stands at 38\.00\d.*come to 37\.99\d/));
    expect(said).not.toHaveProperty('reason', expect.stringContaining('0.012'));
  });
  it('stays worth keying while the parts still need it, also where they need a little more or less', () => {
    expect(ask([12_000, 9000, 14_000], { approved }).approved).toEqual({ worth: true });
  });
  it('says nothing where nothing waits, or where the part tells nothing', () => {
    expect(ask([12_000, 0])).not.toHaveProperty('approved');
    expect(ask([12_000, 0], { approved: [0] })).not.toHaveProperty('approved');
    const unknown = judge({
      ...questionOf([12_000, 0]),
      approved,
      readings: [
        { size: 0, at: 0, measured: mm(38.012), held: [0] },
        { size: 0, at: 1, measured: mm(38), held: null },
      ],
    });
    expect(unknown).not.toHaveProperty('approved');
  });
  it('is held against the harm to another size of the same row', () => {
    const shared = { ...SEAT, name: 'Collar', moves: [{ register: 0, by: 1 }] };
    const readings = [12_000, 11_000, 12_000].map((off, at): JudgedReading => ({
      size: 0,
      at,
      measured: nanometres(SEAT.target + off),
      held: [0],
    }));
    const collar = [-20_000, -21_000, -20_000].map((off, at): JudgedReading => ({
      size: 1,
      at,
      measured: nanometres(SEAT.target + off),
      held: [0],
    }));
    const both = [...readings, ...collar].sort((a, b) => a.at - b.at);
    const said = judge({
      ...questionOf([0]),
      sizes: [SEAT, shared],
      readings: both,
      taken: 5,
      next: 3,
      approved,
    });
    expect(said.approved).toHaveProperty('reason', expect.stringContaining('Collar'));
  });
  it('takes a surprising part for one that was cut with it, where it measures so, and asks to read it back', () => {
    const steady = [30_000, 29_000, 31_000, 30_000, 30_500, 29_500];
    const jumped = ask([...steady, 0], { confirmed: false, approved: [mm(-0.03)] });
    expect(jumped.verdict).toBe('measureAgain');
    expect(jumped.reason).toMatch(/had been keyed before it was cut/);
    const other = ask([...steady, 60_000], { confirmed: false, approved: [mm(-0.03)] });
    expect(other.verdict).toBe('measureAgain');
    expect(other.reason).not.toMatch(/had been keyed/);
  });
});
