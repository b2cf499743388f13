import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { choicesFor, prepare, type PlanQuestion, type PlanTool } from './plan-layout.ts';
import { standing } from './plan-standing.ts';

/** A changer with wide tools and some that are tied, three jobs, and every wish counting. */
function question(seed: number): PlanQuestion {
  const random = chance(seed);
  const places = 12 + Math.floor(random.next() * 12);
  const tools = Array.from({ length: Math.round(places * 0.7) }, (_, i): PlanTool => {
    const locked = random.next() < 0.15 ? i + 1 : null;
    return {
      tool: i + 1,
      now: random.next() < 0.6 ? i + 1 : null,
      radius: 20 + 25 * random.next(),
      mass: 500 + Math.round(4000 * random.next()),
      wide: random.next() < 0.2,
      heavy: random.next() < 0.3,
      locked,
      barred: random.next() < 0.2 ? [places] : [],
      called: random.next() < 0.8,
    };
  });
  return {
    shape: { kind: seed % 3 === 0 ? 'fixedCarousel' : 'randomAccess', places, pitch: 80 },
    times: { arm: 2, perPocket: 0.5, heavyFactor: 1.5, preStaging: seed % 2 === 0 },
    usable: Array.from({ length: places }, (_, i) => i + 1),
    tools,
    runs: [1, 2, 3].map((each) => ({
      name: `O${each}`,
      cycles: each === 1 ? 2 : 40,
      calls: Array.from({ length: 1 + Math.floor(random.next() * 9) }, () => ({
        tool: 1 + Math.floor(random.next() * tools.length),
        cutting: 3 * random.next(),
      })),
    })),
    weights: { hands: 1, time: 3, balance: 1, gaps: 2 },
  };
}

/** Any layout, of tools that may stand as they do or not: each in a pocket it may have, none in another’s. */
function anyLayout(asked: PlanQuestion, random: () => number): number[] {
  const taken = new Set(asked.tools.flatMap(({ locked }) => (locked === null ? [] : [locked])));
  return asked.tools.map((tool) => {
    if (tool.locked !== null) return tool.locked;
    const free = choicesFor(asked, tool).filter((pocket) => pocket === 0 || !taken.has(pocket));
    const pocket = free[Math.floor(random() * free.length)] ?? 0;
    if (pocket > 0) taken.add(pocket);
    return pocket;
  });
}

describe('what a layout costs, kept up to date', () => {
  it.each(Array.from({ length: 18 }, (_, i) => i + 1))(
    'what a change would make of it is what it is when it is counted from nothing, question %i',
    (seed) => {
      const asked = question(seed);
      const prepared = prepare(asked);
      const random = chance(seed + 900);
      const layout = anyLayout(asked, random.next);
      const state = standing(prepared, layout);
      const choices = asked.tools.map((tool) => choicesFor(asked, tool));
      /** A change that there may be. */
      const drawn = () => {
        for (;;) {
          const tool = Math.floor(random.next() * asked.tools.length);
          const to = choices[tool]![Math.floor(random.next() * choices[tool]!.length)]!;
          const from = state.pocketOf[tool]!;
          const other = to === 0 ? -1 : state.toolAt[to]!;
          if (to !== from && (other < 0 || choices[other]!.includes(from))) return { tool, from, to, other };
        }
      };
      let done = 0;
      for (let tried = 0; tried < 150; tried += 1) {
        const { tool, from, to, other } = drawn();
        state.ask(tool, to, other, 1, Infinity);
        const would = { ...state.would };
        const changed = [...state.pocketOf];
        changed[tool] = to;
        if (other >= 0) changed[other] = from;
        const anew = standing(prepared, changed);
        expect(would.cost).toBeCloseTo(anew.cost(), 6);
        expect(would.faults).toBe(anew.faults());
        // half of them are done, some after another was asked
        if (random.next() < 0.5) continue;
        if (random.next() < 0.4) {
          const another = drawn();
          state.ask(another.tool, another.to, another.other, 1, Infinity);
        }
        if (other >= 0) state.swap(tool, other);
        else state.move(tool, to);
        done += 1;
        expect(state.cost()).toBeCloseTo(anew.cost(), 6);
        expect(state.faults()).toBe(anew.faults());
      }
      expect(done).toBeGreaterThan(10);
    },
  );
});
