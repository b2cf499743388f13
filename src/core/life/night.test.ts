import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mostParts } from './night-bound.ts';
import { shortages } from './night-answer.ts';
import { bestOrder, nightSince, playNight, type NightQuestion, type Pallet } from './night.ts';

/*
 * The night, played apart from the rule: a list of parts in the order of the pallets, each tool a number that goes down, a group a list
 * of numbers of which the first that is left is cut with (common practice, no source).
 */
function brute(question: NightQuestion, order: readonly number[]) {
  const single = new Map(
    question.tools.map(({ tool, life, flag }) => [
      tool,
      { left: life?.remaining ?? Infinity, basis: life?.basis, flag },
    ]),
  );
  const groups = new Map(
    question.groups.map(({ number, members, inUse }) => [
      number,
      {
        inUse,
        members: members.map(({ tool, life, flag }) => {
          // a tool is one thing, by whatever number it is called
          const own = single.get(tool);
          return Object.assign(own ?? { left: life?.remaining ?? Infinity, basis: life?.basis, flag }, {
            tool,
          });
        }),
      },
    ]),
  );
  let parts = 0;
  let time = 0;
  for (const id of order) {
    const pallet = question.pallets.find((each) => each.id === id)!;
    if (pallet.isolated) continue;
    const program = question.programs.find(({ program: name }) => name === pallet.program)!;
    let stopped = false;
    for (let part = 0; part < pallet.parts && !stopped; part += 1) {
      const cutting = [];
      for (const { tool, use } of program.uses) {
        const group = groups.get(tool);
        const living = (each: { left: number; flag: unknown }) => each.left > 1e-9 && each.flag === null;
        let found;
        if (group) {
          if (group.members.some(({ flag }) => flag === 'broken')) found = undefined;
          else {
            const present = group.members.find((each) => each.tool === group.inUse);
            found =
              present && living(present)
                ? present
                : group.members.filter(living).sort((a, b) => a.tool - b.tool)[0];
            if (found) group.inUse = found.tool;
          }
        } else {
          const own = single.get(tool);
          found = own && living(own) ? own : undefined;
        }
        if (!found) {
          stopped = true;
          break;
        }
        cutting.push({ found, use });
      }
      if (stopped) break;
      const counted = new Set();
      for (const { found, use } of cutting) {
        // the part is one piece for it
        if (found.basis === 'pieces') found.left -= counted.has(found) ? 0 : 1;
        else if (found.basis !== undefined)
          found.left -= (found.basis === 'holes' ? use.holes : use.cutMilliseconds) / use.parts;
        counted.add(found);
      }
      parts += 1;
      time += program.milliseconds;
    }
    if (stopped && question.school === 'stop') return { parts, time, through: false };
    if (stopped) continue;
  }
  return { parts, time, through: true };
}
const orders = (ids: number[]): number[][] =>
  ids.length === 0
    ? [[]]
    : ids.flatMap((id) => orders(ids.filter((each) => each !== id)).map((rest) => [id, ...rest]));

const life = fc.option(
  fc.record({
    basis: fc.constantFrom('pieces' as const, 'holes' as const, 'minutes' as const),
    remaining: fc.integer({ min: 0, max: 25 }),
    limit: fc.constant(25),
  }),
  { freq: 6, nil: null },
);
const flag = fc.oneof(
  { weight: 8, arbitrary: fc.constant(null) },
  { weight: 2, arbitrary: fc.constantFrom('expired' as const, 'broken' as const) },
);
const uses = (numbers: readonly number[]) =>
  fc.tuple(fc.subarray([...numbers], { minLength: 1 }), fc.constantFrom(1, 2)).chain(([tools, parts]) =>
    fc.tuple(
      ...tools.map((tool) =>
        fc.record({
          tool: fc.constant(tool),
          use: fc.record({
            holes: fc.integer({ min: 1, max: 4 }),
            cutMilliseconds: fc.integer({ min: 1, max: 4 }),
            parts: fc.constant(parts),
          }),
        }),
      ),
    ),
  );
