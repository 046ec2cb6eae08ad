import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';
import { UNWEIGHED, usualLoss } from './defaults.ts';
import type { Station } from './stations.ts';

/**
 * Share of what went in from which a remainder nobody weighed is asked about, where work differs little: far outside what the trade loses,
 * so that only slips of the pen are, and not a small batch of which much clings to a bowl. Guesses of ours.
 */
const ASKED_FROM: Partial<Record<Station, number>> = {
  sort: 0.12,
  roast: 0.12,
  winnow: 0.12,
  grind: 0.25,
  temper: 0.25,
  mould: 0.25,
};

/** Nine in ten lie within so many standard deviations. */
const NINE_IN_TEN = 1.645;

/** A remainder that is hard to believe. */
export interface DoubtfulLoss {
  /** Share of what went in that would be lost. */
  share: number;
  /** What usually is, as shares. */
  low: number;
  high: number;
}

/**
 * Whether what would be left over at a station, once so much has come out of what went in, is hard to believe: the weight is then likelier
 * mistyped than the beans are gone.
 *
 * @param inMg what went in, mg
 * @param outMg what came out and was weighed as lost, mg
 * @returns null where it may well be
 * @throws RangeError for a mass in that is not above 0, or one out below 0
 * @example doubtfulLoss('roast', 14_300_000, 1_340_000) // { share: 0.906…, low: 0.038…, high: 0.077… }
 */
export function doubtfulLoss(station: Station, inMg: number, outMg: number): DoubtfulLoss | null {
  requireAbove0(inMg, 'what went in');
  requireNotBelow0(outMg, 'what came out');
  const asked = ASKED_FROM[station];
  const usual = UNWEIGHED[station].flatMap((name) => usualLoss(name, inMg) ?? []);
  const share = 1 - outMg / inMg;
  if (asked === undefined || usual.length === 0 || share < asked) return null;
  const mean = usual.reduce((sum, l) => sum + l.massMg, 0) / inMg;
  const reach = (NINE_IN_TEN * Math.hypot(...usual.map((l) => l.uMg))) / inMg;
  return { share, low: Math.max(0, mean - reach), high: mean + reach };
}
