import { leastSquares } from '../numerics/index.ts';
import { LIKING_BATCHES_NEEDED } from './defaults.ts';

/** A finished batch: how long it was conched, and how it was liked, 0–10. */
export interface ConchedBatch {
  hours: number;
  liking: number;
}

/** Liking against hours: how many more batches are needed, or the points with the best time where one stands out. */
export type LikingByHours =
  | { ok: false; needs: number }
  | { ok: true; points: ConchedBatch[]; best: { hours: number; u: number } | null };

/**
 * Liking against conching hours, since too long is flat. From four batches the points are shown; from five of three or more different
 * times a parabola is fitted, and its top named where it lies within the times tried and is a top.
 */
export function likingByHours(batches: readonly ConchedBatch[]): LikingByHours {
  if (batches.length < LIKING_BATCHES_NEEDED)
    return { ok: false, needs: LIKING_BATCHES_NEEDED - batches.length };
  const points = [...batches].sort((a, b) => a.hours - b.hours);
  const different = new Set(points.map((p) => p.hours)).size;
  if (points.length < 5 || different < 3) return { ok: true, points, best: null };
  const [first, last] = [points[0]!.hours, points.at(-1)!.hours];
  const middle = (first + last) / 2;
  const half = (last - first) / 2;
  // y = a − b(x − c)²; in units of the span, so that the start is near.
  const fit = leastSquares({
    residuals: (p) => points.map((q) => p[0]! - p[1]! * ((q.hours - middle) / half - p[2]!) ** 2 - q.liking),
    start: [Math.max(...points.map((p) => p.liking)), 1, 0],
    scale: [1, 1, 1],
  });
  const [, bend, top] = fit.parameters as [number, number, number];
  if (!(bend > 0) || Math.abs(top) > 1) return { ok: true, points, best: null };
  return { ok: true, points, best: { hours: middle + top * half, u: fit.standardErrors[2]! * half } };
}
