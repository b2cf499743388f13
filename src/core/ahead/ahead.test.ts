import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { GroupMember, GroupRules } from '../life/group.ts';
import { edgesAhead, type AheadJob } from './edges-ahead.ts';
import { stockAhead } from './stock-ahead.ts';

const member = (tool: number, remaining: number, limit: number): GroupMember => ({
  tool,
  role: 'original',
  life: { basis: 'holes', remaining, limit },
  flag: null,
  use: { holes: 1, cutMilliseconds: 0, parts: 1 },
});
const job = (id: number, parts: number, uses: Record<number, number>, milliseconds = 1000): AheadJob => ({
  job: id,
  parts,
  milliseconds,
  uses: Object.entries(uses).map(([tool, perPart]) => ({ tool: Number(tool), perPart: () => perPart })),
});
const single = (tool: number, remaining: number, limit: number) => ({
  tool,
  rules: null,
  inUse: null,
  members: [member(tool, remaining, limit)],
});

/** Members with what they have left, one part after the other: whoever has run out is renewed while the next part is cut. */
class Shop {
  readonly spent: [tool: number, job: number, part: number][] = [];
  private readonly members: { tool: number; original: boolean; left: number; limit: number; out: number }[];
  private made = 0;

  constructor(
    group: readonly GroupMember[],
    private readonly rules: GroupRules,
    private current: number | null,
  ) {
    this.members = group.map(({ tool, role, life }) => ({
      tool,
      original: role === 'original',
      left: life!.remaining,
      limit: life!.limit,
      out: 0,
    }));
  }
  cut(job: number, part: number, takes: number): void {
    for (const each of this.members) if (each.left <= 0 && each.out < this.made) each.left = each.limit;
    const one = this.next();
    this.current = one.tool;
    one.left -= takes;
    this.made += 1;
    if (one.left > 0) return;
    one.out = this.made;
    this.spent.push([one.tool, job, part]);
  }
  private next() {
    const present = this.members.find(({ tool }) => tool === this.current);
    const whole = this.members.filter(({ left }) => left > 0);
    const originals = whole.filter(({ original }) => original);
    if (present && present.left > 0)
      return this.rules.renewed === 'atOnce' && !present.original && originals.length > 0
        ? this.byRule(originals)
        : present;
    // with nobody else the machine waits until the one that ran out is renewed
    if (present ? !this.rules.spares || whole.length === 0 : whole.length === 0) {
      const one = present ?? this.members[0]!;
      one.left = one.limit;
      return one;
    }
    return this.byRule(whole);
  }
  private byRule(of: Shop['members']) {
    const used = ({ left, limit }: Shop['members'][number]) => limit - left;
    const sign = { lowest: 0, mostUsed: -1, leastUsed: 1 }[this.rules.next];
    return [...of].sort((a, b) => sign * (used(a) - used(b)) || a.tool - b.tool)[0]!;
  }
}

