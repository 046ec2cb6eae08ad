import { requireNotBelow0 } from '../numerics/index.ts';
import type { Station } from './stations.ts';

/** An expected share with its standard deviation between batches. */
export interface SharePrior {
  mean: number;
  sd: number;
}

/**
 * Usual wanted output ÷ input per station before a workshop has a history (the trade's usual ranges:
 * sorting loses 1–5 %, roasting 4–8 %, husk, dust and germ 12–20 %, 0.5–3 % stays in machines).
 */
export const YIELD_PRIORS: Readonly<Record<Station, SharePrior>> = {
  beans: { mean: 1, sd: 0 },
  sort: { mean: 0.972, sd: 0.012 },
  roast: { mean: 0.942, sd: 0.012 },
  winnow: { mean: 0.842, sd: 0.022 },
  recipe: { mean: 1, sd: 0 },
  grind: { mean: 0.985, sd: 0.007 },
  temper: { mean: 0.995, sd: 0.004 },
  mould: { mean: 0.985, sd: 0.008 },
  taste: { mean: 1, sd: 0 },
};

/** A share, and what clings to a machine or bowl however little is in it. */
export interface LossPrior extends SharePrior {
  /** Mass that stays whatever the charge, mg; as uncertain as it is large. */
  clingsMg?: number;
}

/**
 * What a loss that nobody weighs usually comes to, as a share of the step's input. It enters the
 * reconciliation as an estimate with its own uncertainty.
 */
export const LOSS_PRIORS: Readonly<Record<string, LossPrior>> = {
  moisture: { mean: 0.058, sd: 0.012 },
  sweepings: { mean: 0.005, sd: 0.0025 },
  'hold-up': { mean: 0.012, sd: 0.006, clingsMg: 15_000 },
  trim: { mean: 0.007, sd: 0.004 },
};

/** What a loss usually comes to and how sure that is, mg, where so much went in; null for one of which nothing is known. */
export function usualLoss(name: string, inMg: number): { massMg: number; uMg: number } | null {
  const prior = LOSS_PRIORS[name];
  if (!prior) return null;
  const clings = prior.clingsMg ?? 0;
  return { massMg: prior.mean * inMg + clings, uMg: Math.hypot(prior.sd * inMg, clings) };
}

/** Standard uncertainty of a weighing in mg when the instrument is not known: a scale that reads to 2 g, and handling. */
export const DEFAULT_SCALE_U_MG = 2000;

/**
 * Standard uncertainty of a scale from its resolution and repeatability (both mg): √((d/√12)² + r²).
 * Source: JCGM 100:2008 (GUM) 4.3.7 for the rectangular resolution term. A scale that reads to 2 g has 0.58 g from resolution alone.
 */
export function scaleUncertainty(resolutionMg: number, repeatabilityMg = 0): number {
  requireNotBelow0(resolutionMg, 'the resolution');
  requireNotBelow0(repeatabilityMg, 'the repeatability');
  return Math.hypot(resolutionMg / Math.sqrt(12), repeatabilityMg);
}

/**
 * The names of losses, one for each thing: core, server and pages use no others. `dust` is what an older release called sweepings.
 */
export const LOSSES = [
  'moisture',
  'sweepings',
  'hold-up',
  'trim',
  'abandoned',
  'water and pulp',
  'boiled off',
  'unexplained',
] as const;

const OLD_NAMES: Readonly<Record<string, string>> = { dust: 'sweepings' };

/** The name of today for a loss, whatever release wrote it; a maker's own name stays as it is. */
export function lossName(reason: string): string {
  return OLD_NAMES[reason] ?? reason;
}

/**
 * Relative standard uncertainty of pieces that were counted and not weighed: their fills lie together on one side of what they should be, as
 * a hand pours. A guess.
 */
export const COUNTED_U = 0.015;

/** Relative standard uncertainty of a loss that was only estimated and is not among the usual ones. */
export const ESTIMATED_LOSS_U = 0.5;

/** The unweighed loss usual at each station: the name offered when a step is closed, and checked against its prior. */
export const USUAL_LOSS: Readonly<Record<Station, string | null>> = {
  beans: null,
  sort: 'sweepings',
  roast: 'moisture',
  winnow: 'sweepings',
  recipe: null,
  grind: 'hold-up',
  temper: 'hold-up',
  mould: 'trim',
  taste: null,
};

/** Losses that nobody weighs at a station, the one its remainder is called first: chocolate clings to a bowl as well as it is trimmed off. */
export const UNWEIGHED: Readonly<Record<Station, readonly string[]>> = {
  ...(Object.fromEntries(
    Object.entries(USUAL_LOSS).map(([station, name]) => [station, name === null ? [] : [name]]),
  ) as Record<Station, string[]>),
  mould: ['trim', 'hold-up'],
};
