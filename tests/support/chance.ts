/** Numbers from 0 up to 1, the same row for the same seed (D. H. Lehmer's generator), and normal ones from it. */
export function chance(seed: number) {
  let state = seed;
  const next = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  for (let i = 0; i < 9; i += 1) next();
  const normal = () => Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next());
  return { next, normal };
}

/** Seeds of random plays: the test's own, or those that somebody asks for by `SEEDS=1,2,3`. */
export const seedsOr = (own: readonly number[]): readonly number[] =>
  process.env.SEEDS?.split(',').map(Number) ?? own;
