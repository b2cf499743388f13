/** Numbers from 0 up to 1, the same row for the same seed, so that the same question has the same answer on this device (D. H. Lehmer's generator). */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}
