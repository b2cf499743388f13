import { bestAssignment } from './assignment.ts';

/** What a T means on one machine: a tool of a kind and size, and which physical piece stands for it. */
export interface MeantTool {
  tool: number;
  /** The same words for tools that may be taken for one another: "end mill 10.000 mm". */
  meaning: string;
  assembly: string;
}
export interface MachineTools {
  machine: string;
  highestTool: number;
  tools: readonly MeantTool[];
}

export interface Renumbering {
  machine: string;
  assembly: string;
  meaning: string;
  from: number;
  to: number;
}

export interface AlikePlan {
  /** The T that each meaning is to have on all machines that have it. */
  wanted: { tool: number; meaning: string }[];
  changes: Renumbering[];
  /** Tools that stand twice on a machine under one meaning: sisters, which keep a T of their own where nobody else is to have it. */
  sisters: { machine: string; tool: number; meaning: string }[];
  /** Meanings that no T is left for on all their machines, or none for their sisters that means nothing else elsewhere. */
  without: string[];
  /** It was shown that fewer changes will not do. */
  proven: boolean;
}

/** The T of one meaning on one machine; several where it has sisters. */
interface Group {
  machine: number;
  meaning: number;
  tools: readonly MeantTool[];
}

/** What a branch of the search has decided of a group with sisters. */
type Decided = 'one has this T' | 'none has it, none takes theirs' | { takenBy: 'another'; tool: number };

interface Branch {
  decided: ReadonlyMap<Group, Decided>;
  least: number;
}

/** Branches looked at; each is an assignment. */
const MOST_BRANCHES = 400;

/**
 * Gives every meaning one T on all machines that have it, within what each of them takes, with the fewest re-numberings. One tool
 * of a meaning that has its T need not be touched; a sister keeps hers unless another meaning is to have it. Where each machine has
 * one tool of each meaning that is an assignment; a machine with sisters needs one change if none of them has the T, or as many as
 * theirs are taken, whichever is more, which is no sum: there it is searched by branch and bound over what becomes of each group.
 */
export function makeAlike(machines: readonly MachineTools[]): AlikePlan {
  const meanings = [...new Set(machines.flatMap(({ tools }) => tools.map((each) => each.meaning)))].sort();
  const groups = groupsOf(machines, meanings);
  const highest = meanings.map((_, i) =>
    Math.min(
      ...groups.filter((each) => each.meaning === i).map((each) => machines[each.machine]!.highestTool),
    ),
  );
  const numbers = candidates(machines, meanings.length, Math.max(0, ...highest));
  const dealt = fewest(groups, meanings.length, numbers, highest);
  const toolOf = dealt.at;
  const without = meanings.filter((_, i) => toolOf[i] === null);
  const taken = new Set(toolOf.filter((tool) => tool !== null));
  const changes: Renumbering[] = [];
  const sisters: AlikePlan['sisters'] = [];
  const mains = new Map(
    groups.map((group) => [
      group,
      group.tools.find((each) => each.tool === toolOf[group.meaning]) ?? pickMain(group.tools, taken),
    ]),
  );
  for (const [nth, { machine, highestTool }] of machines.entries()) {
    const here = groups.filter((each) => each.machine === nth);
    const change = (each: MeantTool, to: number) => {
      if (each.tool !== to)
        changes.push({ machine, assembly: each.assembly, meaning: each.meaning, from: each.tool, to });
    };
    for (const group of here) change(mains.get(group)!, toolOf[group.meaning] ?? mains.get(group)!.tool);
    const others = here.flatMap((group) => group.tools.filter((each) => each !== mains.get(group)));
    const used = new Set([
      ...here.map((group) => toolOf[group.meaning] ?? mains.get(group)!.tool),
      ...others.flatMap((each) => (taken.has(each.tool) ? [] : [each.tool])),
    ]);
    for (const sister of others) {
      const clear = taken.has(sister.tool)
        ? freeNumber(new Set([...used, ...taken]), highestTool)
        : sister.tool;
      // none that nobody is to have: where she is, or at least where nobody on this machine stands
      if (clear === null) without.push(sister.meaning);
      const to = clear ?? (used.has(sister.tool) ? freeNumber(used, highestTool) : sister.tool);
      if (to === null) continue;
      used.add(to);
      change(sister, to);
      sisters.push({ machine, tool: to, meaning: sister.meaning });
    }
  }
  return {
    wanted: meanings
      .flatMap((meaning, i) => (toolOf[i] === null ? [] : [{ tool: toolOf[i]!, meaning }]))
      .sort((a, b) => a.tool - b.tool),
    changes,
    sisters,
    without: [...new Set(without)],
    proven: dealt.proven,
  };
}

