import { traitsOf } from './traits.ts';
import { formatWithUnit } from '../units/format-length.ts';
import type { Length, LengthUnit } from '../units/length.ts';
import { type ChangerShape } from './layout.ts';
import { strikes, withinReach } from './clearance.ts';
import { neighbours } from './neighbours.ts';
import type { TablePocket } from './wide.ts';
import { blockedBy } from './wide.ts';
import type { Where } from './where.ts';

export interface StandingQuestion {
  shape: ChangerShape;
  /** Every pocket of the table. */
  pockets: readonly (TablePocket & { cell: Length | null })[];
  pocket: number;
  tool: number;
  /** The largest width of the assembly, and half of it as its neighbours meet it, millimetres. */
  widest: Length;
  radius: number;
  /** Half the largest widths of what stands in the other pockets. */
  standing: ReadonlyMap<number, number>;
  /** Other pockets whose tools must have their neighbours empty, by the plate. */
  alone: ReadonlySet<number>;
  /** What the machine's plate says of this assembly. */
  where: Where;
  /** The machine's own, for the words. */
  unit: LengthUnit;
}

const size = (value: Length, unit: LengthUnit) =>
  formatWithUnit(value, unit, { decimals: unit === 'mm' ? 1 : 2 });

/** The pocket whose tool one of this radius would strike, and how far apart the two hang; null where it hangs clear. Millimetres. */
export function struckAt(
  shape: ChangerShape,
  pocket: number,
  radius: number,
  standing: ReadonlyMap<number, number>,
): { number: number; apart: number } | null {
  const reach = withinReach(shape, Math.max(radius, ...standing.values(), 0)).get(pocket) ?? [];
  const struck = reach.find(({ number, apart }) => {
    const other = standing.get(number);
    return number !== pocket && other !== undefined && strikes(apart, radius, other);
  });
  return struck ?? null;
}

/**
 * Why an assembly may not stand in a pocket because of what is beside it or what the changer bears (H5); null when it may.
 * Width on the table and width in the metal are two questions, and both are asked.
 */
export function standingRefusal(q: StandingQuestion): string | null {
  const own = q.pockets.find((each) => each.number === q.pocket)!;
  const wide = new Set(q.pockets.filter((each) => each.wide).map((each) => each.number));
  const blocking = blockedBy(q.shape, wide, q.pocket);
  if (blocking !== null)
    return `Pocket ${q.pocket} is beside pocket ${blocking}, which is declared wide: it must stay empty.`;
  if (own.wide && own.tied !== q.tool)
    return `Pocket ${q.pocket} is declared wide and tied to T${own.tied}: no other T goes there.`;
  if (own.cell !== null && q.widest > own.cell)
    return `Pocket ${q.pocket} takes holders up to ${size(own.cell, q.unit)}, and this is ${size(q.widest, q.unit)} across.`;
  const home = q.pockets.find((each) => each.tied === q.tool);
  if (home && home.number !== q.pocket) return `T${q.tool} is tied to pocket ${home.number} for good.`;
  if (!traitsOf(q.shape).hangs) return null;
  if (q.where.verdict === 'byHand')
    return `The changer must not take it: ${q.where.reasons.join(', ')}. It is loaded into the spindle by hand, and taken out by hand.`;
  const declares = traitsOf(q.shape).exchanges;
  if (q.where.verdict === 'neighboursEmpty' && declares && !own.wide)
    return `Declare pocket ${q.pocket} wide first: ${q.where.reasons.join(', ')}.`;
  // where nothing is declared the plate's word holds all the same
  const around = declares ? [] : neighbours(q.shape).get(q.pocket)!;
  const neighbour =
    q.where.verdict === 'neighboursEmpty' ? around.find((each) => q.standing.has(each)) : undefined;
  if (neighbour !== undefined)
    return `The pockets beside it must be empty, and something stands in pocket ${neighbour}: ${q.where.reasons.join(', ')}.`;
  const alone = around.find((each) => q.alone.has(each));
  if (alone !== undefined)
    return `What stands in pocket ${alone} is so wide that pocket ${q.pocket} beside it must stay empty.`;
  const struck = struckAt(q.shape, q.pocket, q.radius, q.standing);
  if (!struck) return null;
  const beside = q.pockets.find((each) => each.number === struck.number);
  const over = q.radius + q.standing.get(struck.number)! - struck.apart;
  // what is in the spindle goes back there
  const whose = beside?.tool ?? beside?.tied ?? (traitsOf(q.shape).ownPlaces ? struck.number : '?');
  return `It would strike T${whose} in pocket ${struck.number} by ${over.toFixed(1)} mm.`;
}
