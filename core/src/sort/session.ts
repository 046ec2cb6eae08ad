import { requireNotBelow0, requireNumbers } from '../numerics/index.ts';
/** Reasons a bean is thrown out; the words stand in the interface's catalogue. */
export const REJECT_REASONS = [
  'broken',
  'flat',
  'clumped',
  'germinated',
  'mouldy',
  'insect',
  'undersized',
  'foreign',
  'other',
] as const;

/** One reason. */
export type RejectReason = (typeof REJECT_REASONS)[number];

/** Pace of a sorting session. */
export interface SortPace {
  kgPerHour: number;
  rejectShare: number;
  /** What the rejected beans cost, minor units. */
  rejectCost: number;
  /** Labour per kg of sorted beans, minor units. */
  labourPerKg: number;
}

/** Pace and cost of a session: masses in mg, minutes worked, prices in minor units. Null where nothing was weighed in or no time spent. */
export function sortPace({
  inMg,
  rejectMg,
  minutes,
  pricePerKg,
  labourRate,
}: {
  inMg: number;
  rejectMg: number;
  minutes: number;
  pricePerKg: number;
  labourRate: number;
}): SortPace | null {
  requireNumbers({ inMg, rejectMg, minutes, pricePerKg, labourRate }, 'the sorting');
  requireNotBelow0(rejectMg, 'the mass of rejects');
  if (!(inMg > 0) || !(minutes > 0)) return null;
  const kg = inMg / 1e6;
  const sorted = (inMg - rejectMg) / 1e6;
  return {
    kgPerHour: kg / (minutes / 60),
    rejectShare: rejectMg / inMg,
    rejectCost: (rejectMg / 1e6) * pricePerKg,
    labourPerKg: sorted > 0 ? ((minutes / 60) * labourRate) / sorted : Number.NaN,
  };
}

/** Size of beans from a weighed count, and how much single beans differ. */
export interface BeanSize {
  /** Mean mass of a bean, g. */
  meanG: number;
  /** Beans per 100 g. */
  per100g: number;
  /** Coefficient of variation of single beans, %; NaN below two. */
  spreadPercent: number;
}

/** Bean size from single beans weighed, g each. Throws RangeError for a mass not above 0. */
export function beanSize(grams: readonly number[]): BeanSize {
  requireNumbers(grams, 'a bean');
  if (grams.length === 0 || grams.some((g) => !(g > 0)))
    throw new RangeError('bean masses must be above 0 g');
  const meanG = grams.reduce((a, b) => a + b, 0) / grams.length;
  const sd =
    grams.length < 2
      ? Number.NaN
      : Math.sqrt(grams.reduce((s, g) => s + (g - meanG) ** 2, 0) / (grams.length - 1));
  return { meanG, per100g: 100 / meanG, spreadPercent: (100 * sd) / meanG };
}
