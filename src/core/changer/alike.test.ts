import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differing, makeAlike, type MachineTools } from './alike.ts';
import { bestAssignment } from './assignment.ts';

/** The greatest sum that trying every way of dealing out finds. */
function exhaustively(worth: readonly (readonly number[])[], row = 0, taken = new Set<number>()): number {
  if (row === worth.length) return 0;
  let best = exhaustively(worth, row + 1, taken);
  worth[row]!.forEach((value, column) => {
    if (!taken.has(column))
      best = Math.max(best, value + exhaustively(worth, row + 1, new Set(taken).add(column)));
  });
  return best;
}
const machine = (name: string, tools: Record<number, string>, highestTool = 6): MachineTools => ({
  machine: name,
  highestTool,
  tools: Object.entries(tools).map(([tool, meaning]) => ({
    tool: Number(tool),
    meaning,
    assembly: `${name}-${tool}`,
  })),
});

describe('dealing out', () => {
  it('is worth as much as trying every way, and no column is dealt twice', () => {
    const table = fc
      .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }))
      .chain(([rows, columns]) =>
        fc.array(fc.array(fc.integer({ min: 0, max: 6 }), { minLength: columns, maxLength: columns }), {
          minLength: rows,
          maxLength: rows,
        }),
      );
    fc.assert(
      fc.property(table, (worth) => {
        const dealt = bestAssignment(worth);
        const used = dealt.filter((column) => column >= 0);
        expect(new Set(used).size).toBe(used.length);
        const sum = dealt.reduce((total, column, row) => total + (column < 0 ? 0 : worth[row]![column]!), 0);
        expect(sum).toBe(exhaustively(worth));
      }),
    );
  });
});

