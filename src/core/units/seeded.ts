/**
 * Numbers above 0 and below 1, the same row for the same seed, so that a search or a simulation answers the same question alike
 * (D. H. Lehmer's generator).
 *
 * @param seed a whole number from 1 to 2147483646
 */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}
