/** Numbers from 0 up to 1, the same row each time (D. H. Lehmer's generator). */
export function seeded(seed: number): () => number {
  let state = seed;
  const next = () => (state = (state * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 5; i += 1) next();
  return next;
}
