import { mean, requireAllFinite } from '../numerics/index.ts';

/** Batches needed before limits are drawn. */
export const POINTS_FOR_LIMITS = 8;

/** 3/d₂ for moving ranges of two (d₂ = 1.128), rounded as the trade's tables print it. */
const MOVING_RANGE_FACTOR = 2.66;

/** Points in a row on one side of the mean that count as a shift. */
const RUN_LENGTH = 8;

/** An individuals chart; `limits` is null until there are {@link POINTS_FOR_LIMITS} points. */
export interface IndividualsChart {
  points: number[];
  mean: number;
  meanMovingRange: number;
  limits: { low: number; high: number } | null;
  /** Index and kind of each signal, in order. */
  signals: { index: number; kind: 'outside' | 'run' }[];
}

/**
 * Individuals and moving-range chart: limits mean ± 2.66·MR̄ (Wheeler and Chambers). Signals are a point
 * outside the limits and eight in a row on one side of the mean. An empty list gives NaN means and no limits.
 *
 * @throws RangeError for a point that is no number
 */
export function individualsChart(points: readonly number[]): IndividualsChart {
  requireAllFinite(points, 'point');
  const centre = mean(points);
  // What rounding makes of equal values is no difference.
  const grain = 1e-9 * Math.max(...points.map(Math.abs), 0);
  const ranges = points.slice(1).map((p, i) => Math.abs(p - points[i]!));
  const meanMovingRange = ranges.length > 0 ? mean(ranges) : Number.NaN;
  const half = MOVING_RANGE_FACTOR * meanMovingRange;
  const limits = points.length >= POINTS_FOR_LIMITS ? { low: centre - half, high: centre + half } : null;
  const signals: IndividualsChart['signals'] = [];
  if (limits) {
    let run = 0;
    points.forEach((p, index) => {
      if (p < limits.low - grain || p > limits.high + grain) signals.push({ index, kind: 'outside' });
      const side = Math.abs(p - centre) <= grain ? 0 : Math.sign(p - centre);
      run = side === 0 ? 0 : side === Math.sign(run) ? run + side : side;
      if (Math.abs(run) >= RUN_LENGTH) signals.push({ index, kind: 'run' });
    });
  }
  return { points: [...points], mean: centre, meanMovingRange, limits, signals };
}
