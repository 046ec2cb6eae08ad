import { requireAbove0, requireNotBelow0, requireWhole } from '../numerics/index.ts';

/** What a mass of chocolate makes. Masses in whole mg. */
export interface BarCount {
  bars: number;
  /** Chocolate in the bars. */
  inBarsMg: number;
  /** Left over beside the hold-up. */
  leftMg: number;
  /** Whole moulds, and fills needed for all bars (the last may be part full); null without cavities. */
  fullMoulds: number | null;
  fills: number | null;
}

/** The moulding at hand. */
export interface BarProblem {
  massMg: number;
  /** Stays in the machine, bowl and on tools. */
  holdUpMg: number;
  fillMg: number;
  /** Cavities of one mould. */
  cavities?: number;
}

/**
 * Bars = floor((mass − hold-up) ÷ fill mass), never rounded up; all in whole mg, so the count is exact.
 *
 * @throws RangeError for a fill mass that is not above 0, masses below 0, or cavities that are no whole number
 * @example countBars({ massMg: 18_400_000, holdUpMg: 350_000, fillMg: 45_000 }).bars // 401
 */
export function countBars({ massMg, holdUpMg, fillMg, cavities }: BarProblem): BarCount {
  requireAbove0(fillMg, 'the fill mass');
  requireNotBelow0(massMg, 'the mass of chocolate');
  requireNotBelow0(holdUpMg, 'the hold-up');
  if (cavities !== undefined) requireWhole(cavities, 'the number of cavities of a mould', 1);
  const usable = Math.max(0, massMg - holdUpMg);
  const bars = Math.floor(usable / fillMg);
  return {
    bars,
    inBarsMg: bars * fillMg,
    leftMg: usable - bars * fillMg,
    fullMoulds: cavities ? Math.floor(bars / cavities) : null,
    fills: cavities ? Math.ceil(bars / cavities) : null,
  };
}
