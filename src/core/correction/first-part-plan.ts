import {
  stockSense,
  toleranceWidth,
  type FeatureKind,
  type Limits,
  type RegisterRole,
} from '../inspection/feature.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import type { ToolCall } from '../program/reading.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';

/** The three ways of bringing a first part to size (H13). */
export const FIRST_SCHOOLS = ['equalPasses', 'safeSide', 'runAndCorrect'] as const;
export type FirstSchool = (typeof FIRST_SCHOOLS)[number];

export const FIRST_SCHOOL_WORDS: Readonly<Record<FirstSchool, { name: string; how: string }>> = {
  equalPasses: {
    name: 'Equal passes',
    how: 'Rougher and finisher both stay away from the part by the allowance. Their second pass then cuts as in production: same depth, same deflection.',
  },
  safeSide: {
    name: 'Safe side',
    how: 'The finisher alone stays away by the allowance. Quicker, but the last cut is lighter than in production and deflects less.',
  },
  runAndCorrect: {
    name: 'Run and correct',
    how: 'Cut to size at once. A part within its limits is kept, and the next is corrected. For a trusted machine, or blanks that cost little.',
  },
};

/** A register of the set-up, with what it holds now. */
export interface FirstRegister {
  row: number;
  role: RegisterRole;
  /** Less what it stands away by. */
  held: Length;
  /** It stands away from the part by so much already: the first part before was dropped, and nobody took its allowance back. */
  away?: Length;
}

/** A size that is brought in. Registers by their place in the plan's list. */
export interface FirstSize extends Limits {
  name: string;
  kind: FeatureKind;
  target: Length;
  tool: number;
  row: number;
  /** All registers it answers to. */
  moves: readonly { register: number; by: number }[];
  /** The finisher's own register among them; null: no register holds this size. */
  own: number | null;
  /** Who roughs it, and the stock that the program leaves for the finisher. */
  rough: { register: number; tool: number; row: number; stock: Length } | null;
  /** What it is left over by before the first cut, in the size; 0: it is cut to size at once. */
  allowance: Length;
  /** How sure its gauge is (expanded uncertainty); null, or not there: nobody has said it. */
  uncertainty?: Length | null;
}

export interface FirstPlan {
  school: FirstSchool;
  unit: LengthUnit;
  increment: Length;
  /** Of wear. */
  limit: Length;
  registers: readonly FirstRegister[];
  sizes: readonly FirstSize[];
  /** Sizes can move when the part is parted off, or when its clamps are opened. */
  off: 'parted' | 'unclamped';
}

export interface Keyed {
  register: number;
  change: Length;
}

/** What a tool usually stays away by: all that is left for the finisher, or half of it where the rougher stays where it is. */
export const usualAllowance = (school: FirstSchool, stock: Length): Length =>
  nanometres(school === 'equalPasses' ? stock : school === 'safeSide' ? Math.round(stock / 2) : 0);

/** By how much the size changes with its own register; the rougher's register stands to its cut in the same way. */
export const ownBy = (size: FirstSize): number =>
  size.moves.find(({ register }) => register === size.own)?.by ?? 0;

/** The whole steps that keep a tool away by at least so much of the size. */
function away(size: FirstSize, increment: Length): Length {
  const way = stockSense(size.kind) * Math.sign(ownBy(size));
  return nanometres(way * Math.ceil(size.allowance / Math.abs(ownBy(size)) / increment - 1e-9) * increment);
}

/** Who stands away at the first cut: each register once, by the most that one of its sizes asks for. */
export function allowances(plan: FirstPlan): ReadonlyMap<number, Length> {
  const found = new Map<number, Length>();
  if (plan.school === 'runAndCorrect') return found;
  for (const size of plan.sizes) {
    if (size.own === null || size.allowance === 0) continue;
    const change = away(size, plan.increment);
    const rougher = plan.school === 'equalPasses' && size.rough ? [size.rough.register] : [];
    for (const register of [size.own, ...rougher])
      if (Math.abs(change) > Math.abs(found.get(register) ?? 0)) found.set(register, change);
  }
  return found;
}

