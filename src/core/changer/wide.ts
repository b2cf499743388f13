import { traitsOf } from './traits.ts';
import { neighbours } from './neighbours.ts';
import type { ChangerShape } from './layout.ts';

/** A pocket as the table has it, and the T it holds. */
export interface TablePocket {
  number: number;
  tool: number | null;
  wide: boolean;
  /** The T that a declared pocket is tied to. */
  tied: number | null;
  inService: boolean;
  reserved: boolean;
}

export interface WideQuestion {
  shape: ChangerShape;
  pockets: readonly TablePocket[];
  /** The pocket to be declared wide, and the T that will live there. */
  pocket: number;
  tool: number;
  /** The pocket at the spindle: the one that was called last, whether it gave a tool or took one; null when nobody knows. */
  atSpindle: number | null;
  /** The T in the spindle. */
  spindleTool: number | null;
  highestTool: number;
  /** Somebody looked: pocket and neighbours are empty in the metal, not only on the table. */
  seenEmpty: boolean;
}

/** Why a pocket may not be declared wide now, each reason by itself; empty when it may (H5). */
export function wideRefusals(q: WideQuestion): string[] {
  const table = new Map(q.pockets.map((pocket) => [pocket.number, pocket]));
  const own = table.get(q.pocket);
  if (!own) return [`There is no pocket ${q.pocket}.`];
  const said: string[] = [];
  if (traitsOf(q.shape).ownPlaces)
    said.push(
      'On this changer nothing is declared: T n lives in pocket n, and room is left beside it by choosing the T numbers.',
    );
  if (!own.inService) said.push(`Pocket ${q.pocket} is out of service.`);
  if (own.reserved) said.push(`Pocket ${q.pocket} is reserved.`);
  if (own.wide) said.push(`Pocket ${q.pocket} is already declared wide, for T${own.tied}.`);
  if (q.atSpindle === q.pocket)
    said.push(`Pocket ${q.pocket} is the one at the spindle: call another pocket first.`);
  if (!Number.isInteger(q.tool) || q.tool < 1 || q.tool > q.highestTool)
    said.push(`T must be a whole number from 1 to ${q.highestTool}.`);
  const elsewhere = q.pockets.find(
    (each) => each.number !== q.pocket && (each.tool === q.tool || each.tied === q.tool),
  );
  if (elsewhere)
    said.push(
      elsewhere.tied === q.tool
        ? `T${q.tool} is tied to pocket ${elsewhere.number}.`
        : `T${q.tool} is already on the table, in pocket ${elsewhere.number}.`,
    );
  if (q.spindleTool === q.tool) said.push(`T${q.tool} is in the spindle: put it away or take it out first.`);
  if (own.tool !== null) said.push(`Pocket ${q.pocket} holds T${own.tool} on the table: make room first.`);
  for (const number of neighbours(q.shape).get(q.pocket) ?? []) {
    const beside = table.get(number)!;
    if (beside.wide) said.push(`Its neighbour ${number} is declared wide itself.`);
    else if (beside.tool !== null)
      said.push(`Its neighbour ${number} holds T${beside.tool} on the table: make room first.`);
  }
  if (!q.seenEmpty)
    said.push(
      `Look into the magazine: pocket ${q.pocket} and both neighbours must be empty in the metal too. The table alone does not know.`,
    );
  return said;
}

/** Pockets that declared wide pockets take, themselves and their neighbours; two that share a gap share the pocket in it. */
export function pocketsTaken(shape: ChangerShape, wide: readonly number[]): Set<number> {
  const beside = neighbours(shape);
  return new Set(wide.flatMap((pocket) => [pocket, ...(beside.get(pocket) ?? [])]));
}

/** The declared wide pocket that makes this one unusable, if there is one. */
export const blockedBy = (shape: ChangerShape, wide: ReadonlySet<number>, pocket: number): number | null =>
  (neighbours(shape).get(pocket) ?? []).find((number) => wide.has(number)) ?? null;
