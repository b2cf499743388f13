/** One line of what is printed: ours, a reference from the same run, and the two against each other. */
export interface Row {
  what: string;
  ours: string;
  reference: string;
  ratio: string;
}

export const median = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export const percentile = (values: readonly number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]!;

/** The median time of a piece of work, milliseconds. */
export function timed(work: () => void, runs = 15): number {
  const all: number[] = [];
  for (let i = 0; i < runs; i += 1) {
    const began = performance.now();
    work();
    all.push(performance.now() - began);
  }
  return median(all);
}

export { seeded } from '../tests/support/seeded.ts';