const asking = (numbers: readonly number[]): fc.Arbitrary<NightQuestion> =>
  fc.record({
    pallets: fc
      .array(
        fc.record({
          program: fc.constantFrom('A', 'B'),
          parts: fc.integer({ min: 1, max: 5 }),
          isolated: fc.constantFrom(false, false, false, true),
        }),
        { minLength: 1, maxLength: 5 },
      )
      .map((list) => list.map((each, i): Pallet => ({ ...each, id: i + 10, number: i + 1 }))),
    programs: fc.tuple(uses(numbers), uses(numbers)).map(([a, b]) => [
      { program: 'A', milliseconds: 60_000, uses: a },
      { program: 'B', milliseconds: 90_000, uses: b },
    ]),
    tools: fc.tuple(life, flag, life, flag).map(([a, fa, b, fb]) => [
      { tool: 1, life: a, flag: fa },
      { tool: 2, life: b, flag: fb },
    ]),
    groups: fc.tuple(life, life, flag).map(([a, b, of]) => [
      {
        number: 90,
        rules: { next: 'lowest' as const, renewed: 'spareRuns' as const, spares: true },
        inUse: 5,
        members: [
          { tool: 5, role: 'original' as const, life: a, flag: null },
          { tool: 25, role: 'spare' as const, life: b, flag: of },
        ],
      },
    ]),
    school: fc.constantFrom('stop' as const, 'isolate' as const),
  });
const single = asking([1, 2, 90]);
/** With the members of the group called by their own T as well, in the same program or another. */
const shared = asking([1, 5, 25, 90]).map((asked): NightQuestion => ({
  ...asked,
  tools: [
    ...asked.tools,
    ...asked.groups[0]!.members.map(({ tool, life: own, flag: its }) => ({ tool, life: own, flag: its })),
  ],
}));
const question = fc.oneof(single, shared);

