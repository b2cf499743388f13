/** One line of what is printed: ours, a reference from the same run, and the two against each other. */
export interface Row {
  what: string;
  ours: string;
  reference: string;
  ratio: string;
}

export const median = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

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

/** Numbers from 0 up to 1, the same row each time (D. H. Lehmer's generator). */
export function seeded(seed: number): () => number {
  let state = seed;
  const next = () => (state = (state * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 5; i += 1) next();
  return next;
}
