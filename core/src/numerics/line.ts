import { requireNumbers } from './require.ts';

/** A straight line fitted to points. */
export interface Line {
  /** Means of the points; the line goes through them. */
  x: number;
  y: number;
  slope: number;
  /** Σ (x − x̄)². */
  spread: number;
  /** Standard deviation of the points about the line; 0 with two. */
  sd: number;
}

/**
 * Least-squares straight line; null below two points or with no spread in x.
 *
 * @throws RangeError for points that are no numbers
 * @example lineThrough([{ x: 0, y: 1 }, { x: 2, y: 5 }])!.slope // 2
 */
export function lineThrough(points: readonly { x: number; y: number }[]): Line | null {
  requireNumbers(points, 'a point');
  const n = points.length;
  if (n < 2) return null;
  const x = points.reduce((s, p) => s + p.x, 0) / n;
  const y = points.reduce((s, p) => s + p.y, 0) / n;
  const spread = points.reduce((s, p) => s + (p.x - x) ** 2, 0);
  if (spread === 0) return null;
  const slope = points.reduce((s, p) => s + (p.x - x) * (p.y - y), 0) / spread;
  const left = points.reduce((s, p) => s + (p.y - y - slope * (p.x - x)) ** 2, 0);
  return { x, y, slope, spread, sd: n > 2 ? Math.sqrt(left / (n - 2)) : 0 };
}
