/** Arithmetic mean; NaN of an empty list. */
export function mean(values: readonly number[]): number {
  return values.reduce((sum, v) => sum + v, 0) / values.length;
}

/** Sample standard deviation (n − 1); NaN below two values. */
export function sampleSd(values: readonly number[]): number {
  if (values.length < 2) return Number.NaN;
  const centre = mean(values);
  return Math.sqrt(values.reduce((sum, v) => sum + (v - centre) ** 2, 0) / (values.length - 1));
}

/** Quantile by linear interpolation between order statistics (type 7 of Hyndman and Fan, 1996), 0 ≤ p ≤ 1. */
export function quantile(values: readonly number[], p: number): number {
  return quantileOfSorted(
    [...values].sort((a, b) => a - b),
    p,
  );
}

/** {@link quantile} of values already in rising order. */
export function quantileOfSorted(sorted: readonly number[], p: number): number {
  if (sorted.length === 0) return Number.NaN;
  const at = (sorted.length - 1) * p;
  const low = Math.floor(at);
  const [a, b] = [sorted[low]!, sorted[Math.min(low + 1, sorted.length - 1)]!];
  // Exactly on a value, or between two equal ones: an endless neighbour then plays no part.
  return at === low || a === b ? a : a + (b - a) * (at - low);
}
