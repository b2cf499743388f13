import type { ChangerShape } from './layout.ts';
import { traitsOf } from './traits.ts';
import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';

/** What a machine's plate says of its changer (H5); null: nobody recorded it. */
export interface ChangerLimits {
  machine: string;
  unit: LengthUnit;
  interface: string;
  longest: Length | null;
  /** With tools in the neighbouring pockets, and with the neighbours empty. */
  widest: Length | null;
  widestAlone: Length | null;
  /** Grams. */
  heaviest: number | null;
  /** Newton metres about the gauge line. */
  moment: number | null;
  highestSpeed: number;
}

/** What is held against the limits. */
export interface Carried {
  interface: string;
  gaugeLength: Length;
  widest: Length;
  mass: number | null;
  moment: number | null;
  speedLimit: number | null;
  /** Why the spindle would not hold it: knob or coolant. */
  drawbar: string | null;
}

export type WhereVerdict = 'fits' | 'neighboursEmpty' | 'byHand' | 'notAtAll';
export const WHERE_WORDS: Readonly<Record<WhereVerdict, string>> = {
  fits: 'fits',
  neighboursEmpty: 'fits with its neighbours empty',
  byHand: 'by hand only',
  notAtAll: 'not at all',
};

export interface Where {
  verdict: WhereVerdict;
  reasons: string[];
  /** Limits that nobody recorded, and looks to be had. */
  remarks: string[];
}

/** What keeps the changer from a tool, or a tool from the pockets. */
export interface NoArm {
  /** The arm may bring it to the spindle, where it is taken out; it puts it nowhere. */
  comes: boolean;
  /** What is over the plate, as half sentences. */
  reasons: string;
}

/** What keeps the changer from a tool, as a sentence about it: "T5 in pocket 7". */
export const noArmWords = ({ comes, reasons }: NoArm, name: string): string =>
  comes
    ? `${name[0]!.toUpperCase()}${name.slice(1)} needs a pocket that is declared wide for it: ${reasons}.`
    : `The changer must not take ${name}: ${reasons}.`;

/**
 * Why the changer must not carry a tool (H5): what is too long, wide or heavy for it is never given to it, and what must have its neighbours
 * empty goes into no pocket on a swing arm that is not declared wide for it. Null: it may, or nothing is carried there.
 */
export function armRefusal(shape: ChangerShape, where: Where, declared: boolean): NoArm | null {
  const { throughSpindle, exchanges } = traitsOf(shape);
  if (!throughSpindle) return null;
  const reasons = where.reasons.join(', ');
  if (where.verdict === 'byHand' || where.verdict === 'notAtAll') return { comes: false, reasons };
  return where.verdict === 'neighboursEmpty' && exchanges && !declared ? { comes: true, reasons } : null;
}

/**
 * Where an assembly may go (H5): the spindle must grip it at all; what is too long, wide or heavy for the changer may
 * still be loaded by hand, and the changer must never take it.
 */
export function whereMayItGo(carried: Carried, limits: ChangerLimits): Where {
  if (carried.interface !== limits.interface)
    return {
      verdict: 'notAtAll',
      reasons: [`its end is ${carried.interface}, it takes ${limits.interface}`],
      remarks: [],
    };
  if (carried.drawbar) return { verdict: 'notAtAll', reasons: [carried.drawbar], remarks: [] };
  const size = (value: Length) =>
    `${formatLength(value, limits.unit, { decimals: limits.unit === 'mm' ? 1 : 2 })} ${limits.unit}`;
  const reasons: string[] = [];
  const remarks: string[] = [];
  let verdict: WhereVerdict = 'fits';
  const unknown = (what: string) =>
    remarks.push(`${what} is not recorded for ${limits.machine}: read it off its plate`);

  if (limits.widest === null) unknown('the widest tool');
  else if (carried.widest > limits.widest) {
    verdict = 'neighboursEmpty';
    reasons.push(
      `${size(carried.widest)} across is more than the ${size(limits.widest)} that neighbours leave`,
    );
    if (limits.widestAlone === null) unknown('the widest tool with its neighbours empty');
    else if (carried.widest > limits.widestAlone) {
      verdict = 'byHand';
      reasons.push(`and over ${size(limits.widestAlone)} with its neighbours empty`);
    }
  }
  const over = (what: string, value: number | null, limit: number | null, show: (v: number) => string) => {
    if (limit === null) return void unknown(what);
    if (value === null) return void remarks.push(`${what} of this tool is not known`);
    if (value <= limit) return;
    verdict = 'byHand';
    reasons.push(`${what} ${show(value)} is over the changer's ${show(limit)}`);
  };
  over('its length', carried.gaugeLength, limits.longest, (value) => size(nanometres(value)));
  over('its mass', carried.mass, limits.heaviest, (value) => `${(value / 1000).toFixed(2)} kg`);
  over('its moment', carried.moment, limits.moment, (value) => `${value.toFixed(1)} N·m`);
  if (carried.speedLimit !== null && carried.speedLimit < limits.highestSpeed)
    remarks.push(`not above ${carried.speedLimit} rpm; the spindle would turn ${limits.highestSpeed}`);
  return { verdict, reasons, remarks };
}
