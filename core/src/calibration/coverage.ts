import { binomialInterval, normalQuantile, requireNumbers } from '../numerics/index.ts';

/** A forecast looked back on: what was expected with which standard deviation, and what came. */
export interface Foretold {
  mean: number;
  sd: number;
  actual: number;
}

/** How a kind of forecast has done. */
export interface Coverage {
  n: number;
  /** How many came out inside the range. */
  held: number;
  /** Share of them, 0–1, and where the true share is with 90 %. */
  share: number;
  low: number;
  high: number;
  /** Median of actual less expected, and of its size. */
  bias: number;
  off: number;
  word: CoverageWord;
}

/** What that comes to in a word. */
export type CoverageWord = 'too-few' | 'about-right' | 'too-sure' | 'too-careful';

/** So many forecasts are needed before anything is said of them. */
export const FORECASTS_NEEDED = 10;

const CONFIDENCE = 0.9;

/** By how many of its own standard deviations a forecast was off; positive where more came than was expected. */
export function surpriseOf({ mean, sd, actual }: Foretold): number {
  if (!(sd > 0)) throw new RangeError(`a forecast needs a standard deviation above 0, not ${sd}`);
  return (actual - mean) / sd;
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/**
 * How often what came lay inside the stated range. It is called too sure or too careful only where the exact interval (Clopper & Pearson) of the
 * share leaves the stated chance out.
 *
 * @param chance what the ranges were said to hold, 0–1
 * @returns null without a forecast
 * @throws RangeError for forecasts that are no numbers or have no spread
 */
export function coverageOf(forecasts: readonly Foretold[], chance = 0.8): Coverage | null {
  requireNumbers(forecasts, 'a forecast');
  if (!(chance > 0 && chance < 1))
    throw new RangeError(`a range holds a share between 0 and 1, not ${chance}`);
  if (forecasts.length === 0) return null;
  const half = normalQuantile(0.5 + chance / 2);
  const n = forecasts.length;
  const held = forecasts.filter((f) => Math.abs(surpriseOf(f)) <= half).length;
  const [low, high] = binomialInterval(held, n, CONFIDENCE);
  const errors = forecasts.map((f) => f.actual - f.mean);
  const word: CoverageWord =
    n < FORECASTS_NEEDED
      ? 'too-few'
      : high < chance
        ? 'too-sure'
        : low > chance
          ? 'too-careful'
          : 'about-right';
  return {
    n,
    held,
    share: held / n,
    low,
    high,
    bias: median(errors),
    off: median(errors.map(Math.abs)),
    word,
  };
}
