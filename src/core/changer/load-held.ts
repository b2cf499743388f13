import { traitsOf } from './traits.ts';
import { clears, strikes, withinReach } from './clearance.ts';
import type { FoundState, FoundTool } from './load-plan.ts';
import type { ChangerShape } from './layout.ts';
import { indexSteps, neighbours } from './neighbours.ts';
import { noArmWords } from './where.ts';
import type { Wanted, WantedTool } from './wanted.ts';

/** A tool of a plan that waits, and what it waits for. */
export interface HeldTool {
  wanted: WantedTool;
  reason: string;
}

/** The pocket that a tool belongs in whatever is planned: declared wide for its T, or kept for it; null: none. */
export const ownPocket = ({ pockets }: FoundState, tool: Pick<FoundTool, 'tool' | 'home'>): number | null =>
  pockets.find(({ tied }) => tied !== null && tied === tool.tool)?.number ?? tool.home ?? null;

/**
 * Whether a tool must leave the machine to come to where it is wanted: under another T, to another place where T n lives in pocket n, or
 * into a pocket that is declared wide for it first, since a T that is declared may not be on the table (H5).
 */
export function comesOut(
  { shape, pockets }: { shape: ChangerShape; pockets: readonly { number: number; wide: boolean }[] },
  wish: WantedTool | undefined,
  { tool }: Pick<FoundTool, 'tool'>,
  pocket: number,
): boolean {
  if (!wish) return false;
  if (wish.tool !== tool) return true;
  if (wish.pocket === pocket) return false;
  if (!traitsOf(shape).exchanges) return pocket > 0;
  return wish.wide && pockets.find(({ number }) => number === wish.pocket)?.wide === false;
}

/**
 * The tools of a plan that cannot come to their places as the machine stands, each with the reason: its pocket is out of service,
 * kept, or declared for another T, or held by something the plan does not name, or beside what it would strike or what is declared wide, or
 * its T is there already or tied to another pocket, or the tool itself may not be loaded or carried. One that waits stays where it stands, and may keep another out: so they are looked for until no more are found. What
 * must be built waits for nothing here.
 */
export function heldBack(state: FoundState, wanted: Wanted): HeldTool[] {
  const held = new Map<WantedTool, string>();
  const byAssembly = new Map(wanted.tools.map((each) => [each.assemblyId, each]));
  const out = new Set(wanted.out);
  /** Whether it stays where it stands: the plan does not name it, or it waits. */
  const stays = (tool: FoundTool) => {
    if (out.has(tool.assemblyId)) return false;
    const wish = byAssembly.get(tool.assemblyId);
    return wish === undefined || held.has(wish);
  };
  for (let before = -1; before !== held.size;) {
    before = held.size;
    const standing = state.pockets.filter((pocket) => pocket.content && stays(pocket.content));
    for (const each of wanted.tools) {
      if (each.assemblyId === null || held.has(each)) continue;
      const others = wanted.tools.filter((other) => other !== each && !held.has(other));
      const reason = reasonOf(state, each, { standing, others, stays });
      if (reason !== null) held.set(each, reason);
    }
  }
  return [...held].map(([each, reason]) => ({ wanted: each, reason }));
}

/** What keeps the tool itself: it may not be loaded, or not be carried by the changer. */
function ownReason(state: FoundState, wish: WantedTool): string | null {
  const at = [
    { number: 0, content: state.spindle },
    ...state.pockets.map(({ number, content }) => ({ number, content })),
  ].find(({ content }) => content?.assemblyId === wish.assemblyId);
  if (!at?.content || comesOut(state, wish, at.content, at.number))
    return wish.kept?.loading ?? wish.kept?.pocket ?? null;
  return at.content.noArm
    ? noArmWords(at.content.noArm, `T${wish.tool} (${wish.number})`)
    : (wish.kept?.pocket ?? null);
}

