/// <reference path="./jstat.d.ts" />
import jstat from 'jstat';

/** Chance that a χ² variable with `degreesOfFreedom` (≥ 1) is at least `x` (≥ 0). */
export function chiSquareTail(x: number, degreesOfFreedom: number): number {
  if (!(degreesOfFreedom >= 1)) throw new RangeError('χ² needs at least one degree of freedom');
  return x <= 0 ? 1 : 1 - jstat.chisquare.cdf(x, degreesOfFreedom);
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