describe('a night without people, held against one that is played apart from the rule', () => {
  it('parts made, the time, and whether it runs through, in any order', () => {
    fc.assert(
      fc.property(question, (asked) => {
        const ids = asked.pallets.map(({ id }) => id).reverse();
        const [ours, theirs] = [playNight(asked, ids), brute(asked, ids)];
        expect([ours.parts, ours.to, ours.stop === null]).toEqual([
          theirs.parts,
          theirs.time,
          theirs.through,
        ]);
      }),
      { numRuns: 1500 },
    );
  });
  it('is the same night, asked some parts later, where nobody has counted them', () => {
    fc.assert(
      fc.property(question, fc.integer({ min: 0, max: 12 }), (asked, made) => {
        const ids = asked.pallets.map(({ id }) => id);
        const program = asked.pallets.find(({ isolated }) => !isolated)?.program ?? 'A';
        const whole = playNight(asked, ids);
        const { question: now, cut } = nightSince(asked, program, made);
        const rest = playNight(now, ids);
        const each = asked.programs.find((of) => of.program === program)!.milliseconds;
        expect(cut).toBeLessThanOrEqual(made);
        expect(cut + rest.parts).toBe(whole.parts);
        expect(cut * each + rest.to).toBe(whole.to);
        expect(rest.stop && { ...rest.stop, at: rest.stop.at + cut * each }).toEqual(whole.stop);
        const after = new Map(whole.left.map((tool) => [tool.tool, Math.max(0, tool.after)]));
        for (const tool of rest.left) expect(Math.max(0, tool.after)).toBe(after.get(tool.tool));
        // fewer only where it stopped, or all that is surely begun is cut
        if (cut < made) {
          const begun = [];
          for (const pallet of asked.pallets.filter(({ isolated }) => !isolated)) {
            if (pallet.program !== program) break;
            begun.push(pallet);
          }
          const most = begun.reduce((sum, { parts }) => sum + parts, 0);
          const alone = brute(
            { ...asked, school: 'stop', pallets: begun },
            begun.map(({ id }) => id),
          );
          expect(cut).toBe(Math.min(most, alone.parts));
        }
      }),
      { numRuns: 1500 },
    );
  });
  it('the pallet that is begun stays the first, whatever order makes most', () => {
    fc.assert(
      fc.property(question, fc.integer({ min: 1, max: 3 }), (asked, made) => {
        const [first] = asked.pallets.filter(({ isolated }) => !isolated);
        if (!first) return;
        const { question: now, cut } = nightSince(asked, first.program, made);
        const best = bestOrder(now);
        if (cut > 0) expect(best.order[0]).toBe(first.id);
        expect(best.play.parts).toBeGreaterThanOrEqual(
          playNight(
            now,
            now.pallets.map(({ id }) => id),
          ).parts,
        );
      }),
      { numRuns: 300 },
    );
  });
  it('the best order makes as many parts as the best of all orders', () => {
    fc.assert(
      fc.property(question, (asked) => {
        const best = bestOrder(asked);
        const most = Math.max(
          ...orders(asked.pallets.map(({ id }) => id)).map((order) => brute(asked, order).parts),
        );
        expect(best.play.parts).toBe(most);
        expect(best.proven).toBe(true);
        // the bound is never below what an order makes
        expect(mostParts(asked)).toBeGreaterThanOrEqual(most);
      }),
      { numRuns: 300 },
    );
  });
  it('nothing is short where some order runs through; what is said to help does', () => {
    fc.assert(
      fc.property(question, (asked) => {
        const stops = { ...asked, school: 'stop' as const };
        const ids = asked.pallets.map(({ id }) => id);
        const short = shortages(stops);
        expect(short.length === 0).toBe(brute(stops, ids).through);
        const added = (extra: (sisters: number) => number): NightQuestion => {
          const more = (tool: number) =>
            Array.from(
              { length: extra(short.find((each) => each.tool === tool)?.sisters ?? 0) },
              (_, i) => i,
            );
          // what is one of the group too stays as it is: sisters do not help its own calls
          const grouped = stops.pallets.some(
            ({ program, isolated }) =>
              !isolated &&
              stops.programs.find((each) => each.program === program)!.uses.some(({ tool }) => tool === 90),
          );
          const both = stops.tools.filter(
            (each) => grouped && stops.groups[0]!.members.some(({ tool }) => tool === each.tool),
          );
          const asGroup = stops.tools
            .filter((each) => !both.includes(each))
            .map(({ tool, life: own, flag: its }) => ({
              number: tool,
              rules: { next: 'lowest' as const, renewed: 'spareRuns' as const, spares: true },
              inUse: null,
              members: [
                { tool, role: 'original' as const, life: own, flag: its },
                ...more(tool).map((i) => ({
                  tool: 100 * tool + i,
                  role: 'spare' as const,
                  flag: null,
                  life: own && { ...own, remaining: 25 },
                })),
              ],
            }));
          const groups = stops.groups.map((group) => ({
            ...group,
            members: [
              ...group.members,
              ...more(90).map((i) => ({
                tool: 9000 + i,
                role: 'spare' as const,
                flag: null,
                life: ((own) => own && { ...own, remaining: 25 })(
                  group.members.find((each) => each.life)?.life ?? null,
                ),
              })),
            ],
          }));
          return { ...stops, tools: both, groups: [...asGroup, ...groups] };
        };
        if (short.length === 0 || short.some(({ sisters }) => sisters === null)) return;
        expect(
          brute(
            added((n) => n),
            ids,
          ).through,
        ).toBe(true);
        expect(
          brute(
            added((n) => n - 1),
            ids,
          ).through,
        ).toBe(false);
      }),
      { numRuns: 600 },
    );
  });
});

