import {
  normalQuantile,
  requireAbove0,
  requireBetween,
  requireFinite,
  requireNotBelow0,
  requireNumbers,
} from '../numerics/index.ts';

/** Mass drawn from a lot, mg, on a day. */
export interface Draw {
  /** Epoch ms. */
  at: number;
  massMg: number;
}

/** How fast a lot is used. */
export interface UsePace {
  /** mg a week, mean and standard deviation between weeks. */
  perWeekMg: number;
  sdMg: number;
  weeks: number;
}

const WEEK = 7 * 86_400_000;

/** Weeks looked back over. */
const LOOK_BACK = 26;

/**
 * Weekly use of a lot (or of the whole workshop) over the last half year, or since its first draw where that is later,
 * idle weeks counted. Null below two weeks of history.
 */
export function usePace(draws: readonly Draw[], now: number): UsePace | null {
  requireFinite(now, 'the time');
  for (const d of draws) {
    requireFinite(d.at, 'the time of a draw');
    requireNotBelow0(d.massMg, 'the mass of a draw');
  }
  const recent = draws.filter((d) => d.at > now - LOOK_BACK * WEEK && d.at <= now);
  if (recent.length === 0) return null;
  const first = Math.min(...recent.map((d) => d.at));
  const weeks = Math.ceil((now - first) / WEEK);
  if (weeks < 2) return null;
  const sums = Array.from({ length: weeks }, (_, w) =>
    recent
      .filter((d) => d.at > now - (w + 1) * WEEK && d.at <= now - w * WEEK)
      .reduce((s, d) => s + d.massMg, 0),
  );
  const perWeekMg = sums.reduce((a, b) => a + b, 0) / weeks;
  const sdMg = Math.sqrt(sums.reduce((s, v) => s + (v - perWeekMg) ** 2, 0) / (weeks - 1));
  return { perWeekMg, sdMg, weeks };
}

/** When to order again. */
export interface Reorder {
  /** Weeks the stock lasts at this pace. */
  weeksLeft: number;
  /** Stock at which to order: demand over the lead time + z·σ·√lead. */
  pointMg: number;
  /** Safety stock within it. */
  safetyMg: number;
  /** Epoch ms at which the stock comes down to the point; in the past when it is below already. */
  orderAt: number;
}

/**
 * Reorder point d·L + z·σ·√L for a lead time in weeks and the wanted chance of not running out meanwhile.
 *
 * @throws RangeError for a negative lead time or a chance outside 0.5–1
 */
export function reorder({
  stockMg,
  pace,
  leadWeeks,
  chance = 0.95,
  now,
}: {
  stockMg: number;
  pace: UsePace;
  leadWeeks: number;
  chance?: number;
  now: number;
}): Reorder {
  requireNumbers({ stockMg, pace, leadWeeks, chance, now }, 'the stock');
  requireNotBelow0(stockMg, 'the stock');
  requireNotBelow0(pace.sdMg, 'the spread of the weekly use');
  requireAbove0(pace.perWeekMg, 'the weekly use');
  if (!(leadWeeks >= 0)) throw new RangeError('the lead time must not be negative');
  if (!(chance >= 0.5 && chance < 1))
    throw new RangeError('the chance of not running out lies between 50 % and below 100 %');
  const safetyMg = normalQuantile(chance) * pace.sdMg * Math.sqrt(leadWeeks);
  const pointMg = pace.perWeekMg * leadWeeks + safetyMg;
  const weeksLeft = stockMg / pace.perWeekMg;
  return { weeksLeft, pointMg, safetyMg, orderAt: now + ((stockMg - pointMg) / pace.perWeekMg) * WEEK };
}

/** A yield with its spread between batches: wanted output ÷ input. */
export interface StepYield {
  mean: number;
  sd: number;
}

/** Mass needed, mg, with its 80 % range. */
export interface MassNeeded {
  middleMg: number;
  lowMg: number;
  highMg: number;
  /** Product of the yields from beans to bars, cacao only. */
  overall: number;
}

/**
 * Beans needed for a number of bars, backwards through the yields of each step: bars·mass·share of beans ÷ Π yields, the
 * relative variances added (each batch draws its own yields; `batches` of them average out).
 *
 * @throws RangeError for bars, mass, share or yields not above 0
 */
export function beansForBars({
  bars,
  barMg,
  beansShare,
  yields,
  batches = 1,
}: {
  bars: number;
  barMg: number;
  beansShare: number;
  yields: readonly StepYield[];
  batches?: number;
}): MassNeeded {
  requireNumbers({ bars, barMg, beansShare, yields, batches }, 'the bars wanted');
  if (yields.some((y) => y.sd < 0)) throw new RangeError('the spread of a yield must be 0 or more');
  if (!(bars > 0) || !(barMg > 0)) throw new RangeError('a number of bars and their mass are needed');
  if (!(beansShare > 0 && beansShare <= 1))
    throw new RangeError('the share of beans in the bar lies above 0 and up to 100 %');
  if (yields.some((y) => !(y.mean > 0))) throw new RangeError('every yield must be above 0');
  const overall = yields.reduce((p, y) => p * y.mean, 1);
  const relative = Math.sqrt(yields.reduce((s, y) => s + (y.sd / y.mean) ** 2, 0) / Math.max(1, batches));
  const middleMg = (bars * barMg * beansShare) / overall;
  const z = normalQuantile(0.9);
  return { middleMg, lowMg: middleMg / (1 + z * relative), highMg: middleMg * (1 + z * relative), overall };
}

/** Price of a lot as it stands in the shop, minor units. */
export interface LandedPrice {
  perKg: number;
  /** Cacao in one expected bar. */
  perBar: number | null;
}

/** Price including freight per kg, and per bar of `beansPerBarMg` beans where that is known. */
export function landedPrice({
  pricePerKg,
  freight,
  arrivedMg,
  beansPerBarMg,
}: {
  pricePerKg: number;
  freight: number;
  arrivedMg: number;
  beansPerBarMg?: number | null;
}): LandedPrice {
  requireNotBelow0(pricePerKg, 'the price per kg');
  requireNotBelow0(freight, 'the freight');
  requireNotBelow0(arrivedMg, 'the mass on arrival');
  if (beansPerBarMg != null) requireNotBelow0(beansPerBarMg, 'the beans in a bar');
  const perKg = pricePerKg + (arrivedMg > 0 ? freight / (arrivedMg / 1e6) : 0);
  return { perKg, perBar: beansPerBarMg ? (perKg * beansPerBarMg) / 1e6 : null };
}

/** What a bean's moisture asks for, % wet basis: 6.5–8 is wanted, above 8 moulds can grow, below 6 beans shatter. */
export function moistureVerdict(percent: number): 'good' | 'mould-risk' | 'shatters' | 'a-little-dry' {
  requireBetween(percent, 0, 100, 'a moisture');
  if (percent > 8) return 'mould-risk';
  if (percent < 6) return 'shatters';
  return percent < 6.5 ? 'a-little-dry' : 'good';
}
