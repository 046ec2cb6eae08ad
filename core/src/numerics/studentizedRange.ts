/// <reference path="./jstat.d.ts" />
import jstat from 'jstat';

/** Step of the tables over z and over the range, in standard deviations. */
const STEP = 0.04;
/** Beyond ±REACH a normal density is nothing; a range beyond twice that is certain. */
const REACH = 8;
const POINTS = Math.round((2 * REACH) / STEP);

/** Density and distribution of the standard normal on the grid from −REACH. */
const grid = (() => {
  let made: { density: Float64Array; below: Float64Array } | null = null;
  return () => {
    made ??= {
      density: Float64Array.from({ length: POINTS + 1 }, (_, i) => {
        const z = i * STEP - REACH;
        return Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
      }),
      below: Float64Array.from({ length: POINTS + 1 }, (_, i) => jstat.normal.cdf(i * STEP - REACH, 0, 1)),
    };
    return made;
  };
})();

const tables = new Map<number, Float64Array>();

/**
 * Chance that the range of `means` standard normal values is at most i·STEP. The integrand is smooth and gone at both ends, so the
 * trapezoid rule is exact to rounding; made once for each number of means.
 */
function rangeTable(means: number): Float64Array {
  const known = tables.get(means);
  if (known) return known;
  const { density, below } = grid();
  const table = new Float64Array(POINTS + 1);
  for (let x = 1; x <= POINTS; x += 1) {
    let sum = 0;
    for (let i = 0; i <= POINTS; i += 1)
      sum += density[i]! * (below[i]! - (i >= x ? below[i - x]! : 0)) ** (means - 1);
    table[x] = Math.min(1, means * sum * STEP);
  }
  tables.set(means, table);
  return table;
}

/** Between table points by the cubic through four of them. */
function within(table: Float64Array, x: number): number {
  const at = x / STEP;
  if (at >= POINTS) return 1;
  const i = Math.min(POINTS - 2, Math.max(1, Math.floor(at)));
  const t = at - i;
  const [a, b, c, d] = [table[i - 1]!, table[i]!, table[i + 1]!, table[i + 2]!];
  return (
    (-a * t * (t - 1) * (t - 2)) / 6 +
    (b * (t + 1) * (t - 1) * (t - 2)) / 2 -
    (c * (t + 1) * t * (t - 2)) / 2 +
    (d * (t + 1) * t * (t - 1)) / 6
  );
}

/**
 * Chance that the range of `means` (2 or more) means, in units of their estimated standard error, is above `q`: Tukey’s studentized
 * range, integrated over the error’s own distribution.
 *
 * @throws RangeError for fewer than two means, below one degree of freedom, or a q that is NaN
 * @example rangeTail(3.876777, 3, 10) // 0.05
 */
export function rangeTail(q: number, means: number, degreesOfFreedom: number): number {
  if (!Number.isInteger(means) || means < 2)
    throw new RangeError('the studentized range needs two means or more');
  if (!(degreesOfFreedom >= 1))
    throw new RangeError('the studentized range needs one degree of freedom or more');
  if (Number.isNaN(q)) throw new RangeError('a range must be a number, not NaN');
  if (q <= 0) return 1;
  if (q === Infinity) return 0;
  const table = rangeTable(means);
  const v = Math.min(degreesOfFreedom, 1e7);
  // Over u = log of the error’s ratio s: v s² is χ² with v degrees of freedom.
  const [low, high] = [-8 / Math.sqrt(2 * v) - 36 / v, 8 / Math.sqrt(2 * v) + 2 / v];
  const front = (v / 2) * Math.log(v / 2) - jstat.gammaln(v / 2) + Math.LN2;
  const steps = 400;
  const h = (high - low) / steps;
  let sum = 0;
  for (let i = 0; i <= steps; i += 1) {
    const u = low + i * h;
    const s = Math.exp(u);
    // The trapezoid rule again: nothing is left at either end.
    sum += Math.exp(front + v * u - (v / 2) * s * s) * (1 - within(table, q * s));
  }
  return Math.min(1, Math.max(0, sum * h));
}

/**
 * The range of `means` standardised means that is exceeded with chance 1 − `p`.
 *
 * @throws RangeError for a p that is no probability between 0 and 1, and as {@link rangeTail}
 * @example rangeQuantile(0.95, 3, 10) // 3.876777
 */
export function rangeQuantile(p: number, means: number, degreesOfFreedom: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError(`a probability between 0 and 1 is needed, not ${p}`);
  let [low, high] = [0, 4];
  while (rangeTail(high, means, degreesOfFreedom) > 1 - p && high < 1e6) [low, high] = [high, 2 * high];
  while (high - low > 1e-8 * high) {
    const middle = (low + high) / 2;
    if (rangeTail(middle, means, degreesOfFreedom) > 1 - p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