describe('twelve pallets that all differ', () => {
  const use = { holes: 1, cutMilliseconds: 9, parts: 1 };
  /** Every other one of two programs, each with a tool of its own. */
  const queue = (left: number): NightQuestion => ({
    pallets: Array.from({ length: 12 }, (_, i) => ({
      id: i,
      number: i,
      program: i % 2 === 0 ? 'A' : 'B',
      parts: 200 + i,
      isolated: false,
    })),
    programs: ['A', 'B'].map((program, i) => ({
      program,
      milliseconds: 1000,
      uses: [
        { tool: 1, use },
        { tool: 2 + i, use },
      ],
    })),
    tools: [1500, left, left].map((remaining, i) => ({
      tool: i + 1,
      flag: null,
      life: { basis: 'holes', remaining, limit: 4000 },
    })),
    groups: [],
    school: 'stop',
  });

  it('are not searched to the end where no order makes more than the tool that all of them need', () => {
    expect(bestOrder(queue(4000))).toMatchObject({ proven: true, most: 1500, play: { parts: 1500 } });
  });
  it('are not called the best there is where that is not known, and it is said how many no order exceeds', () => {
    const best = bestOrder(queue(650));
    expect(best).toMatchObject({ proven: false, most: 1500 });
    expect(best.play.parts).toBeLessThanOrEqual(1300);
    expect(best.play.parts).toBeGreaterThan(1000);
  });
});

describe('what is told of a night', () => {
  const night = (over: Partial<NightQuestion> = {}): NightQuestion => ({
    pallets: [1, 2, 3].map((number) => ({ id: number, number, program: 'A', parts: 4, isolated: false })),
    programs: [
      {
        program: 'A',
        milliseconds: 600_000,
        uses: [{ tool: 12, use: { holes: 2, cutMilliseconds: 60_000, parts: 1 } }],
      },
    ],
    tools: [{ tool: 12, life: { basis: 'holes', remaining: 15, limit: 40 }, flag: null }],
    groups: [],
    school: 'stop',
    ...over,
  });
  it('when it stops, on which pallet and because of which tool', () => {
    // fifteen holes are eight parts: the last of them overruns by one
    const { stop, parts, steps } = playNight(night(), [1, 2, 3]);
    expect(stop).toEqual({ at: 8 * 600_000, pallet: 3, tool: 12, why: 'expired' });
    expect(parts).toBe(8);
    expect(steps.map(({ made }) => made)).toEqual([4, 4, 0]);
  });
  it('what is lacking, how many sisters, and what a change before leaving wastes', () => {
    expect(shortages(night())).toEqual([{ tool: 12, why: 'expired', lacking: 9, sisters: 1, wasted: 15 }]);
    const hungry = night({
      tools: [{ tool: 12, life: { basis: 'holes', remaining: 15, limit: 16 }, flag: null }],
    });
    expect(shortages(hungry)).toEqual([{ tool: 12, why: 'expired', lacking: 9, sisters: 1, wasted: null }]);
  });
  it('a broken tool: the machine stops, or sets each pallet aside that needs it and goes on', () => {
    const two = night({
      pallets: [
        { id: 1, number: 1, program: 'A', parts: 4, isolated: false },
        { id: 2, number: 2, program: 'B', parts: 3, isolated: false },
      ],
      programs: [...night().programs, { program: 'B', milliseconds: 300_000, uses: [] }],
      tools: [{ tool: 12, life: null, flag: 'broken' }],
    });
    expect(playNight(two, [1, 2])).toMatchObject({ parts: 0, stop: { tool: 12, why: 'broken', at: 0 } });
    expect(playNight({ ...two, school: 'isolate' }, [1, 2])).toMatchObject({ parts: 3, stop: null });
    expect(bestOrder(two)).toMatchObject({ order: [2, 1], proven: true });
    expect(shortages(two)).toEqual([{ tool: 12, why: 'broken', lacking: 0, sisters: null, wasted: null }]);
    expect(shortages({ ...two, tools: [] })).toMatchObject([{ why: 'missing' }]);
  });
});
