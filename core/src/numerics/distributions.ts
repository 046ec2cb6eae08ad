/// <reference path="./jstat.d.ts" />
import jstat from 'jstat';

/**
 * Chance that a χ² variable with `degreesOfFreedom` (≥ 1) is at least `x`; also where it is far too small to be left over from 1.
 *
 * @throws RangeError for fewer than one degree of freedom, or an x that is NaN
 * @example chiSquareTail(100, 1) // 1.5239706e-23
 */
export function chiSquareTail(x: number, degreesOfFreedom: number): number {
  if (!(degreesOfFreedom >= 1) || !Number.isFinite(degreesOfFreedom))
    throw new RangeError('χ² needs at least one degree of freedom');
  if (Number.isNaN(x)) throw new RangeError('χ² must be a number, not NaN');
  if (x <= 0) return 1;
  return x === Infinity ? 0 : upperGamma(degreesOfFreedom / 2, x / 2);
}

/**
 * Regularised upper incomplete gamma function Q(a, x): by Lentz's continued fraction above a + 1, from the series below
 * (Abramowitz and Stegun 6.5.29 and 6.5.31). Small values keep their relative accuracy.
 */
function upperGamma(a: number, x: number): number {
  const front = Math.exp(a * Math.log(x) - x - jstat.gammaln(a));
  if (x < a + 1) {
    let term = 1 / a;
    let sum = term;
    for (let n = 1; n < 1000 && term > sum * 1e-17; n += 1) {
      term *= x / (a + n);
      sum += term;
    }
    return Math.max(0, 1 - front * sum);
  }
  const tiny = 1e-300;
  let b = x + 1 - a;
  let c = 1 / tiny;
  let d = 1 / b;
  let h = d;
  for (let n = 1; n < 1000; n += 1) {
    const an = -n * (n - a);
    b += 2;
    d = 1 / (an * d + b || tiny);
    c = b + an / c || tiny;
    const step = d * c;
    h *= step;
    if (Math.abs(step - 1) < 1e-16) break;
  }
  return front * h;
}

/** Chance that a standard normal variable is at most `z`. */
export function normalCdf(z: number): number {
  return jstat.normal.cdf(z, 0, 1);
}

/** The standard normal quantile of `p`, 0 < p < 1. `normalQuantile(0.975)` is 1.959964. */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError(`a probability between 0 and 1 is needed, not ${p}`);
  return jstat.normal.inv(p, 0, 1);
}

/**
 * Exact (Clopper–Pearson) interval of a proportion: `successes` of `trials` at the given confidence.
 *
 * @example binomialInterval(9, 300) // [0.01381, 0.05618], the 95 % interval
 */
export function binomialInterval(successes: number, trials: number, confidence = 0.95): [number, number] {
  if (
    !Number.isInteger(successes) ||
    !Number.isInteger(trials) ||
    successes < 0 ||
    successes > trials ||
    trials < 1
  ) {
    throw new RangeError(`${successes} of ${trials} is not a count of successes in trials`);
  }
  const tail = (1 - confidence) / 2;
  const low = successes === 0 ? 0 : jstat.beta.inv(tail, successes, trials - successes + 1);
  const high = successes === trials ? 1 : jstat.beta.inv(1 - tail, successes + 1, trials - successes);
  return [low, high];
}

/** Chance that a Beta(alpha, beta) variable is above `x`, 0 ≤ x ≤ 1. */
export function betaTail(x: number, alpha: number, beta: number): number {
  if (!(alpha > 0) || !(beta > 0))
    throw new RangeError('both parameters of a beta distribution must be above 0');
  if (Number.isNaN(x)) throw new RangeError('a share must be a number, not NaN');
  // From the other side, so that a tiny tail is not what rounding leaves of 1.
  return x <= 0 ? 1 : x >= 1 ? 0 : jstat.beta.cdf(1 - x, beta, alpha);
}

/** Quantile `p` of a Beta(alpha, beta) variable, both parameters above 0. */
export function betaQuantile(p: number, alpha: number, beta: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError(`a probability between 0 and 1 is needed, not ${p}`);
  if (!(alpha > 0) || !(beta > 0))
    throw new RangeError('both parameters of a beta distribution must be above 0');
  return jstat.beta.inv(p, alpha, beta);
}

/** Quantile `p` of Student's t with `degreesOfFreedom` above 0. `studentQuantile(0.975, 10)` is 2.228139. */
export function studentQuantile(p: number, degreesOfFreedom: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError(`a probability between 0 and 1 is needed, not ${p}`);
  if (!(degreesOfFreedom > 0)) throw new RangeError('Student’s t needs degrees of freedom above 0');
  return jstat.studentt.inv(p, degreesOfFreedom);
}

/** Chance that Student’s t with `degreesOfFreedom` above 0 is above `x`. `studentTail(2.228139, 10)` is 0.025. */
export function studentTail(x: number, degreesOfFreedom: number): number {
  if (Number.isNaN(x)) throw new RangeError('t must be a number, not NaN');
  if (!(degreesOfFreedom > 0)) throw new RangeError('Student’s t needs degrees of freedom above 0');
  // By the beta distribution, so that a tiny tail keeps its digits.
  const half = betaTail((x * x) / (degreesOfFreedom + x * x), 0.5, degreesOfFreedom / 2) / 2;
  return x >= 0 ? half : 1 - half;
}

/** Chance of `successes` or more of `trials` where each succeeds with chance `share`. `binomialTail(5, 8, 1 / 3)` is 0.0879. */
export function binomialTail(successes: number, trials: number, share: number): number {
  if (!(share >= 0 && share <= 1)) throw new RangeError(`a share between 0 and 1 is needed, not ${share}`);
  if (!Number.isInteger(trials) || trials < 0 || !Number.isInteger(successes))
    throw new RangeError(`${successes} of ${trials} is not a count of successes in trials`);
  if (successes <= 0) return 1;
  if (successes > trials || share === 0) return 0;
  return share === 1 ? 1 : jstat.beta.cdf(share, successes, trials - successes + 1);
}