/** Of sisters none of which has the T, the one whose own is taken by another meaning changes; else the lowest. */
const pickMain = (tools: readonly MeantTool[], taken: ReadonlySet<number>) =>
  tools.find((each) => taken.has(each.tool)) ?? tools[0]!;

function freeNumber(used: ReadonlySet<number>, highest: number): number | null {
  for (let tool = 1; tool <= highest; tool += 1) if (!used.has(tool)) return tool;
  return null;
}

function groupsOf(machines: readonly MachineTools[], meanings: readonly string[]): Group[] {
  const at = new Map(meanings.map((meaning, i) => [meaning, i]));
  return machines.flatMap(({ tools }, machine) => {
    const found = new Map<number, MeantTool[]>();
    for (const each of [...tools].sort((a, b) => a.tool - b.tool)) {
      const meaning = at.get(each.meaning)!;
      found.set(meaning, [...(found.get(meaning) ?? []), each]);
    }
    return [...found].map(([meaning, own]) => ({ machine, meaning, tools: own }));
  });
}

/** T that may be dealt out: those that stand, and as many free ones as there are meanings, the lowest. */
function candidates(machines: readonly MachineTools[], meanings: number, highest: number): number[] {
  const stand = new Set(machines.flatMap(({ tools }) => tools.map((each) => each.tool)));
  const free: number[] = [];
  for (let tool = 1; tool <= highest && free.length < meanings; tool += 1)
    if (!stand.has(tool)) free.push(tool);
  return [...stand, ...free].filter((tool) => tool <= highest).sort((a, b) => a - b);
}

interface Dealt {
  at: (number | null)[];
  proven: boolean;
}

/** More than any numbering costs. */
const NEVER = 1e6;
/** What must be so is worth more than any numbering, and less than what must not be costs. */
const FORCED = 1e4;
/** A sister whose T another meaning takes: one change, and of equals rather another. */
const TAKEN = 1.001;