describe('the same T for the same tool on every machine (H18)', () => {
  it('two machines that agree but for one T need one change', () => {
    const plan = makeAlike([
      machine('P', { 1: 'face mill 80', 2: 'drill 6.8', 3: 'tap M8' }),
      machine('Q', { 1: 'face mill 80', 5: 'drill 6.8', 3: 'tap M8' }),
      machine('R', { 1: 'face mill 80', 2: 'drill 6.8' }),
    ]);
    expect(plan.changes).toEqual([{ machine: 'Q', assembly: 'Q-5', meaning: 'drill 6.8', from: 5, to: 2 }]);
  });
  it('a T that means two things is named, and only that', () => {
    expect(
      differing([
        machine('P', { 1: 'drill 5', 2: 'tap M6', 4: 'reamer 8' }),
        machine('Q', { 1: 'drill 6', 2: 'tap M6' }),
      ]),
    ).toEqual([1]);
  });
  it('a sister keeps a T of its own, and nobody else gets it', () => {
    const plan = makeAlike([machine('P', { 1: 'drill 5', 2: 'drill 5' }), machine('Q', { 2: 'tap M6' })]);
    expect(plan.sisters).toEqual([{ machine: 'P', tool: 2, meaning: 'drill 5' }]);
    expect(plan.changes).toEqual([{ machine: 'Q', assembly: 'Q-2', meaning: 'tap M6', from: 2, to: 3 }]);
  });
  it('no way of numbering needs fewer changes: every numbering of small cells tried', () => {
    const names = ['a', 'b', 'c', 'd'];
    const some = fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.constantFrom(...names)), {
      selector: ([tool]) => tool,
      maxLength: 4,
    });
    fc.assert(
      fc.property(some, some, some, (...all) => {
        const machines = all.map((tools, i) => {
          const once = tools.filter(([, name], at) => tools.findIndex((each) => each[1] === name) === at);
          return machine(`M${i}`, Object.fromEntries(once), 4);
        });
        const changes = (numbering: readonly string[]) =>
          machines.reduce(
            (sum, { tools }) =>
              sum + tools.filter(({ tool, meaning }) => numbering[tool - 1] !== meaning).length,
            0,
          );
        const orders = (left: readonly string[]): string[][] =>
          left.length === 0
            ? [[]]
            : left.flatMap((name) =>
                orders(left.filter((each) => each !== name)).map((rest) => [name, ...rest]),
              );
        const fewest = Math.min(...orders(names).map(changes));
        const plan = makeAlike(machines);
        expect(plan.changes).toHaveLength(fewest);
        expect(new Set(plan.wanted.map((each) => each.tool)).size).toBe(plan.wanted.length);
      }),
    );
  });
  it('a T150 stays though another machine ends at 24, as long as that one has no such tool', () => {
    const plan = makeAlike([
      machine('P', { 150: 'reamer 8', 1: 'drill 5' }, 200),
      machine('Q', { 1: 'drill 5' }, 24),
    ]);
    expect(plan).toMatchObject({ changes: [], without: [] });
  });
  it('nothing is proposed where nothing differs; a tool under two T on two machines does differ', () => {
    const alike = [machine('P', { 1: 'drill 5', 2: 'drill 5' }), machine('Q', { 1: 'drill 5' })];
    expect(differing(alike)).toEqual([]);
    expect(makeAlike(alike).changes).toEqual([]);
    const apart = [machine('P', { 1: 'drill 5' }), machine('Q', { 3: 'drill 5' })];
    expect(differing(apart)).toEqual([1, 3]);
    expect(makeAlike(apart).changes).toHaveLength(1);
  });
  it('what no T is left for stays as it is, and is said', () => {
    const plan = makeAlike([
      machine('P', { 1: 'a', 2: 'b' }, 2),
      machine('Q', { 1: 'c', 2: 'd' }, 2),
      machine('R', { 1: 'a', 2: 'c' }, 2),
    ]);
    expect(plan.without.length).toBeGreaterThan(0);
    expect(plan.changes.every((each) => each.to >= 1 && each.to <= 2)).toBe(true);
  });
  it('with sisters too no way of numbering needs fewer changes, every one tried, and carried out it is alike', () => {
    const names = ['a', 'b', 'c'];
    const some = fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 5 }), fc.constantFrom(...names)), {
      selector: ([tool]) => tool,
      maxLength: 5,
    });
    fc.assert(
      fc.property(some, some, (...all) => {
        const machines = all.map((tools, i) => machine(`M${i}`, Object.fromEntries(tools), 6));
        const plan = makeAlike(machines);
        expect(plan.proven).toBe(true);
        // more tools than T: no numbering is alike, and that is said
        const present = new Set(machines.flatMap(({ tools }) => tools.map((each) => each.meaning)));
        const sisters = machines.map(
          ({ tools }) => tools.length - new Set(tools.map((each) => each.meaning)).size,
        );
        if (present.size + Math.max(...sisters) > 6) {
          expect(plan.without).not.toEqual([]);
          return;
        }
        expect(plan.changes).toHaveLength(fewestChanges(machines, names, 6));
        const after = machines.map((each) => ({
          ...each,
          tools: each.tools.map((tool) => ({
            ...tool,
            tool: plan.changes.find((change) => change.assembly === tool.assembly)?.to ?? tool.tool,
          })),
        }));
        for (const { tools } of after)
          expect(new Set(tools.map((each) => each.tool)).size).toBe(tools.length);
        expect(makeAlike(after).changes).toEqual([]);
      }),
      { numRuns: 150 },
    );
  });
  it('a sister for whom every T means something else stays, and is said', () => {
    const plan = makeAlike([
      machine('P', { 1: 'b', 2: 'c' }),
      machine('Q', { 1: 'a', 2: 'a', 3: 'a', 4: 'a', 5: 'a' }),
    ]);
    expect(plan.without).toEqual(['a']);
    expect(plan.sisters).toContainEqual({ machine: 'Q', tool: 2, meaning: 'a' });
  });
});

/** The fewest changes of all ways to give each meaning a T: a machine's tools of a meaning, but for one that has it, must be on no T that is given. */
function fewestChanges(machines: readonly MachineTools[], names: readonly string[], highest: number): number {
  const present = names.filter((name) =>
    machines.some(({ tools }) => tools.some((each) => each.meaning === name)),
  );
  let best = Infinity;
  const given: number[] = [];
  const go = (): void => {
    if (given.length < present.length) {
      for (let tool = 1; tool <= highest; tool += 1)
        if (!given.includes(tool)) {
          given.push(tool);
          go();
          given.pop();
        }
      return;
    }
    let cost = 0;
    for (const { tools } of machines)
      for (const [i, name] of present.entries()) {
        const own = tools.filter((each) => each.meaning === name).map((each) => each.tool);
        if (own.length === 0) continue;
        const taken = own.filter((tool) => tool !== given[i] && given.includes(tool)).length;
        cost += own.includes(given[i]!) ? taken : Math.max(1, taken);
      }
    best = Math.min(best, cost);
  };
  go();
  return best;
}
