import { leastSquares, mean, requireBetween, requireNotBelow0, studentQuantile } from '../numerics/index.ts';
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
 * times a parabola is fitted, and its top named where it lies within the times tried, bends down beyond what chance explains
 * (one-sided t-test, 2.5 %), and is known to better than half of the times tried: pure noise has no best time.
 *
 * @throws RangeError for a time below 0 or a liking outside 0–10
 */
export function likingByHours(batches: readonly ConchedBatch[]): LikingByHours {
  for (const b of batches) {
    requireNotBelow0(b.hours, 'the hours of a batch');
    requireBetween(b.liking, 0, 10, 'a liking');
  }
  if (batches.length < LIKING_BATCHES_NEEDED)
    return { ok: false, needs: LIKING_BATCHES_NEEDED - batches.length };
  const points = [...batches].sort((a, b) => a.hours - b.hours);
  const different = new Set(points.map((p) => p.hours)).size;
  if (points.length < 5 || different < 3) return { ok: true, points, best: null };
  const [first, last] = [points[0]!.hours, points.at(-1)!.hours];
  const middle = (first + last) / 2;
  const half = (last - first) / 2;
  // y = a + b u + c u² with u from −1 to 1: linear, so its uncertainty is exact.
  const u = points.map((p) => (p.hours - middle) / half);
  const fit = leastSquares({
    residuals: (p) => points.map((q, i) => p[0]! + p[1]! * u[i]! + p[2]! * u[i]! ** 2 - q.liking),
    start: [mean(points.map((p) => p.liking)), 0, 0],
    scale: [1, 1, 1],
  });
  const [, slope, bend] = fit.parameters as [number, number, number];
  const freedom = points.length - 3;
  const bendU = fit.standardErrors[2]!;
  const bends = bend < 0 && -bend > studentQuantile(SURE, freedom) * bendU;
  if (!bends) return { ok: true, points, best: null };
  const top = -slope / (2 * bend);
  // Uncertainty of the top −b/2c by propagation, with the covariance of both.
  const c = fit.covariance;
  const variance = fit.residualSd ** 2;
  const [db, dc] = [-1 / (2 * bend), slope / (2 * bend * bend)];
  const topU = Math.sqrt(
    Math.max(0, variance * (db * db * c.get(1, 1) + dc * dc * c.get(2, 2) + 2 * db * dc * c.get(1, 2))),
  );
  if (Math.abs(top) > 1 || topU > 0.5) return { ok: true, points, best: null };
  return { ok: true, points, best: { hours: middle + top * half, u: topU * half } };
}

/** How sure the bend must be that there is a best time at all. */
const SURE = 0.975;