function fewest(
  groups: readonly Group[],
  meanings: number,
  numbers: readonly number[],
  highest: readonly number[],
): Dealt {
  /** The best numbering by the least that each choice costs, and that least. */
  function relaxed(decided: Branch['decided']): { at: (number | null)[]; least: number } {
    let always = 0;
    const cost = Array.from({ length: meanings }, (_, i) =>
      numbers.map((tool): number => (tool > highest[i]! ? NEVER : 0)),
    );
    const column = new Map(numbers.map((tool, i) => [tool, i]));
    for (const group of groups) {
      const own = group.tools.map((each) => column.get(each.tool)).filter((each) => each !== undefined);
      const state = decided.get(group);
      const mine = cost[group.meaning]!;
      if (group.tools.length === 1) {
        always += 1;
        for (const at of own) mine[at]! -= 1;
        continue;
      }
      if (state === 'one has this T')
        numbers.forEach((_, at) => {
          if (!own.includes(at)) mine[at] = NEVER;
        });
      else if (state !== undefined) for (const at of own) mine[at] = NEVER;
      if (state === 'none has it, none takes theirs') always += 1;
      // some other meaning must have this T: none is dearer than anything
      if (typeof state === 'object') {
        always += FORCED;
        for (let other = 0; other < meanings; other += 1)
          if (other !== group.meaning) cost[other]![column.get(state.tool)!]! -= FORCED;
      }
      // each of theirs that another meaning takes must change
      for (let other = 0; other < meanings; other += 1)
        if (other !== group.meaning)
          for (const at of own)
            cost[other]![at] = state === 'none has it, none takes theirs' ? NEVER : cost[other]![at]! + TAKEN;
    }
    const worth = cost.map((row) => row.map((each) => (each >= NEVER ? 0 : NEVER - each)));
    const at = bestAssignment(worth);
    const least = at.reduce((sum, col, i) => sum + (col < 0 ? NEVER : cost[i]![col]!), always);
    return { at: at.map((col) => (col < 0 ? null : numbers[col]!)), least };
  }
  /** What a numbering truly costs. */
  function truly(
    at: readonly (number | null)[],
    decided: Branch['decided'],
  ): { cost: number; doubted: Group | null } {
    const used = new Set(at);
    let [cost, doubted] = [0, null as Group | null];
    for (const group of groups) {
      const to = at[group.meaning];
      const has = group.tools.some((each) => each.tool === to);
      const taken = TAKEN * group.tools.filter((each) => each.tool !== to && used.has(each.tool)).length;
      if (group.tools.length > 1) cost += has ? taken : Math.max(1, taken);
      else cost += Number(!has);
      const settled = decided.get(group) === 'none has it, none takes theirs';
      if (group.tools.length > 1 && !has && taken === 0 && !settled) doubted ??= group;
    }
    return { cost, doubted };
  }
  let best: { at: (number | null)[]; cost: number } | null = null;
  const waiting: Branch[] = [{ decided: new Map(), least: 0 }];
  let left = MOST_BRANCHES;
  while (waiting.length > 0 && left > 0) {
    waiting.sort((a, b) => b.least - a.least);
    const { decided, least: known } = waiting.pop()!;
    if (best && known >= best.cost) continue;
    left -= 1;
    const { at, least } = relaxed(decided);
    const { cost, doubted } = truly(at, decided);
    // a meaning without a T costs more than anything
    const whole = cost + NEVER * at.filter((tool) => tool === null).length;
    if (!best || whole < best.cost) best = { at, cost: whole };
    if (least >= best.cost - 1e-9 || !doubted) continue;
    const ways: Decided[] = [
      'one has this T',
      'none has it, none takes theirs',
      ...doubted.tools.flatMap(({ tool }): Decided[] =>
        numbers.includes(tool) ? [{ takenBy: 'another', tool }] : [],
      ),
    ];
    for (const way of ways) waiting.push({ decided: new Map(decided).set(doubted, way), least });
  }
  return { at: best?.at ?? [], proven: waiting.every((each) => best !== null && each.least >= best.cost) };
}

/**
 * T numbers that do not mean the same everywhere: the T means different tools on two machines, or its tool stands under other T
 * only on another machine that has it, so that a program carried over finds nothing there.
 */
export function differing(machines: readonly MachineTools[]): number[] {
  const means = new Map<number, Set<string>>();
  const stands = new Map<string, Set<number>[]>();
  for (const { tools } of machines) {
    const here = new Map<string, Set<number>>();
    for (const { tool, meaning } of tools) {
      means.set(tool, (means.get(tool) ?? new Set()).add(meaning));
      here.set(meaning, (here.get(meaning) ?? new Set()).add(tool));
    }
    for (const [meaning, own] of here) stands.set(meaning, [...(stands.get(meaning) ?? []), own]);
  }
  const apart = [...stands.values()].flatMap((sets) =>
    [...sets[0]!].some((tool) => sets.every((own) => own.has(tool))) ? [] : sets.flatMap((own) => [...own]),
  );
  const mixed = [...means].flatMap(([tool, all]) => (all.size > 1 ? [tool] : []));
  return [...new Set([...mixed, ...apart])].sort((a, b) => a - b);
}
