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
 * @throws RangeError for a fill mass that is not above 0 or masses below 0
 * @example countBars({ massMg: 18_400_000, holdUpMg: 350_000, fillMg: 45_000 }).bars // 401
 */
export function countBars({ massMg, holdUpMg, fillMg, cavities }: BarProblem): BarCount {
  if (!(fillMg > 0)) throw new RangeError('the fill mass must be above 0');
  if (!(massMg >= 0) || !(holdUpMg >= 0)) throw new RangeError('a mass cannot be below 0');
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