describe('edges that the jobs will use up', () => {
  it('a drill of 900 holes with 20 left, eight a part: it ends in the third part, and then in every 113th', () => {
    const found = edgesAhead([job(1, 300, { 5: 8 })], [single(5, 20, 900)], Infinity);
    expect(found.map(({ part }) => part)).toEqual([3, 116, 229]);
    expect(found[0]!.after).toBe(3000);
  });
  it('what is left goes on into the next job, and a job that does not call it takes nothing', () => {
    const jobs = [job(1, 10, { 5: 8 }), job(2, 50, {}), job(3, 10, { 5: 4 }, 500)];
    // 100 − 80 = 20 left: five parts of the third job
    expect(edgesAhead(jobs, [single(5, 100, 900)], Infinity)).toEqual([
      { tool: 5, job: 3, part: 5, after: 10_000 + 50_000 + 2500 },
    ]);
  });
  it('nothing beyond the time that is looked at; broken, locked and uncounted tools are a matter of now', () => {
    expect(edgesAhead([job(1, 300, { 5: 8 })], [single(5, 20, 900)], 100_000)).toHaveLength(1);
    const broken = { ...single(5, 20, 900), members: [{ ...member(5, 20, 900), flag: 'broken' as const }] };
    const uncounted = { ...single(5, 20, 900), members: [{ ...member(5, 20, 900), life: null }] };
    for (const tool of [broken, uncounted])
      expect(edgesAhead([job(1, 300, { 5: 8 })], [tool], Infinity)).toEqual([]);
  });
  it('a locked tool is passed over as a broken one is', () => {
    const locked = { ...single(5, 20, 900), members: [{ ...member(5, 20, 900), flag: 'locked' as const }] };
    expect(edgesAhead([job(1, 300, { 5: 8 })], [locked], Infinity)).toEqual([]);
  });
  it('several tools stand in the order in which they end, the lower T first', () => {
    const tools = [single(7, 24, 900), single(6, 8, 900), single(5, 24, 900)];
    const found = edgesAhead([job(1, 10, { 5: 8, 6: 8, 7: 8 })], tools, Infinity);
    expect(found.map(({ tool, part }) => [tool, part])).toEqual([
      [6, 1],
      [5, 3],
      [7, 3],
    ]);
  });
  it('each takes its own of a part, and one that takes nothing of it lasts', () => {
    const tools = [single(5, 24, 900), single(6, 24, 900)];
    const found = edgesAhead([job(1, 3, { 5: 8, 6: 0 }), job(2, 2, { 6: 12 })], tools, Infinity);
    expect(found.map(({ tool, job: of, part }) => [tool, of, part])).toEqual([
      [5, 1, 3],
      [6, 2, 2],
    ]);
  });
  it('what ends in the last moment that is looked at is seen, what ends after it is not', () => {
    const at = (horizon: number) => edgesAhead([job(1, 300, { 5: 8 })], [single(5, 24, 900)], horizon).length;
    expect([at(2999), at(3000), at(3001)]).toEqual([0, 1, 1]);
    // a job that begins then still counts
    const jobs = [job(1, 3, {}), job(2, 3, { 5: 24 })];
    expect(edgesAhead(jobs, [single(5, 24, 900)], 4000)).toHaveLength(1);
    expect(edgesAhead(jobs, [single(5, 24, 900)], 2999)).toEqual([]);
  });
  it('a limit of next to nothing is changed for each part, and not for ever', () => {
    const found = edgesAhead([job(1, 1000, { 5: 8 })], [single(5, 1, 1)], Infinity);
    expect(found).toHaveLength(400);
    expect(found.at(-1)!.part).toBe(400);
  });
  it('of sisters the one in use goes on, whatever its place on the list', () => {
    const rules: GroupRules = { next: 'lowest', renewed: 'spareRuns', spares: true };
    const group = { tool: 4, rules, inUse: 24, members: [member(4, 16, 80), member(24, 40, 80)] };
    const found = edgesAhead([job(1, 12, { 4: 8 })], [group], Infinity);
    expect(found.map(({ tool, part }) => [tool, part])).toEqual([
      [24, 5],
      [4, 7],
    ]);
    // all of them spent: it begins with the one that the rule takes
    const spent = { ...group, members: [member(4, 0, 80), member(24, 0, 80)] };
    expect(edgesAhead([job(1, 11, { 4: 8 })], [spent], Infinity)[0]).toMatchObject({ part: 10 });
  });
  it('a tool that is spent already is renewed before it cuts', () => {
    expect(
      edgesAhead([job(1, 300, { 5: 8 })], [single(5, 0, 900)], Infinity).map(({ part }) => part),
    ).toEqual([113, 226]);
  });
  it('a sister takes over from one that is spent already, by the rule of the machine', () => {
    const rules = (next: GroupRules['next']): GroupRules => ({ next, renewed: 'spareRuns', spares: true });
    const members = [member(4, 0, 80), member(24, 40, 80), member(34, 16, 80)];
    const first = (next: GroupRules['next']) =>
      edgesAhead([job(1, 30, { 4: 8 })], [{ tool: 4, rules: rules(next), inUse: 4, members }], Infinity)
        .slice(0, 3)
        .map(({ tool, part }) => [tool, part]);
    expect(first('lowest')).toEqual([
      [24, 5],
      [4, 15],
      [24, 25],
    ]);
    expect(first('mostUsed')).toEqual([
      [34, 2],
      [24, 7],
      [4, 17],
    ]);
  });
  it('sisters run out in turn, each renewed while the next one cuts', () => {
    const rules: GroupRules = { next: 'lowest', renewed: 'spareRuns', spares: true };
    const group = { tool: 4, rules, inUse: 4, members: [member(4, 16, 80), member(24, 40, 80)] };
    expect(
      edgesAhead([job(1, 30, { 4: 8 })], [group], Infinity).map(({ tool, part }) => [tool, part]),
    ).toEqual([
      [4, 2],
      [24, 7],
      [4, 17],
      [24, 27],
    ]);
  });
  it('of a group it is as a shop part by part would find, by any rule of the machine (H11)', () => {
    const members = fc.array(
      fc.record({
        left: fc.integer({ min: -3, max: 60 }),
        limit: fc.integer({ min: 1, max: 60 }),
        original: fc.boolean(),
      }),
      { minLength: 1, maxLength: 4 },
    );
    const rules = fc.record({
      next: fc.constantFrom<GroupRules['next']>('lowest', 'mostUsed', 'leastUsed'),
      renewed: fc.constantFrom<GroupRules['renewed']>('atOnce', 'spareRuns'),
      spares: fc.boolean(),
    });
    const jobs = fc.array(
      fc.record({ parts: fc.integer({ min: 0, max: 40 }), perPart: fc.integer({ min: 0, max: 9 }) }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(members, rules, jobs, fc.nat({ max: 4 }), (given, rule, list, first) => {
        const group = given.map(({ left, limit, original }, i): GroupMember => ({
          ...member(i + 4, Math.min(left, limit), limit),
          role: original ? 'original' : 'spare',
        }));
        const inUse = group[first]?.tool ?? null;
        const found = edgesAhead(
          list.map(({ parts, perPart }, i) => job(i, parts, { 4: perPart })),
          [{ tool: 4, rules: rule, inUse, members: group }],
          Infinity,
        );
        const shop = new Shop(group, rule, inUse);
        list.forEach(({ parts, perPart }, i) => {
          for (let part = 1; part <= parts; part += 1) shop.cut(i, part, perPart);
        });
        expect(found.map(({ tool, job: of, part }) => [tool, of, part])).toEqual(shop.spent);
      }),
      { numRuns: 2000 },
    );
  });
  it('as a shop part by part would find', () => {
    const uses = fc.array(
      fc.record({ parts: fc.integer({ min: 0, max: 60 }), perPart: fc.integer({ min: 0, max: 30 }) }),
      { minLength: 1, maxLength: 5 },
    );
    fc.assert(
      fc.property(
        uses,
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 1, max: 120 }),
        (jobs, left, limit) => {
          let remaining = Math.min(left, limit);
          let clock = 0;
          const byHand: { job: number; part: number; after: number }[] = [];
          jobs.forEach(({ parts, perPart }, i) => {
            for (let part = 1; part <= parts; part += 1) {
              clock += 1000;
              if (perPart === 0) continue;
              if (remaining <= 0) remaining = limit;
              remaining -= perPart;
              if (remaining <= 0) {
                byHand.push({ job: i, part, after: clock });
                remaining = limit;
              }
            }
          });
          const found = edgesAhead(
            jobs.map(({ parts, perPart }, i) => job(i, parts, { 5: perPart })),
            [single(5, Math.min(left, limit), limit)],
            Infinity,
          );
          expect(found.map(({ job: of, part, after }) => ({ job: of, part, after }))).toEqual(byHand);
        },
      ),
    );
  });
});

