import { gaugeLengthFromRegister, registerFromGaugeLength, type LengthReference } from './schools.ts';
import { nanometres, type Length } from '../units/length.ts';
import { roundToIncrement } from '../units/round-to-increment.ts';

/** What a length register becomes on another machine, and by way of which gauge length (H7). */
export interface Transferred {
  gaugeLength: Length;
  register: Length;
  /** The register before it was rounded to the other machine's least increment. */
  exact: Length;
}

/** Finds L from P's register by P's school, and writes Q's register by Q's school; rounded to Q's increment, once. */
export function transferLength(
  register: Length,
  from: LengthReference,
  to: LengthReference,
  increment: Length,
): Transferred {
  const gaugeLength = gaugeLengthFromRegister(register, from);
  const exact = registerFromGaugeLength(gaugeLength, to);
  return { gaugeLength, exact, register: roundToIncrement(exact, increment) };
}

/**
 * What a length register becomes when its machine's plane constant or master tool changes: the tool is the same, so
 * L stays and the register is written anew. An empty row (zero) stays empty: it was never measured. Only a difference from the master tool can be
 * nought and a length, first of all the master's own.
 *
 * @param measured whoever wrote a zero there meant a length
 */
export function rebaseRegister(
  register: Length,
  before: LengthReference,
  after: LengthReference,
  increment: Length,
  measured = false,
): Length {
  if (register === 0 && !(measured && before.school === 'masterTool')) return nanometres(0);
  return transferLength(register, before, after, increment).register;
}

/** How a length came to be; those of one set-up should have come by one way (H7). */
export const LENGTH_METHODS = ['presetter', 'toolSetter', 'touchOff', 'typed', 'transfer', 'rebase'] as const;
export type LengthMethod = (typeof LENGTH_METHODS)[number];
export const METHOD_WORDS: Readonly<Record<LengthMethod, string>> = {
  presetter: 'presetter',
  toolSetter: 'tool setter in the machine',
  touchOff: 'touched off',
  typed: 'typed, method not given',
  transfer: 'carried over from another machine',
  rebase: 'recalculated from another reference',
};

/**
 * What is mixed in one set-up: null when all lengths came by one way. A re-based row keeps the
 * way it was measured, and what nobody told proves nothing. */
export function mixedMethods(tools: readonly { tool: number; method: LengthMethod }[]): string | null {
  const ways = new Map<LengthMethod, number[]>();
  for (const { tool, method } of tools)
    if (method !== 'rebase' && method !== 'typed') ways.set(method, [...(ways.get(method) ?? []), tool]);
  if (ways.size < 2) return null;
  const named = [...ways]
    .sort((a, b) => b[1].length - a[1].length)
    .map(([method, list]) => `${METHOD_WORDS[method]}: ${list.map((tool) => `T${tool}`).join(', ')}`);
  return `Lengths in this set-up were taken in different ways (${named.join('; ')}). If one tool is measured one way, measure them all that way.`;
}
