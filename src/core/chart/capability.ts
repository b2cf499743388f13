/** Standard normal: the share below z. Source: M. Abramowitz, I. Stegun 7.1.26 (memory), error below 2e-7. */
export function below(z: number): number {
  const t = 1 / (1 + 0.3275911 * (Math.abs(z) / Math.SQRT2));
  const tail =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) *
    t *
    Math.exp(-(z * z) / 2);
  return z >= 0 ? 1 - tail / 2 : tail / 2;
}

/** Share of parts outside the limits, of a normal spread about a mean. A spread of nothing is in or out as its mean is. */
export function shareOut(mean: number, sigma: number, lower: number, upper: number): number {
  if (sigma <= 0) return mean < lower || mean > upper ? 1 : 0;
  return below((lower - mean) / sigma) + below((mean - upper) / sigma);
}

export interface Capability {
  cp: number;
  cpk: number;
  /** 95 % limits of both, from the number of parts. */
  cpBetween: [number, number];
  cpkBetween: [number, number];
}

/** Fewer parts than this say nothing of a process: a quarter of 25 readings' width and more is chance. */
export const ENOUGH_PARTS = 25;

/**
 * What a spread makes of its limits: Cp by the width, Cpk by the nearer limit, with limits of confidence; null where there are
 * fewer parts than `ENOUGH_PARTS` or no spread.
 *
 * Source: NIST/SEMATECH e-Handbook 6.1.6 (memory); limits of Cpk after A. F. Bissell 1990, of Cp by the Wilson-Hilferty
 * approximation of chi-square.
 */
export function capability(
  { mean, sigma, parts }: { mean: number; sigma: number; parts: number },
  lower: number,
  upper: number,
): Capability | null {
  if (parts < ENOUGH_PARTS || sigma <= 0) return null;
  const { cp, cpk } = indices(mean, sigma, lower, upper);
  const freedom = parts - 1;
  const chi = (z: number) => freedom * (1 - 2 / (9 * freedom) + z * Math.sqrt(2 / (9 * freedom))) ** 3;
  const root = (z: number) => cp * Math.sqrt(chi(z) / freedom);
  const half = 1.96 * Math.sqrt(1 / (9 * parts) + cpk ** 2 / (2 * freedom));
  return { cp, cpk, cpBetween: [root(-1.96), root(1.96)], cpkBetween: [cpk - half, cpk + half] };
}

/** Cp and Cpk of a known mean and spread. */
export const indices = (mean: number, sigma: number, lower: number, upper: number) => ({
  cp: (upper - lower) / (6 * sigma),
  cpk: Math.min(upper - mean, mean - lower) / (3 * sigma),
});
