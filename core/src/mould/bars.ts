import { requireAbove0, requireNotBelow0, requireWhole } from '../numerics/index.ts';

/** What a mass of chocolate makes. Masses in whole mg. */
export interface BarCount {
  bars: number;
  /** Chocolate in the bars, without what is laid in. */
  inBarsMg: number;
  /** Left over beside the hold-up. */
  leftMg: number;
  /** Whole moulds, and fills needed for all bars (the last may be part full); null without cavities. */
  fullMoulds: number | null;
  fills: number | null;
  /** Nuts, fruit, salt … for all bars. */
  inclusionsMg: number;
}

/** The moulding at hand. */
export interface BarProblem {
  massMg: number;
  /** Stays in the machine, bowl and on tools. */
  holdUpMg: number;
  fillMg: number;
  /** Cavities of one mould. */
  cavities?: number;
  /** Share of a bar that is nuts, fruit, salt …, laid in or stirred in, 0 to below 1. */
  inclusionShare?: number;
}

/**
 * Bars = floor((mass − hold-up) ÷ chocolate of one bar), never rounded up; all in whole mg, so the count is exact. A bar with something
 * laid in takes that much less chocolate.
 *
 * @throws RangeError for a fill mass that is not above 0, masses below 0, or cavities that are no whole number
 * @example countBars({ massMg: 18_400_000, holdUpMg: 350_000, fillMg: 45_000 }).bars // 401
 */
export function countBars({ massMg, holdUpMg, fillMg, cavities, inclusionShare = 0 }: BarProblem): BarCount {
  requireAbove0(fillMg, 'the fill mass');
  requireNotBelow0(massMg, 'the mass of chocolate');
  requireNotBelow0(holdUpMg, 'the hold-up');
  if (cavities !== undefined) requireWhole(cavities, 'the number of cavities of a mould', 1);
  if (!(inclusionShare >= 0 && inclusionShare < 1))
    throw new RangeError('the share of what is laid in must be at least 0 and below 1');
  const usable = Math.max(0, massMg - holdUpMg);
  const inclusionMg = Math.round(fillMg * inclusionShare);
  const chocolateMg = fillMg - inclusionMg;
  const bars = Math.floor(usable / chocolateMg);
  return {
    bars,
    inBarsMg: bars * chocolateMg,
    leftMg: usable - bars * chocolateMg,
    inclusionsMg: bars * inclusionMg,
    fullMoulds: cavities ? Math.floor(bars / cavities) : null,
    fills: cavities ? Math.ceil(bars / cavities) : null,
  };
}
