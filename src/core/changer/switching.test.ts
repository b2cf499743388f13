import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import {
  bestOrder,
  keepNeededSoonest,
  leastSwitches,
  loadings,
  placesTaken,
  sisterOf,
  withSisters,
  type SwitchJob,
  type SwitchRoom,
} from './switching.ts';
import { betterOrder, orderBound, orderCount, type OrderProblem } from './switch-order.ts';

const room = (places: number, over: Partial<SwitchRoom> = {}): SwitchRoom => ({
  places,
  loaded: [],
  locked: [],
  wide: [],
  ...over,
});
const jobs = (...tools: number[][]): SwitchJob[] =>
  tools.map((each, i) => ({ name: String.fromCharCode(65 + i), tools: each }));

/** The fewest switches for an order, by trying every set of tools that could stand there during each job. */
function exhaustively(order: readonly SwitchJob[], places: number, loaded: readonly number[]): number {
  const all = [...new Set([...loaded, ...order.flatMap((job) => job.tools)])];
  const sets = Array.from({ length: 1 << all.length }, (_, bits) => all.filter((_, i) => bits & (1 << i)));
  let costs = new Map<string, { set: number[]; cost: number }>([
    [loaded.join(), { set: [...loaded], cost: 0 }],
  ]);
  for (const { tools } of order) {
    const next = new Map<string, { set: number[]; cost: number }>();
    for (const set of sets) {
      if (set.length > places || !tools.every((tool) => set.includes(tool))) continue;
      let cost = Infinity;
      for (const before of costs.values())
        cost = Math.min(cost, before.cost + set.filter((tool) => !before.set.includes(tool)).length);
      next.set(set.join(), { set, cost });
    }
    costs = next;
  }
  return Math.min(...[...costs.values()].map((each) => each.cost));
}
const small = fc.array(fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 3 }), {
  minLength: 1,
  maxLength: 4,
});

describe(`tools to swap between jobs (${checks.toolSwitches.source})`, () => {
  it(`for a given order the plan ${checks.toolSwitches.rule}`, () => {
    fc.assert(
      fc.property(
        small,
        fc.integer({ min: 3, max: 5 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { maxLength: 3 }),
        (sets, places, loaded) => {
          const answer = keepNeededSoonest(jobs(...sets), room(places, { loaded }));
          expect(answer.ok && answer.plan.switches).toBe(exhaustively(jobs(...sets), places, loaded));
        },
      ),
      { numRuns: 200 },
    );
  });
  it('over all orders of a few jobs there is none with fewer', () => {
    const orders = (left: readonly SwitchJob[]): SwitchJob[][] =>
      left.length === 0
        ? [[]]
        : left.flatMap((job) => orders(left.filter((each) => each !== job)).map((rest) => [job, ...rest]));
    fc.assert(
      fc.property(small, fc.integer({ min: 3, max: 4 }), (sets, places) => {
        const all = jobs(...sets);
        const answer = bestOrder(all, room(places));
        const fewest = Math.min(...orders(all).map((order) => exhaustively(order, places, [])));
        expect(answer).toMatchObject({ ok: true, answer: { proven: true, plan: { switches: fewest } } });
      }),
      { numRuns: 30 },
    );
  });
  it('before every job its tools stand there, never more than there are places, and locked tools stay', () => {
    const many = fc.array(fc.uniqueArray(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 8 }), {
      minLength: 9,
      maxLength: 12,
    });
    fc.assert(
      fc.property(many, (sets) => {
        const all = jobs(...sets);
        const answer = bestOrder(all, room(11, { loaded: [1, 2, 3], locked: [2, 30] }));
        if (!answer.ok) throw new Error(answer.reason);
        const { plan, bound } = answer.answer;
        const standing = new Set([1, 2, 3, 30]);
        for (const step of plan.steps) {
          for (const tool of step.out) expect(standing.delete(tool)).toBe(true);
          for (const tool of step.in) standing.add(tool);
          expect(standing.size).toBeLessThanOrEqual(11);
          for (const tool of [...all.find((job) => job.name === step.job)!.tools, 2, 30])
            expect(standing).toContain(tool);
        }
        expect([...plan.order].sort()).toEqual(all.map((job) => job.name).sort());
        expect(plan.switches).toBeGreaterThanOrEqual(bound);
        const given = keepNeededSoonest(all, room(11, { loaded: [1, 2, 3], locked: [2, 30] }));
        expect(plan.switches).toBeLessThanOrEqual(given.ok ? given.plan.switches : Infinity);
      }),
      { numRuns: 8 },
    );
  });
  it('a job that needs more than there are places is refused by its name', () => {
    expect(keepNeededSoonest(jobs([1, 2], [1, 2, 3, 4]), room(3))).toEqual({
      ok: false,
      reason: 'B alone needs 4 places, and there are 3.',
    });
  });
  it('jobs that fit together need each tool once', () => {
    const all = jobs([1, 2], [2, 3], [1, 3]);
    expect(bestOrder(all, room(3, { loaded: [2] }))).toMatchObject({
      ok: true,
      answer: { plan: { switches: leastSwitches(all, [2]) } },
    });
  });
});