describe('what that takes off the shelves', () => {
  const shelf = (over: object = {}) => ({ id: 1, stock: 10, minimum: 4, ...over });
  const solid = { component: 1, pieces: 1, edges: 1, edgesUsed: 0 };
  const spent = (count: number, takes = [solid]) =>
    Array.from({ length: count }, (_, i) => ({ assembly: 7, at: 100 * (i + 1), takes }));
  it('a solid cutter a time: below its minimum at the seventh, out at the eleventh', () => {
    expect(stockAhead(spent(12), [shelf()])).toEqual([
      { component: 1, edges: 12, taken: 12, left: -2, below: 700, out: 1100 },
    ]);
    expect(stockAhead(spent(6), [shelf()])[0]).toMatchObject({ left: 4, below: null, out: null });
  });
  it('inserts are turned first: five with four edges take five new ones at every fourth change, sooner where some are used', () => {
    const inserts = { component: 1, pieces: 5, edges: 4, edgesUsed: 2 };
    const [line] = stockAhead(spent(6, [inserts]), [shelf({ stock: 12 })]);
    // the second change takes five, the sixth five more
    expect(line).toEqual({ component: 1, edges: 30, taken: 10, left: 2, below: 600, out: null });
  });
  it('a line that is below already says so from now; one that nothing takes from is not listed', () => {
    expect(stockAhead(spent(1), [shelf({ stock: 3 }), shelf({ id: 2 })])).toEqual([
      { component: 1, edges: 1, taken: 1, left: 2, below: 0, out: null },
    ]);
  });
  it('two tools that take of one line share it', () => {
    const both = [
      { assembly: 7, at: 1, takes: [{ ...solid, edges: 2 }] },
      { assembly: 8, at: 2, takes: [{ ...solid, edges: 2 }] },
      { assembly: 7, at: 3, takes: [{ ...solid, edges: 2 }] },
      { assembly: 8, at: 4, takes: [{ ...solid, edges: 2 }] },
    ];
    expect(stockAhead(both, [shelf({ stock: 1, minimum: 0 })])[0]).toMatchObject({
      taken: 2,
      left: -1,
      out: 4,
    });
  });
});
