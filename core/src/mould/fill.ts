import {
  binomialInterval,
  normalQuantile,
  requireAbove0,
  requireNotBelow0,
  requireNumbers,
  studentQuantile,
} from '../numerics/index.ts';

/** How a sample of filled bars stands to what is printed on them. Masses in mg. */
export interface FillControl {
  count: number;
  meanMg: number;
  /** Standard deviation of single bars; 0 for one bar. */
  sdMg: number;
  /** Tolerable negative error for this nominal mass; null below 5 g, where the rule has none. */
  tolerableMg: number | null;
  /** Bars short by more than the tolerable error, and by more than twice it. */
  short: number;
  farShort: number;
  /** Share of bars that may be short by more than the tolerable error: as counted, with its exact 95 % interval. */
  shortShare: { share: number; low: number; high: number } | null;
  /** What a bar holds more than it must on average; below 0 where it holds less. */
  giveAwayMg: number;
  verdict: 'good' | 'mean-low' | 'too-many-short' | 'far-short';
  /** What to change the fill by so that the mean is not below the nominal and at most one in forty is short; below 0 to fill less. */
  changeMg: number;
}

/** Bounds of nominal mass, g, and what may be missing: a share of it, or grams. Directive 76/211/EEC, Annex I, 2.4. */
const TOLERABLE: readonly (readonly [upTo: number, share: number | null, grams: number | null])[] = [
  [50, 0.09, null],
  [100, null, 4.5],
  [200, 0.045, null],
  [300, null, 9],
  [500, 0.03, null],
  [1000, null, 15],
  [10_000, 0.015, null],
];

/** Share of bars that may be short by more than the tolerable error. */
const MOST_SHORT = 0.025;

/**
 * Tolerable negative error of a nominal mass by Directive 76/211/EEC: 9 % from 5 to 50 g, 4.5 g to 100 g, 4.5 % to 200 g, and on;
 * shares rounded up to a tenth of a gram. Null outside 5 g to 10 kg.
 *
 * @throws RangeError for a nominal mass not above 0
 * @example tolerableError(45_000) // 4_100
 */
export function tolerableError(nominalMg: number): number | null {
  requireAbove0(nominalMg, 'the nominal mass');
  const grams = nominalMg / 1000;
  if (grams < 5) return null;
  const row = TOLERABLE.find(([upTo]) => grams <= upTo);
  if (!row) return null;
  const [, share, fixed] = row;
  return fixed !== null ? fixed * 1000 : Math.ceil(grams * share! * 10 - 1e-9) * 100;
}

/**
 * Judges a sample of filled bars by the rule for prepacks: the mean must not be below the nominal mass beyond chance (one-sided t at
 * 99.5 %, Annex II), at most one in forty bars may be short by more than the tolerable error, and none by twice it.
 *
 * @param weightsMg net masses of single bars
 * @throws RangeError for no weights, weights that are no numbers or below 0, and a nominal mass not above 0
 */
export function fillControl(weightsMg: readonly number[], nominalMg: number): FillControl {
  requireAbove0(nominalMg, 'the nominal mass');
  requireNumbers(weightsMg, 'a weight');
  if (weightsMg.length === 0) throw new RangeError('a sample needs at least one bar');
  weightsMg.forEach((w) => requireNotBelow0(w, 'the weight of a bar'));
  const count = weightsMg.length;
  const meanMg = weightsMg.reduce((a, b) => a + b, 0) / count;
  const sdMg = count < 2 ? 0 : Math.sqrt(weightsMg.reduce((s, w) => s + (w - meanMg) ** 2, 0) / (count - 1));
  const tolerableMg = tolerableError(nominalMg);
  const shortOf = (times: number) =>
    tolerableMg === null ? 0 : weightsMg.filter((w) => w < nominalMg - times * tolerableMg).length;
  const [short, farShort] = [shortOf(1), shortOf(2)];
  const [low, high] = binomialInterval(short, count);
  const byChance = count < 2 ? 0 : (studentQuantile(0.995, count - 1) * sdMg) / Math.sqrt(count);
  const meanLow = count < 2 ? meanMg < nominalMg : meanMg < nominalMg - byChance;
  const verdict =
    farShort > 0
      ? 'far-short'
      : // One in forty, or the one that a small sample may show by chance.
        short > Math.max(1, Math.floor(count * MOST_SHORT))
        ? 'too-many-short'
        : meanLow
          ? 'mean-low'
          : 'good';
  const needed = Math.max(
    nominalMg,
    tolerableMg === null ? nominalMg : nominalMg - tolerableMg + normalQuantile(1 - MOST_SHORT) * sdMg,
  );
  return {
    count,
    meanMg,
    sdMg,
    tolerableMg,
    short,
    farShort,
    shortShare: tolerableMg === null ? null : { share: short / count, low, high },
    giveAwayMg: meanMg - nominalMg,
    verdict,
    // Where a bar was short nobody is told to fill less, whatever the mean.
    changeMg: short > 0 ? Math.max(0, needed - meanMg) : needed - meanMg,
  };
}