function reasonOf(
  state: FoundState,
  wish: WantedTool,
  {
    standing,
    others,
    stays,
  }: {
    standing: FoundState['pockets'];
    /** What else the plan wants, and does not wait. */
    others: readonly WantedTool[];
    stays: (tool: FoundTool) => boolean;
  },
): string | null {
  const { pocket: number, tool, assemblyId, wide, radius } = wish;
  const pocket = state.pockets.find((each) => each.number === number);
  if (!pocket) return `There is no pocket ${number}.`;
  if (pocket.content?.assemblyId === assemblyId && pocket.content.tool === tool) return null;
  const own = ownReason(state, wish);
  if (own !== null) return own;
  if (!pocket.inService) return `Pocket ${number} is out of service.`;
  if (pocket.wide && typeof pocket.tied === 'number' && pocket.tied !== tool)
    return `Pocket ${number} is declared wide for T${pocket.tied}.`;
  const tied = state.pockets.find((each) => each.tied === tool && each.number !== number);
  if (tied)
    return `T${tool} is tied to pocket ${tied.number}, which is declared wide for it: with the tool out of the machine that can be taken off.`;
  const there = standing.find((each) => each.number === number)?.content;
  if (there)
    return `T${there.tool} (${there.number}) stands in pocket ${number}, and the plan does not say where it goes.`;
  const same = [state.spindle, ...standing.map((each) => each.content)].find(
    (each) => each && each.tool === tool && each.assemblyId !== assemblyId && stays(each),
  );
  if (same) return `T${tool} is already in the machine, as ${same.number}: a T is unique on a machine.`;
  const beside = neighbours(state.shape).get(number)!;
  const declared = state.pockets.find((each) => each.wide && beside.includes(each.number));
  if (declared) return `Pocket ${number} is beside pocket ${declared.number}, which is declared wide.`;
  const loner = standing.find((each) => beside.includes(each.number) && each.content!.alone);
  if (loner)
    return `T${loner.content!.tool} (${loner.content!.number}) in pocket ${loner.number} is so wide that pocket ${number} beside it must stay empty.`;
  const neighbour = wide && standing.find((each) => beside.includes(each.number));
  if (neighbour)
    return `T${tool} is wide, and T${neighbour.content!.tool} (${neighbour.content!.number}) stands beside pocket ${number}, in pocket ${neighbour.number}.`;
  // one that was built wider since the plan was made
  const close = wide && others.find((each) => beside.includes(each.pocket));
  if (close)
    return `T${tool} is wide, and T${close.tool} (${close.number}) is wanted beside pocket ${number}, in pocket ${close.pocket}.`;
  if (radius === null || !traitsOf(state.shape).hangs) return null;
  const reach = withinReach(
    state.shape,
    Math.max(radius, ...standing.map((each) => each.content!.radius ?? 0)),
    0,
  );
  for (const other of reach.get(number) ?? []) {
    const struck = standing.find((each) => each.number === other.number)?.content;
    if (struck?.radius && strikes(other.apart, radius, struck.radius))
      return `T${tool} in pocket ${number} would strike T${struck.tool} (${struck.number}) in pocket ${other.number}.`;
  }
  return null;
}

/** Whether a tool may hang in a pocket as things stand: no wide tool and nothing that it would strike beside it. */
export function mayHang(state: FoundState, pocket: number, tool: FoundTool): boolean {
  const beside = neighbours(state.shape).get(pocket)!;
  if (state.pockets.some((each) => each.wide && each.number !== pocket && beside.includes(each.number)))
    return false;
  if (
    beside.some(
      (number) =>
        (state.pockets[number - 1]!.content?.alone ?? false) ||
        (tool.alone && state.pockets[number - 1]!.content),
    )
  )
    return false;
  if (state.pockets[pocket - 1]!.wide && beside.some((number) => state.pockets[number - 1]!.content))
    return false;
  if (tool.radius === null) return true;
  const radii = new Map(
    state.pockets.flatMap(({ number, content }) =>
      content?.radius && number !== pocket ? [[number, content.radius] as const] : [],
    ),
  );
  const reach = withinReach(state.shape, Math.max(tool.radius, ...radii.values()), 0);
  return clears(reach, pocket, tool.radius, radii, 0);
}

/**
 * Another pocket for a tool that waits: the nearest that may be used, that nothing stands in or is wanted in, and where nothing that
 * stands or is to stand strikes it. Null where there is none, or where T n lives in pocket n.
 */
export function otherPocket(state: FoundState, wanted: Wanted, tool: WantedTool): number | null {
  if (traitsOf(state.shape).ownPlaces) return null;
  const others = wanted.tools.filter((each) => each !== tool);
  const taken = new Set(others.map((each) => each.pocket));
  const gone = new Set(wanted.out);
  const moved = new Set(others.map((each) => each.assemblyId));
  const stay = state.pockets.filter(
    ({ content }) =>
      content &&
      !gone.has(content.assemblyId) &&
      !moved.has(content.assemblyId) &&
      content.assemblyId !== tool.assemblyId,
  );
  const wideAt = new Set([
    ...state.pockets.filter((each) => each.wide).map((each) => each.number),
    ...others.filter((each) => each.wide).map((each) => each.pocket),
  ]);
  const occupied = new Set([...taken, ...stay.map((each) => each.number)]);
  const radii = new Map<number, number>();
  for (const { number, content } of stay) if (content!.radius) radii.set(number, content!.radius);
  for (const { pocket, radius } of others) if (radius !== null) radii.set(pocket, radius);
  const beside = neighbours(state.shape);
  const reach = withinReach(state.shape, Math.max(0, tool.radius ?? 0, ...radii.values()), 0);
  const may = state.pockets.filter(({ number, inService, reserved, wide }) => {
    if (!inService || reserved || wide || occupied.has(number)) return false;
    const around = beside.get(number)!;
    if (around.some((each) => wideAt.has(each))) return false;
    if (tool.wide && around.some((each) => occupied.has(each))) return false;
    return tool.radius === null || clears(reach, number, tool.radius, radii, 0);
  });
  const far = ({ number }: { number: number }) => indexSteps(state.shape, number, tool.pocket);
  return [...may].sort((a, b) => far(a) - far(b) || a.number - b.number)[0]?.number ?? null;
}
