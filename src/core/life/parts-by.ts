import { toCut } from './night-bound.ts';
import type { NightPlay, NightProgram, NightQuestion } from './night.ts';

/**
 * Parts of a program that are whole by an instant of the night, as it is played.
 *
 * @param at milliseconds from where the play begins
 */
export function partsBy(
  { steps }: Pick<NightPlay, 'steps'>,
  programOf: (pallet: number) => string,
  { program, milliseconds }: Pick<NightProgram, 'program' | 'milliseconds'>,
  at: number,
): number {
  return steps
    .filter(({ pallet }) => programOf(pallet) === program)
    .reduce((sum, { from, to }) => {
      const whole = Math.round((to - from) / milliseconds);
      return sum + Math.min(whole, Math.max(0, Math.floor((at - from) / milliseconds + 1e-9)));
    }, 0);
}

/** When so many parts of a program are whole, in milliseconds from where the play begins; null: they are not made. */
export function whenCut(
  { steps }: Pick<NightPlay, 'steps'>,
  programOf: (pallet: number) => string,
  { program, milliseconds }: Pick<NightProgram, 'program' | 'milliseconds'>,
  parts: number,
): number | null {
  let left = parts;
  for (const { pallet, from, to } of steps) {
    if (programOf(pallet) !== program) continue;
    const whole = Math.round((to - from) / milliseconds);
    if (left <= whole) return from + left * milliseconds;
    left -= whole;
  }
  return null;
}

/** The program of most of the parts that a T, or the group that it is in, has still to cut; null: none calls it. */
export function cutMost({ pallets, programs, groups }: NightQuestion, tool: number): string | null {
  const called = groups.find(({ members }) => members.some((member) => member.tool === tool))?.number ?? tool;
  const parts = programs
    .filter(({ uses }) => uses.some((use) => use.tool === called))
    .map(({ program }) => ({
      program,
      parts: pallets.reduce((sum, pallet) => sum + (pallet.program === program ? toCut(pallet) : 0), 0),
    }));
  return parts.sort((a, b) => b.parts - a.parts)[0]?.program ?? null;
}

/** Programs whose first part is begun between two instants, with when that is: nobody is there to look at it. */
export function begunBetween(
  { steps }: Pick<NightPlay, 'steps'>,
  programOf: (pallet: number) => string,
  between: { from: number; to: number },
): { program: string; at: number }[] {
  const first = new Map<string, number>();
  for (const { pallet, from } of steps) if (!first.has(programOf(pallet))) first.set(programOf(pallet), from);
  return [...first].flatMap(([program, at]) =>
    at >= between.from && at < between.to ? [{ program, at }] : [],
  );
}
