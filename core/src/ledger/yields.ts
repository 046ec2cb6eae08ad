import {
  nextOfGroup,
  normalQuantile,
  quantile,
  requireAllFinite,
  requireNotBelow0,
  requireNumbers,
} from '../numerics/index.ts';
import { YIELD_PRIORS, type SharePrior } from './defaults.ts';
import type { Station } from './stations.ts';

/** An expected share of the input with its spread for a single coming batch. */
export interface ExpectedYield extends SharePrior {
  /** Standard deviation of what all coming batches share: how well the lot’s own mean is known. */
  ofMean: number;
  /** How many earlier batches it rests on. */
  fromLot: number;
  fromWorkshop: number;
}

/** Earlier yields (wanted output ÷ input) of one station. */
export interface YieldHistory {
  station: Station;
  lot: readonly number[];
  /** Batches of other lots on the same station, lot by lot; single ones are each taken to be of a lot of their own. */
  workshop: readonly (number | readonly number[])[];
}

/** The history of a station as one lot sees it: its own yields, and the others lot by lot. */
export function historyOf(
  station: Station,
  yields: readonly { lotId: string; value: number }[],
  lotId: string,
): YieldHistory {
  const others = new Map<string, number[]>();
  const lot: number[] = [];
  for (const y of yields) {
    const mine = y.lotId === lotId ? lot : (others.get(y.lotId) ?? []);
    mine.push(y.value);
    if (mine !== lot) others.set(y.lotId, mine);
  }
  return { station, lot, workshop: [...others.values()] };
}

/** An odd batch (half the bowl kept for another day) counts as this many usual spreads from where it should lie, and no more. */
const ODD = 6;

/** Values of which fewer cannot show what is odd among them. */
const ENOUGH = 3;

/** Yields of a lot with what is odd drawn in: towards the lot’s own middle where it has enough, else towards that of all. */
function calmed(of: readonly number[], all: readonly number[], spread: number): number[] {
  const middle = quantile(of.length < ENOUGH ? all : of, 0.5);
  return of.map((y) => Math.min(middle + ODD * spread, Math.max(middle - ODD * spread, y)));
}

/**
 * Expected yield of the next batch of a lot: batches scatter about their lot, lots about the workshop, and the workshop about the trade’s
 * usual figure; how far each does is learned from what was seen ({@link nextOfGroup}).
 *
 * @throws RangeError for a yield that is no number
 */
export function expectedYield({ station, lot, workshop }: YieldHistory): ExpectedYield {
  const others = workshop.map((of) => (typeof of === 'number' ? [of] : of));
  const all = [...lot, ...others.flat()];
  requireAllFinite(all, 'yield');
  const usual = YIELD_PRIORS[station];
  const counts = { fromLot: lot.length, fromWorkshop: others.reduce((n, of) => n + of.length, 0) };
  // Where nothing can be lost there is nothing to learn.
  if (usual.sd === 0) return { ...usual, ofMean: 0, ...counts };
  const calm = (of: readonly number[]) => calmed(of, all, usual.sd);
  return { ...nextOfGroup(calm(lot), others.map(calm), usual), ...counts };
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
