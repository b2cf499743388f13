import { traitsOf } from './traits.ts';
import { clears, withinReach } from './clearance.ts';
import type { Length } from '../units/length.ts';
import type { ChangerShape } from './layout.ts';
import { neighbours } from './neighbours.ts';

/** A tool as a plan wants it to stand. */
export interface WantedTool {
  /** The physical piece; null: it must be built first. */
  assemblyId: number | null;
  /** Its number, or what is asked for. */
  number: string;
  name: string;
  tool: number;
  pocket: number;
  /** The pocket is to be declared wide for it, or its neighbours kept empty. */
  wide: boolean;
  heavy: boolean;
  /** Half its largest width, millimetres; null when nobody knows. */
  radius: number | null;
  /** How it must stand in the spindle (H10); null: it does not matter. */
  orientation: 'tip' | 'probe' | null;
  /** The program that asks for it and the T it is called by there, to build it from; null: nothing is to be built. */
  asked?: { program: number; tool: number } | null;
  /** Told anew at each look: what else keeps it as things stand; nothing: it may come. */
  kept?: KeptOut | null;
}

/** Why a wanted tool may not come, as far as the magazine alone does not tell. */
export interface KeptOut {
  /** It may not be loaded: it is broken, in another machine, too heavy… */
  loading: string | null;
  /** It may not stand in that pocket. */
  pocket: string | null;
}

/** Where a machine is to come to: what stands where, and what is to be gone. */
export interface Wanted {
  tools: WantedTool[];
  /** Assemblies to be taken out. */
  out: number[];
}

/** Fine boring bars face a way, and a probe goes in the same way round for ever (H10). */
export const orientationOf = (kind: string): WantedTool['orientation'] =>
  kind === 'boringBar' ? 'tip' : kind === 'probe' ? 'probe' : null;

/** A pocket as the table has it, and what stands in it. */
export interface WantedPocket {
  number: number;
  inService: boolean;
  reserved: boolean;
  wide: boolean;
  tied: number | null;
  /** The largest diameter that goes in; null: as the plate says. */
  cell: Length | null;
  assemblyId: number | null;
}

/** How wide an assembly is: half of it as its neighbours meet it, millimetres, and the whole. */
export interface Width {
  radius: number;
  widest: Length;
}

/**
 * Why an aim could never stand in a machine: a T or a pocket twice or not there, a pocket that may not be used, a wide tool
 * with a neighbour, a holder larger than its cell, or two tools that would strike each other. Null when it can. `widths` by
 * assembly; what is not built yet is not held against anything.
 */
export function wantedFault(
  shape: ChangerShape,
  highestTool: number,
  pockets: readonly WantedPocket[],
  { tools, out }: Wanted,
  widths: ReadonlyMap<number, Width>,
): string | null {
  const twice = (values: readonly number[]) => values.find((value, i) => values.indexOf(value) !== i);
  const pocketTwice = twice(tools.map((each) => each.pocket));
  if (pocketTwice !== undefined) return `Two tools are wanted in pocket ${pocketTwice}.`;
  const toolTwice = twice(tools.map((each) => each.tool));
  if (toolTwice !== undefined) return `T${toolTwice} is wanted twice.`;
  const table = new Map(pockets.map((pocket) => [pocket.number, pocket]));
  const beside = neighbours(shape);
  const aimed = new Map(tools.map((each) => [each.pocket, each]));
  const declared = pockets.filter((pocket) => pocket.wide);
  const stays = new Set(
    pockets.flatMap(({ assemblyId }) =>
      assemblyId !== null &&
      !out.includes(assemblyId) &&
      !tools.some((each) => each.assemblyId === assemblyId)
        ? [assemblyId]
        : [],
    ),
  );
  const occupied = new Set([
    ...aimed.keys(),
    ...pockets.filter((pocket) => stays.has(pocket.assemblyId ?? 0)).map((pocket) => pocket.number),
  ]);
  const radiusAt = new Map<number, number>();
  for (const number of occupied) {
    // what leaves a pocket is in nobody's way there
    const wish = aimed.get(number);
    const id = wish ? wish.assemblyId : (table.get(number)?.assemblyId ?? null);
    const radius = id === null ? undefined : widths.get(id)?.radius;
    if (radius !== undefined) radiusAt.set(number, radius);
  }
  const reach = withinReach(shape, Math.max(0, ...radiusAt.values()), 0);
  for (const each of tools) {
    const pocket = table.get(each.pocket);
    if (!pocket || each.tool < 1 || each.tool > highestTool)
      return `T${each.tool} in pocket ${each.pocket}: this machine has no such place or T.`;
    const there = pocket.assemblyId !== null && pocket.assemblyId === each.assemblyId;
    if (!there && !pocket.inService) return `Pocket ${each.pocket}, for T${each.tool}, is out of service.`;
    if (!there && pocket.wide && pocket.tied !== each.tool)
      return `Pocket ${each.pocket} is declared wide for T${pocket.tied}: T${each.tool} cannot stand there.`;
    const width = each.assemblyId === null ? undefined : widths.get(each.assemblyId);
    if (!there && width && pocket.cell !== null && width.widest > pocket.cell)
      return `T${each.tool} does not fit the cell of pocket ${each.pocket}.`;
    const blocking = declared.find(
      (other) => other.number !== each.pocket && beside.get(other.number)?.includes(each.pocket),
    );
    if (blocking)
      return `Pocket ${each.pocket}, for T${each.tool}, is beside pocket ${blocking.number}, which is declared wide.`;
    const neighbour = each.wide ? beside.get(each.pocket)?.find((number) => occupied.has(number)) : undefined;
    if (neighbour !== undefined)
      return `T${each.tool} is wide: pocket ${neighbour} beside it must stay empty.`;
    const own = radiusAt.get(each.pocket);
    if (own !== undefined && traitsOf(shape).hangs && !clears(reach, each.pocket, own, radiusAt, 0))
      return `T${each.tool} in pocket ${each.pocket} would strike the tool beside it.`;
  }
  return null;
}