/** What is keyed for that before the first cut: of a register that stands away already, what is missing; of one that need not, all is taken back. */
export function keptAway(plan: FirstPlan): Keyed[] {
  const wanted = allowances(plan);
  return plan.registers
    .map(({ away }, register) => ({
      register,
      change: nanometres((wanted.get(register) ?? 0) - (away ?? 0)),
    }))
    .filter(({ change }) => change !== 0);
}

/** Why a first part cannot be brought in like this; null where it can. */
export function firstPlanFault(plan: FirstPlan): string | null {
  if (plan.sizes.length === 0) return 'Choose at least one size.';
  const held = plan.sizes.filter((size) => size.own !== null);
  if (held.length === 0) return 'No register holds any of these sizes: there is nothing to key.';
  if (plan.school !== 'runAndCorrect' && held.every(({ allowance }) => allowance === 0))
    return 'Say by how much a tool stays away, in the size.';
  const name = (register: number) => {
    const { row, role } = plan.registers[register]!;
    return `${REGISTER_WORDS[role]} of row ${row}`;
  };
  for (const size of held) {
    const both = held.find((other) => size.rough && other.own === size.rough.register);
    if (both)
      return `${name(both.own!)} finishes ${both.name} and roughs ${size.name}: bring ${both.name} in by itself, first.`;
    if (size.allowance > 20 * toleranceWidth(size) && size.allowance > 2_000_000)
      return `${size.name}: ${formatWithUnit(size.allowance, plan.unit)} is more than a finisher takes off. Check the unit.`;
    if (plan.school === 'runAndCorrect') continue;
    if (plan.school === 'safeSide' && size.rough && size.allowance > 0.75 * size.rough.stock)
      return `${size.name}: its rougher leaves ${formatWithUnit(size.rough.stock, plan.unit)}; kept away by ${formatWithUnit(size.allowance, plan.unit)} the finisher would cut next to nothing. Take less, or equal passes.`;
    const against = held.find(
      (other) =>
        other.own === size.own &&
        other.allowance > 0 &&
        size.allowance > 0 &&
        Math.sign(away(other, 1 as Length)) !== Math.sign(away(size, 1 as Length)),
    );
    if (against)
      return `${name(size.own!)} cuts ${size.name} and ${against.name}, and keeps away from one by going into the other: bring them in one after the other.`;
  }
  const past = [...allowances(plan)].find(([register, change]) => {
    const { held: before } = plan.registers[register]!;
    return Math.abs(before + change) > plan.limit && Math.abs(before + change) > Math.abs(before);
  });
  return past
    ? `${name(past[0])} would come past its limit of ±${formatWithUnit(plan.limit, plan.unit)} by the allowance alone: clear its wear, or take less.`
    : null;
}

/** Where to stop for a measurement: the line, and whether the program stops there by itself. */
export interface Stop {
  line: number;
  /** The optional stop is on this line; null: there is none, and somebody must put one in or run in single block. */
  optional: number | null;
}

/**
 * Where to stop: for what the rougher left, after its last cut and before the finisher is called; for what the finisher left, after
 * its call. Null where the program calls no such tool with such a row.
 */
export function stopFor(
  calls: readonly ToolCall[],
  size: Pick<FirstSize, 'tool' | 'row'>,
  stage: 'rough' | 'finish',
): Stop | null {
  const named = calls.filter((call) => call.tool === size.tool);
  const rows = (call: ToolCall) => [...call.lengthRows, ...call.radiusRows].map(({ row }) => row);
  const own = named.find((call) => rows(call).includes(size.row)) ?? named[0];
  if (!own) return null;
  if (stage === 'rough') {
    const before = calls.filter((call) => call.line < own.line).at(-1);
    return { line: own.line, optional: before?.optionalStops.at(-1) ?? null };
  }
  return { line: own.lastLine, optional: own.optionalStops[0] ?? null };
}
