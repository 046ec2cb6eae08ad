import {
  requireAbove0,
  requireBetween,
  requireFinite,
  studentQuantile,
  studentTail,
} from '../numerics/index.ts';
import type { Contrast } from './mixedModel.ts';

/** Whether two bars are the same within a margin. */
export interface Equivalence {
  /** The larger of the two one-sided p-values. */
  p: number;
  /** 90 % interval of the difference: inside ± margin exactly where both tests at 5 % say so. */
  low: number;
  high: number;
  /** `same`: the difference is shown to be smaller than the margin. `different`: shown to be larger. `open`: neither. */
  verdict: 'same' | 'different' | 'open';
}

/**
 * Two one-sided tests (Schuirmann, 1987): is the difference smaller than `margin` either way? Finding no difference is not that.
 *
 * @throws RangeError for a margin of 0 or less, a standard error below 0, or what is no number
 * @example equivalence({ estimate: 0.2, standardError: 0.3, freedom: 20 }, 1).verdict // 'same'
 */
export function equivalence(
  { estimate, standardError, freedom }: Contrast,
  margin: number,
  level = 0.05,
): Equivalence {
  requireFinite(estimate, 'a difference');
  requireAbove0(margin, 'the margin');
  requireAbove0(freedom, 'the degrees of freedom');
  requireBetween(standardError, 0, Number.MAX_VALUE, 'a standard error');
  requireBetween(level, 1e-6, 0.5, 'the level of a test');
  if (standardError === 0) {
    const isInside = Math.abs(estimate) < margin;
    return { p: isInside ? 0 : 1, low: estimate, high: estimate, verdict: isInside ? 'same' : 'different' };
  }
  const p = Math.max(
    studentTail((margin + estimate) / standardError, freedom),
    studentTail((margin - estimate) / standardError, freedom),
  );
  const half = studentQuantile(1 - level, freedom) * standardError;
  const [low, high] = [estimate - half, estimate + half];
  return {
    p,
    low,
    high,
    verdict: p < level ? 'same' : low > margin || high < -margin ? 'different' : 'open',
  };
}
