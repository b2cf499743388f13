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
  /** The T that each meaning is to have on all of them. */
  wanted: { tool: number; meaning: string }[];
  changes: Renumbering[];
  /** Tools that stand twice on a machine under one meaning: sisters, which keep a T of their own. */
  sisters: { machine: string; tool: number; meaning: string }[];
}

/**
 * Gives every meaning one T on all machines with the fewest re-numberings: each tool that has its T already need not be
 * touched, so the T are dealt out to keep the most of them, which is an assignment. A meaning that none could keep takes the
 * lowest T that is free.
 */
export function makeAlike(machines: readonly MachineTools[]): AlikePlan {
  const highest = Math.min(...machines.map((machine) => machine.highestTool));
  const first = machines.map(({ machine, tools }) => {
    const seen = new Set<string>();
    const sorted = [...tools].sort((a, b) => a.tool - b.tool);
    return {
      machine,
      own: sorted.filter(({ meaning }) => !seen.has(meaning) && seen.add(meaning)),
      sorted,
    };
  });
  const meanings = [...new Set(first.flatMap(({ own }) => own.map((each) => each.meaning)))].sort();
  const sisters = first.flatMap(({ machine, own, sorted }) =>
    sorted.filter((each) => !own.includes(each)).map(({ tool, meaning }) => ({ machine, tool, meaning })),
  );
  const kept = new Set(sisters.map((each) => each.tool));
  const free = Array.from({ length: highest }, (_, i) => i + 1).filter((tool) => !kept.has(tool));
  const worth = meanings.map((meaning) =>
    free.map(
      (tool) =>
        first.filter(({ own }) => own.some((each) => each.tool === tool && each.meaning === meaning)).length,
    ),
  );
  const dealt = bestAssignment(worth).map((column) => (column < 0 ? null : free[column]!));
  const taken = new Set(dealt);
  for (let i = 0; i < dealt.length; i += 1)
    if (dealt[i] === null) {
      dealt[i] = free.find((tool) => !taken.has(tool)) ?? null;
      taken.add(dealt[i]!);
    }
  const toolOf = new Map(meanings.map((meaning, i) => [meaning, dealt[i]!]));
  return {
    wanted: meanings
      .map((meaning) => ({ tool: toolOf.get(meaning)!, meaning }))
      .sort((a, b) => a.tool - b.tool),
    changes: first.flatMap(({ machine, own }) =>
      own
        .filter((each) => toolOf.get(each.meaning) !== each.tool)
        .map(({ assembly, meaning, tool }) => ({
          machine,
          assembly,
          meaning,
          from: tool,
          to: toolOf.get(meaning)!,
        })),
    ),
    sisters,
  };
}

/** T numbers that mean different tools on different machines, with what each means. */
export const differing = (machines: readonly MachineTools[]): number[] =>
  [...new Set(machines.flatMap(({ tools }) => tools.map((each) => each.tool)))]
    .filter(
      (tool) =>
        new Set(
          machines.flatMap(({ tools }) =>
            tools.filter((each) => each.tool === tool).map((each) => each.meaning),
          ),
        ).size > 1,
    )
    .sort((a, b) => a - b);
