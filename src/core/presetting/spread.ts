/** Repeated measurements of one assembly as it stands: how many, their mean, range and standard deviation (n − 1). */
export interface Spread {
  count: number;
  mean: number;
  range: number;
  /** Null for a single one. */
  deviation: number | null;
}

/** Null when there is nothing to look at. */
export function spreadOf(values: readonly number[]): Spread | null {
  if (values.length === 0) return null;
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return {
    count: values.length,
    mean,
    range: Math.max(...values) - Math.min(...values),
    deviation: values.length > 1 ? Math.sqrt(squares / (values.length - 1)) : null,
  };
}
