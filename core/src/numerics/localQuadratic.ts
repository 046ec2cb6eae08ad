/** A smoothed value and its slope. */
export interface Smoothed {
  value: number;
  /** Per unit of x. */
  slope: number;
}

/**
 * Local quadratic regression at `at` with tricube weights over `half` to either side (Cleveland, 1979): the smoothed
 * value and its slope. Needs no even spacing. Falls back to a straight line with three points and to their mean with
 * one or two; null where no point lies within `half`.
 */
export function localQuadratic(
  points: readonly { x: number; y: number }[],
  at: number,
  half: number,
): Smoothed | null {
  // Moments of the weighted normal equations, in units of `half` so that they stay well conditioned.
  const s = [0, 0, 0, 0, 0];
  const b = [0, 0, 0];
  let used = 0;
  for (let i = firstAtLeast(points, at - half); i < points.length && points[i]!.x <= at + half; i += 1) {
    const { x, y } = points[i]!;
    const u = (x - at) / half;
    const w = (1 - Math.abs(u) ** 3) ** 3;
    if (w <= 0) continue;
    used += 1;
    let power = w;
    for (let k = 0; k < 5; k += 1) {
      s[k]! += power;
      if (k < 3) b[k]! += power * y;
      power *= u;
    }
  }
  if (used === 0) return null;
  if (used < 3) return { value: b[0]! / s[0]!, slope: 0 };
  const [s0, s1, s2, s3, s4] = s as [number, number, number, number, number];
  const [b0, b1, b2] = b as [number, number, number];
  const det = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s2 * s3) + s2 * (s1 * s3 - s2 * s2);
  if (used > 3 && det > 1e-10 * s0 * s2 * s4) {
    return {
      value: (b0 * (s2 * s4 - s3 * s3) - s1 * (b1 * s4 - s3 * b2) + s2 * (b1 * s3 - s2 * b2)) / det,
      slope: (s0 * (b1 * s4 - s3 * b2) - b0 * (s1 * s4 - s2 * s3) + s2 * (s1 * b2 - b1 * s2)) / det / half,
    };
  }
  const line = s0 * s2 - s1 * s1;
  if (!(line > 1e-12 * s0 * s2)) return { value: b0 / s0, slope: 0 };
  return { value: (s2 * b0 - s1 * b1) / line, slope: (s0 * b1 - s1 * b0) / line / half };
}

/** Index of the first point (in order of x) whose x is at least `x`. */
function firstAtLeast(points: readonly { x: number }[], x: number): number {
  let [low, high] = [0, points.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[middle]!.x < x) low = middle + 1;
    else high = middle;
  }
  return low;
}