describe('loadings', () => {
  it('jobs that need nothing brought in share the loading before', () => {
    const answer = keepNeededSoonest(jobs([1, 2], [2], [3, 4], [4], [1]), room(2));
    expect(answer.ok && loadings(answer.plan.steps)).toEqual([
      { jobs: ['A', 'B'], out: [], in: [1, 2] },
      { jobs: ['C', 'D'], out: [1, 2], in: [3, 4] },
      { jobs: ['E'], out: [4], in: [1] },
    ]);
  });
  it('the first loading is told even when it stands already', () => {
    const answer = keepNeededSoonest(jobs([1]), room(2, { loaded: [1] }));
    expect(answer.ok && loadings(answer.plan.steps)).toEqual([{ jobs: ['A'], out: [], in: [] }]);
  });
});

describe('sisters', () => {
  it('a tool that lasts 60 holes needs two sisters for 150', () => {
    expect(
      withSisters([
        { tool: 5, used: 150, lasts: 60 },
        { tool: 6, used: 150, lasts: 150 },
        { tool: 7, used: 999, lasts: null },
      ]).map(sisterOf),
    ).toEqual([
      { tool: 5, sister: 0 },
      { tool: 5, sister: 1 },
      { tool: 5, sister: 2 },
      { tool: 6, sister: 0 },
      { tool: 7, sister: 0 },
    ]);
  });
  it('take their places: two jobs that fitted together no longer do', () => {
    const jobs = (used: number) => [
      {
        name: 'A',
        tools: withSisters([
          { tool: 1, used, lasts: 100 },
          { tool: 2, used: 1, lasts: null },
        ]),
      },
      { name: 'B', tools: [1, 3] },
    ];
    const switches = (used: number) => {
      const answer = keepNeededSoonest(jobs(used), room(3));
      return answer.ok ? answer.plan.steps.at(-1)!.out.length : -1;
    };
    expect(switches(100)).toBe(0);
    expect(switches(101)).toBe(1);
  });
});

describe('wide tools (common practice, no source: H5)', () => {
  const { one, two } = checks.commonPractice.pocketsTakenByWideTools;
  it('one takes three places, two that share their gap take five', () => {
    expect(placesTaken([1], new Set([1]))).toBe(one);
    expect(placesTaken([1, 2], new Set([1, 2]))).toBe(two);
    expect(placesTaken([1, 2, 3], new Set([1]))).toBe(one + 2);
    expect(placesTaken([1, 2, 3], new Set())).toBe(3);
  });
  it('a job that fits without one may not fit with it', () => {
    const all = jobs([1, 2, 3]);
    expect(keepNeededSoonest(all, room(4)).ok).toBe(true);
    expect(keepNeededSoonest(all, room(4, { wide: [1] }))).toEqual({
      ok: false,
      reason: 'A alone needs 5 places, and there are 4.',
    });
  });
  it('never more than there are places, every job’s tools there, and nothing taken out that had room', () => {
    fc.assert(
      fc.property(
        fc.array(fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { minLength: 1, maxLength: 5 }), {
          minLength: 2,
          maxLength: 8,
        }),
        fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { maxLength: 3 }),
        fc.integer({ min: 9, max: 13 }),
        (sets, wide, places) => {
          const broad = new Set(wide);
          const answer = keepNeededSoonest(jobs(...sets), room(places, { wide }));
          if (!answer.ok) return;
          const standing = new Set<number>();
          answer.plan.steps.forEach((step, i) => {
            for (const tool of step.out) expect(standing.delete(tool)).toBe(true);
            for (const tool of step.in) standing.add(tool);
            expect(placesTaken(standing, broad)).toBeLessThanOrEqual(places);
            for (const tool of sets[i]!) expect(standing).toContain(tool);
            for (const tool of step.out)
              expect(placesTaken([...standing, tool], broad)).toBeGreaterThan(places);
          });
        },
      ),
      { numRuns: 300 },
    );
  });
  it('an order with wide tools that come and go is proven only by the bound', () => {
    const all = jobs([1, 2, 3], [4, 5, 6], [1, 2, 7]);
    const loose = bestOrder(all, room(5, { wide: [1] }));
    expect(loose).toMatchObject({ ok: true, answer: { bound: 7 } });
    expect(loose.ok && loose.answer.proven).toBe(loose.ok && loose.answer.plan.switches === 7);
    expect(bestOrder(all, room(5, { wide: [1], loaded: [1], locked: [1] }))).toMatchObject({ ok: false });
  });
});

