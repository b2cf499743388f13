/** Chance of its own for each thing that happens, by a name: two crews at the same machine meet the same edges and the same parts. */
export interface Chance {
  /** From 0 up to 1. */
  uniform(): number;
  /** Standard normal (G. E. P. Box and M. E. Muller, 1958). */
  normal(): number;
  /** Whether something of this probability happens. */
  happens(probability: number): boolean;
}

/** A seed for a name (G. Fowler, L. C. Noll, K.-P. Vo: FNV-1a, 32 bits). */
function hashOf(name: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < name.length; i += 1) hash = Math.imul(hash ^ name.charCodeAt(i), 0x01000193) >>> 0;
  return hash;
}

export function chance(...name: (string | number)[]): Chance {
  // D. H. Lehmer's generator, as S. K. Park and K. W. Miller give it (1988)
  let state = (hashOf(name.join('/')) % 2147483646) + 1;
  const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 8; i += 1) uniform();
  return {
    uniform,
    normal: () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform()),
    happens: (probability) => uniform() < probability,
  };
}
