import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import type { NightQuestion } from './night.ts';
import { begunBetween, cutMost, partsBy, whenCut } from './parts-by.ts';

const PROGRAMS = { O1: 600, O2: 1000 } as const;
type Name = keyof typeof PROGRAMS;

describe('what is cut by an instant of the night', () => {
  it('is what counting part by part comes to, over random queues', () => {
    const { next } = chance(5);
    for (let i = 0; i < 60; i += 1) {
      const of: Name[] = Array.from({ length: 1 + Math.floor(4 * next()) }, () =>
        next() < 0.5 ? 'O1' : 'O2',
      );
      let at = 0;
      const ends: { program: Name; at: number }[] = [];
      const steps = of.map((program, pallet) => {
        const from = at;
        for (let part = Math.floor(5 * next()); part >= 0; part -= 1)
          ends.push({ program, at: (at += PROGRAMS[program]) });
        return { pallet, from, to: at, made: 0, stopped: null };
      });
      const when = Math.floor(next() * at * 1.2);
      for (const program of ['O1', 'O2'] as const)
        expect(
          partsBy({ steps }, (pallet) => of[pallet]!, { program, milliseconds: PROGRAMS[program] }, when),
        ).toBe(ends.filter((each) => each.program === program && each.at <= when).length);
      const own = ends.filter(({ program }) => program === 'O1');
      for (let nth = 1; nth <= own.length + 1; nth += 1)
        expect(
          whenCut({ steps }, (pallet) => of[pallet]!, { program: 'O1', milliseconds: PROGRAMS.O1 }, nth),
        ).toBe(own[nth - 1]?.at ?? null);
    }
  });
  it('a tool, or the group that it is in, is asked for the program of which it cuts the most', () => {
    const use = { holes: 1, cutMilliseconds: 1, parts: 1 };
    const pallet = (id: number, program: string, parts: number, more = {}) => ({
      id,
      number: id,
      program,
      parts,
      isolated: false,
      ...more,
    });
    const asked = (pallets: NightQuestion['pallets']): NightQuestion => ({
      pallets,
      programs: [
        { program: 'O1', milliseconds: 1, uses: [{ tool: 3, use }] },
        {
          program: 'O2',
          milliseconds: 1,
          uses: [
            { tool: 3, use },
            { tool: 90, use },
          ],
        },
      ],
      tools: [],
      groups: [
        {
          number: 90,
          rules: { next: 'lowest', renewed: 'spareRuns', spares: true },
          inUse: null,
          members: [{ tool: 7, role: 'original', life: null, flag: null }],
        },
      ],
      school: 'stop',
    });
    expect(cutMost(asked([pallet(1, 'O1', 4), pallet(2, 'O2', 3), pallet(3, 'O2', 3)]), 3)).toBe('O2');
    // what is set aside or cut already is not to be cut
    expect(cutMost(asked([pallet(1, 'O1', 4), pallet(2, 'O2', 9, { isolated: true })]), 3)).toBe('O1');
    expect(cutMost(asked([pallet(1, 'O1', 4), pallet(2, 'O2', 9, { cut: 8 })]), 3)).toBe('O1');
    expect(cutMost(asked([pallet(1, 'O1', 4), pallet(2, 'O2', 1)]), 7)).toBe('O2');
    expect(cutMost(asked([pallet(1, 'O1', 4)]), 5)).toBeNull();
  });
  it('a program is begun with its first pallet, once', () => {
    const steps = ['O1', 'O2', 'O1', 'O2'].map((_, pallet) => ({
      pallet,
      from: 100 * pallet,
      to: 100 * pallet + 100,
      made: 0,
      stopped: null,
    }));
    const programOf = (pallet: number) => ['O1', 'O2', 'O1', 'O2'][pallet]!;
    expect(begunBetween({ steps }, programOf, { from: 50, to: 400 })).toEqual([{ program: 'O2', at: 100 }]);
    expect(begunBetween({ steps }, programOf, { from: 101, to: 400 })).toEqual([]);
    expect(begunBetween({ steps }, programOf, { from: 0, to: 100 })).toEqual([{ program: 'O1', at: 0 }]);
  });
});
