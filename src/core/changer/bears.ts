import { traitsOf } from './traits.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { lengthOf, type Length, type LengthUnit } from '../units/length.ts';
import { ringLoad, turretSwing, type StandingTool } from './clearance.ts';
import { type ChangerShape } from './layout.ts';

/** What a machine's plate says of its changer as a whole (H5); null: nobody recorded it. */
export interface WholeLimits {
  unit: LengthUnit;
  /** Grams of all tools together. */
  heaviestAll: number | null;
  /** Kilogram millimetres out of balance. */
  unbalance: number | null;
  /** The diameter that a turret's tools may swing. */
  swing: Length | null;
}

/** A tool in the changer, and how far it stands out of a turret, millimetres. */
export interface BorneTool extends StandingTool {
  standOut: number;
}

export interface Bearing {
  /** Grams of all, and how far out of balance, kilogram millimetres, towards a pocket. */
  total: number;
  unbalance: number;
  towards: number | null;
  /** Millimetres across that a turret swings; null for other changers. */
  swing: number | null;
  /** What is over the plate, a sentence each: it must not be. */
  over: string[];
  /** What somebody should look at. */
  look: string[];
}

/**
 * What the changer bears as a whole against its plate: the mass of all tools, the balance of a ring, the swing of a turret. A
 * mass or a swing over the plate must not be; a ring out of balance passes through such states while it is loaded, so it is
 * something to look at.
 */
export function bearing(shape: ChangerShape, limits: WholeLimits, tools: readonly BorneTool[]): Bearing {
  const { total, unbalance, towards } = ringLoad(shape, tools);
  const swing = !traitsOf(shape).hangs
    ? turretSwing(
        shape,
        tools.map((tool) => tool.standOut),
      )
    : null;
  const over: string[] = [];
  const look: string[] = [];
  const kilograms = (grams: number) => `${(grams / 1000).toFixed(1)} kg`;
  if (traitsOf(shape).hangs && limits.heaviestAll !== null && total > limits.heaviestAll)
    over.push(
      `The changer would bear ${kilograms(total)}; its plate says ${kilograms(limits.heaviestAll)} for all tools together.`,
    );
  const ring = traitsOf(shape).balances;
  if (ring && limits.unbalance !== null && unbalance > limits.unbalance)
    look.push(
      `The ring is ${(unbalance / 1000).toFixed(1)} kg·m out of balance towards pocket ${towards}; its plate says ${(limits.unbalance / 1000).toFixed(1)} kg·m. Spread heavy tools round it.`,
    );
  if (swing !== null && limits.swing !== null && lengthOf(swing, 'mm') > limits.swing) {
    const show = (value: Length) =>
      formatWithUnit(value, limits.unit, { decimals: limits.unit === 'mm' ? 0 : 2 });
    over.push(
      `The turret would swing ${show(lengthOf(swing, 'mm'))} across; its plate says ${show(limits.swing)}.`,
    );
  }
  return {
    total,
    unbalance: ring ? unbalance : 0,
    towards: ring ? towards : null,
    swing,
    over,
    look,
  };
}
