import type { CycleUse } from './count.ts';
import { toCut } from './night-bound.ts';
import {
  bestOrder,
  perPart,
  playNight,
  type NightGroup,
  type NightProgram,
  type NightQuestion,
  type NightTool,
  type NightWhy,
} from './night.ts';

/** The whole answer for a queue in its present order. */
export const answerNight = (question: NightQuestion) => ({
  play: playNight(
    question,
    question.pallets.map(({ id }) => id),
  ),
  best: bestOrder(question),
  shortages: shortages(question),
});

/** What is lacking of a tool for the whole queue, whatever its order, and what would help. */
export interface Shortage {
  /** T, or the number of the group. */
  tool: number;
  why: NightWhy;
  /** Uses, or milliseconds in cut, that all pallets together take beyond what there is. */
  lacking: number;
  /** Full-lived sisters of the one in use that would see it through; null: sisters do not help. */
  sisters: number | null;
  /** Changed before leaving it would last, and this is what of its life is thrown away; null: a fresh edge does not last either. */
  wasted: number | null;
}

/** Tools that do not last for all pallets (H18): the smallest number of sisters for each, and what changing early wastes. */
export function shortages(question: NightQuestion): Shortage[] {
  const called = new Map<number, { program: NightProgram; use: CycleUse; parts: number }[]>();
  for (const pallet of question.pallets) {
    if (pallet.isolated) continue;
    const program = question.programs.find((each) => each.program === pallet.program)!;
    for (const { tool, use } of program.uses)
      called.set(tool, [...(called.get(tool) ?? []), { program, use, parts: toCut(pallet) }]);
  }
  return [...called].flatMap(([tool, calls]): Shortage[] => {
    const group = question.groups.find(({ number }) => number === tool);
    const members = group?.members ?? question.tools.filter((each) => each.tool === tool);
    const hard = members.find(({ flag }) => flag === 'broken' || flag === 'locked');
    if (members.length === 0) return [{ tool, why: 'missing', lacking: 0, sisters: null, wasted: null }];
    if (hard?.flag === 'broken' || (!group && hard?.flag === 'locked'))
      return [{ tool, why: hard.flag, lacking: 0, sisters: null, wasted: null }];
    const others = sharing(tool, question).filter((number) => called.has(number));
    const alone = (over: Partial<NightTool>[], extra: number): boolean =>
      stopsAt(
        tool,
        others,
        members.map((member, i) => ({ ...member, ...over[i] })),
        extra,
        question,
      );
    if (!alone([], 0)) return [];
    const counted = members.find(({ life }) => life)?.life;
    const need = counted
      ? calls.reduce(
          (sum, { use, parts }) => sum + parts * perPart(counted.basis, use, counted.perPart ?? 0),
          0,
        )
      : 0;
    const have = members.reduce(
      (sum, { life, flag }) => sum + (flag ? 0 : Math.max(0, life?.remaining ?? 0)),
      0,
    );
    let sisters: number | null = null;
    // of a T that is one of a group sisters do not help: it is called by its own number
    for (
      let extra = 1;
      extra <= MOST_SISTERS && sisters === null && (group || others.length === 0);
      extra += 1
    )
      if (!alone([], extra)) sisters = extra;
    const renewed = members.map(({ life }) => ({
      flag: null,
      fresh: false,
      life: life && { ...life, remaining: life.limit },
    }));
    const wasted = alone(renewed, 0)
      ? null
      : members.reduce((sum, { life }) => sum + Math.max(0, life?.remaining ?? 0), 0);
    return [{ tool, why: group ? 'out' : 'expired', lacking: Math.max(0, need - have), sisters, wasted }];
  });
}

const MOST_SISTERS = 20;

/** What wears the same edges by another number: the group that a T is one of, and its members that are called by their own T. */
function sharing(tool: number, { groups, tools }: NightQuestion): number[] {
  const group = groups.find(
    ({ number, members }) => number === tool || members.some((member) => member.tool === tool),
  );
  if (!group) return [];
  const own = group.members.filter((member) => tools.some((each) => each.tool === member.tool));
  return [group.number, ...own.map((member) => member.tool)].filter((number) => number !== tool);
}

const freshSisters = (life: NightTool['life'], count: number) =>
  Array.from({ length: count }, (_, i) => ({
    tool: 1_000_000 + i,
    role: 'spare' as const,
    fresh: false,
    flag: null,
    life: life && { ...life, remaining: life.limit },
  }));

/**
 * Whether the queue stops at a number, were nothing else called: whether it lasts does not hang on the other tools. Only those that wear the
 * same edges are called too; one of them that stops it first is seen to, once.
 *
 * @param members the edges under the number, as they are asked about
 * @param extra full-lived sisters beside them
 */
function stopsAt(
  tool: number,
  others: readonly number[],
  members: readonly (NightTool & Partial<NightGroup['members'][number]>)[],
  extra: number,
  question: NightQuestion,
): boolean {
  const group = question.groups.find(({ number }) => number === tool);
  const counted = members.find(({ life }) => life)?.life ?? null;
  const asked = (each: NightTool) => members.find((own) => own.tool === each.tool) ?? each;
  const more = <G extends NightGroup>(to: G, count: number): G =>
    count === 0
      ? to
      : {
          ...to,
          rules: { ...to.rules, spares: true },
          members: [...to.members, ...freshSisters(counted, count)],
        };
  const alone: NightGroup = {
    number: tool,
    rules: group?.rules ?? { next: 'lowest', renewed: 'spareRuns', spares: true },
    inUse: group?.inUse ?? null,
    members: members.map((each) => ({ role: 'original' as const, fresh: false, ...each })),
  };
  // a T whose group is called too is a tool of its own: sisters are of no help to it
  const single = !group && others.length > 0;
  const groups = question.groups.filter(({ number }) => others.includes(number));
  let only: NightQuestion = {
    ...question,
    school: 'stop',
    programs: question.programs.map((program) => ({
      ...program,
      uses: program.uses.filter((each) => each.tool === tool || others.includes(each.tool)),
    })),
    tools: [
      ...question.tools.filter((each) => others.includes(each.tool)).map(asked),
      ...(single ? members : []),
    ],
    groups: single ? groups : [...groups, more(alone, extra)],
  };
  const order = question.pallets.map(({ id }) => id);
  const seenTo = new Set<number>();
  for (;;) {
    const { stop } = playNight(only, order);
    if (stop === null || seenTo.has(stop.tool)) return false;
    if (stop.tool === tool) return true;
    seenTo.add(stop.tool);
    only = {
      ...only,
      tools: only.tools.map((each) =>
        each.tool === stop.tool
          ? { ...each, flag: null, life: each.life && { ...each.life, remaining: each.life.limit } }
          : each,
      ),
      groups: only.groups.map((each) =>
        each.number === stop.tool
          ? more({ ...each, members: each.members.filter(({ flag }) => flag !== 'broken') }, MOST_SISTERS)
          : each,
      ),
    };
  }
}
