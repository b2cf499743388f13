import type { Machine } from './world.ts';

/** What a crew did in a play, beside what is true. */
export interface Tally {
  seed: number;
  /** With whose answers: the application's, or their own arithmetic. */
  crew: 'with it' | 'by hand';
  parts: number;
  bad: number;
  /** Bad parts that were set aside: measured, or held back. */
  caught: number;
  missed: number;
  slips: number;
  slipsFound: number;
  /** Parts cut by a tool past its limit or broken. */
  pastEnd: number;
  /** Minutes that machines stood for keying, changing and looking. */
  stopped: number;
  readings: number;
  moves: number;
  renewals: number;
}

export const emptyTally = (seed: number, crew: Tally['crew']): Tally => ({
  seed,
  crew,
  parts: 0,
  bad: 0,
  caught: 0,
  missed: 0,
  slips: 0,
  slipsFound: 0,
  pastEnd: 0,
  stopped: 0,
  readings: 0,
  moves: 0,
  renewals: 0,
});

/** Lays what was set aside beside what is true. */
export function settle(
  tally: Tally,
  machines: readonly Machine[],
  aside: ReadonlyMap<string, ReadonlySet<number>>,
): Tally {
  for (const machine of machines) {
    const held = aside.get(machine.plant.name) ?? new Set<number>();
    for (const part of machine.parts) {
      tally.parts += 1;
      if (part.past.length > 0 || part.broken.length > 0) tally.pastEnd += 1;
      if (part.bad.length === 0) continue;
      tally.bad += 1;
      if (held.has(part.number)) tally.caught += 1;
      else tally.missed += 1;
    }
  }
  return tally;
}

/** The sum of several. */
export function total(tallies: readonly Tally[]): Tally {
  const sum = emptyTally(tallies.length, tallies[0]?.crew ?? 'by hand');
  for (const each of tallies)
    for (const key of Object.keys(sum) as (keyof Tally)[])
      if (key !== 'crew' && key !== 'seed') sum[key] += each[key];
  return sum;
}

const LINES: readonly [keyof Tally, string][] = [
  ['parts', 'parts made'],
  ['bad', 'bad parts made'],
  ['caught', '… of them set aside'],
  ['missed', '… of them gone on unseen'],
  ['slips', 'slips made'],
  ['slipsFound', '… of them found'],
  ['pastEnd', 'parts cut by a tool past its end'],
  ['stopped', 'minutes that machines stood'],
  ['readings', 'readings taken'],
  ['moves', 'moves keyed'],
  ['renewals', 'edges changed'],
];

/** What is true beside what the crews did, in words. */
export const tallyLines = (tally: Tally): { what: string; count: number }[] =>
  LINES.map(([key, what]) => ({ what, count: Math.round(Number(tally[key])) }));
