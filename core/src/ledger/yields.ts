import { normalQuantile, requireAllFinite, requireNotBelow0, requireNumbers } from '../numerics/index.ts';
import { YIELD_PRIORS, type SharePrior } from './defaults.ts';
import type { Station } from './stations.ts';

/** Batches' worth of trust in the trade's usual yield, and in the workshop's yield for a new lot. */
const PRIOR_BATCHES = 2;
const WORKSHOP_BATCHES = 3;

/** No workshop is steadier than this share of the trade's usual spread. */
const LEAST_SPREAD = 0.05;

/** An expected share of the input with its spread for a single coming batch. */
export interface ExpectedYield extends SharePrior {
  /** Standard deviation of what all coming batches share: how well the mean itself is known. */
  ofMean: number;
  /** How many earlier batches it rests on. */
  fromLot: number;
  fromWorkshop: number;
}

/** Earlier yields (wanted output ÷ input) of one station. */
export interface YieldHistory {
  station: Station;
  lot: readonly number[];
  /** Batches of other lots on the same station. */
  workshop: readonly number[];
}

/**
 * Expected yield of the next batch of a lot: the lot's own mean shrunk towards the workshop's, and the
 * workshop's towards the trade's usual figure, each by a fixed number of batches' worth of trust
 * (normal means with known within-batch spread; Gelman et al., Bayesian Data Analysis, 5.4).
 */
export function expectedYield(history: YieldHistory): ExpectedYield {
  requireAllFinite([...history.lot, ...history.workshop], 'yield');
  const prior = YIELD_PRIORS[history.station];
  const workshop = shrink(history.workshop, prior.mean, PRIOR_BATCHES);
  const lot = shrink(history.lot, workshop.mean, WORKSHOP_BATCHES);
  const all = [...history.lot, ...history.workshop];
  const within = spreadOf(all, lot.mean, prior.sd);
  const ofMean = within / Math.sqrt(history.lot.length + WORKSHOP_BATCHES);
  return {
    mean: lot.mean,
    sd: Math.hypot(within, ofMean),
    ofMean,
    fromLot: history.lot.length,
    fromWorkshop: history.workshop.length,
  };
}

/**
 * Spread of single batches: what was seen, shrunk in logarithms towards the trade's usual one, so that a careful workshop is soon believed to
 * be careful. The logarithm of a spread seen in n batches is low by 1/n on average, in variance (Bartlett & Kendall 1946).
 */
function spreadOf(values: readonly number[], around: number, usual: number): number {
  if (values.length === 0) return usual;
  const n = values.length;
  const seen = values.reduce((sum, y) => sum + (y - around) ** 2, 0) / n;
  const least = (LEAST_SPREAD * usual) ** 2;
  const logVariance = Math.log(Math.max(seen, least)) + 1 / n;
  return Math.exp((n * logVariance + PRIOR_BATCHES * Math.log(usual ** 2)) / (2 * (n + PRIOR_BATCHES)));
}

function shrink(values: readonly number[], towards: number, trust: number): { mean: number } {
  const sum = values.reduce((total, v) => total + v, 0);
  return { mean: (sum + trust * towards) / (values.length + trust) };
}

/** A mass with the range it should fall in with the stated chance. */
export interface MassRange {
  meanMg: number;
  lowMg: number;
  highMg: number;
}

/**
 * Carries a mass through several expected yields, treating them as independent: relative variances add.
 * The range holds the outcome with `chance` (default 0.8).
 */
export function forecastMass(startMg: number, yields: readonly SharePrior[], chance = 0.8): MassRange {
  requireNotBelow0(startMg, 'the mass at the start');
  requireNumbers(yields, 'a yield');
  const factor = yields.reduce((product, y) => product * y.mean, 1);
  const relative = Math.sqrt(yields.reduce((sum, y) => sum + (y.mean > 0 ? (y.sd / y.mean) ** 2 : 0), 0));
  const half = normalQuantile(0.5 + chance / 2) * relative;
  const meanMg = startMg * factor;
  return { meanMg, lowMg: meanMg * Math.max(0, 1 - half), highMg: meanMg * (1 + half) };
}

/**
 * How much to start with for a wanted amount: the wanted mass carried backwards through the yields.
 * `lowMg` suffices if all goes well, `highMg` if it goes badly (80 % between them by default).
 */
export function massNeeded(wantedMg: number, yields: readonly SharePrior[], chance = 0.8): MassRange {
  requireNotBelow0(wantedMg, 'the mass wanted');
  const through = forecastMass(1, yields, chance);
  if (!(through.lowMg > 0)) throw new RangeError('a yield of zero can give no mass');
  return {
    meanMg: wantedMg / through.meanMg,
    lowMg: wantedMg / through.highMg,
    highMg: wantedMg / through.lowMg,
  };
}