describe('many jobs', () => {
  it('on few jobs moving one at a time is seldom behind every order, and never better', () => {
    let [same, all] = [0, 0];
    fc.assert(
      fc.property(
        fc.array(fc.uniqueArray(fc.integer({ min: 1, max: 14 }), { minLength: 2, maxLength: 5 }), {
          minLength: 4,
          maxLength: 6,
        }),
        (sets) => {
          const [exact, own] = [
            bestOrder(jobs(...sets), room(7)),
            bestOrder(jobs(...sets), room(7), undefined, 0),
          ];
          if (!exact.ok || !own.ok) throw new Error('every job fits');
          expect(own.answer.plan.switches).toBeGreaterThanOrEqual(exact.answer.plan.switches);
          all += 1;
          if (own.answer.plan.switches === exact.answer.plan.switches) same += 1;
        },
      ),
      { numRuns: 60 },
    );
    expect(same / all).toBeGreaterThan(0.8);
  });
  it('tell how far they are, with a best that only gets better', () => {
    const jobs = Array.from({ length: 20 }, (_, i) => ({
      name: `J${i}`,
      tools: [...new Set([1, 2, 3, 4, 5, 6].map((k) => 1 + ((i * i * 5 + k * k * 7 + i * k) % 31)))],
    }));
    const heard: { share: number; switches: number }[] = [];
    const answer = bestOrder(jobs, room(8), (share, { plan }) =>
      heard.push({ share, switches: plan.switches }),
    );
    expect(heard.length).toBeGreaterThan(3);
    for (const [i, each] of heard.entries()) {
      expect(each.share).toBeGreaterThanOrEqual(heard[i - 1]?.share ?? 0);
      expect(each.switches).toBeLessThanOrEqual(heard[i - 1]?.switches ?? Infinity);
    }
    expect(answer.ok && answer.answer.plan.switches).toBeLessThanOrEqual(heard.at(-1)!.switches);
  });
});

describe('tools of one size, many jobs', () => {
  const problem = (sets: number[][], places: number, loaded: number[]): OrderProblem => ({
    jobs: sets,
    tools: 7,
    places,
    loaded,
  });
  const some = fc.array(fc.uniqueArray(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 3 }), {
    minLength: 1,
    maxLength: 5,
  });
  const standing = fc.uniqueArray(fc.integer({ min: 0, max: 6 }), { maxLength: 3 });
  it('counted by what can be kept, an order needs what keeping the soonest needed takes', () => {
    fc.assert(
      fc.property(some, fc.integer({ min: 3, max: 5 }), standing, (sets, places, loaded) => {
        const plan = keepNeededSoonest(jobs(...sets), room(places, { loaded }));
        expect(orderCount(problem(sets, places, loaded)).of(sets.map((_, i) => i))).toBe(
          plan.ok && plan.plan.switches,
        );
      }),
    );
  });
  it('the bound is never above the best of all orders, and the proof finds it', () => {
    const orders = (list: number[]): number[][] =>
      list.length < 2
        ? [list]
        : list.flatMap((first) =>
            orders(list.filter((each) => each !== first)).map((rest) => [first, ...rest]),
          );
    fc.assert(
      fc.property(some, fc.integer({ min: 3, max: 5 }), standing, (sets, places, loaded) => {
        const asked = problem(sets, places, loaded);
        const count = orderCount(asked);
        const best = Math.min(...orders(sets.map((_, i) => i)).map((order) => count.of(order)));
        expect(orderBound(asked)).toBeLessThanOrEqual(best);
        expect(betterOrder(asked, best)).toBeNull();
        const better = betterOrder(asked, best + 1);
        expect(Array.isArray(better) && count.of(better)).toBe(best);
      }),
      { numRuns: 200 },
    );
  });
  it('twelve jobs are proven', () => {
    let state = 5;
    const random = () => (state = (state * 48271) % 2147483647) / 2147483647;
    const sets = Array.from({ length: 12 }, () => [
      ...new Set(Array.from({ length: 5 }, () => 1 + Math.floor(random() * 16))),
    ]);
    const answer = bestOrder(jobs(...sets), room(9));
    expect(answer.ok && answer.answer.proven).toBe(true);
  });
});

describe('what stands together is told by the planner’s rule', () => {
  const pockets = { shape: { kind: 'randomAccess', places: 8, pitch: 80 } as const, fixed: [] };
  const sizes = [1, 2, 3, 4, 5, 6, 7].map((tool) => ({
    tool,
    radius: tool === 1 ? 60 : 31,
    wide: tool === 1,
    barred: [],
  }));
  it('a pocket out of service beside a wide tool costs no place', () => {
    const usable = [1, 2, 3, 4, 6, 7, 8];
    const asked = room(7, { wide: [1], ground: { pockets: { ...pockets, usable }, sizes } });
    // seven pockets: the wide one in 4 keeps 3 empty, and 5 is out of service anyway
    expect(keepNeededSoonest(jobs([1, 2, 3, 4, 5, 6]), asked).ok).toBe(true);
    expect(keepNeededSoonest(jobs([1, 2, 3, 4, 5, 6, 7]), asked)).toMatchObject({ ok: false });
  });
  it('broad tools that are not declared wide do not stand side by side', () => {
    const broad = sizes.map((each) => ({ ...each, wide: false, radius: 45 }));
    const asked = room(8, {
      ground: { pockets: { ...pockets, usable: [1, 2, 3, 4, 5, 6, 7, 8] }, sizes: broad },
    });
    expect(keepNeededSoonest(jobs([1, 2, 3, 4]), asked).ok).toBe(true);
    expect(keepNeededSoonest(jobs([1, 2, 3, 4, 5]), asked)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/A alone does not fit/),
    });
  });
});
