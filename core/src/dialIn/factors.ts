import { requireFinite } from '../numerics/index.ts';

/** What of a bar’s making is dialled in, in the order of the line. */
export const FACTORS = ['dose', 'acid', 'sugar', 'grit', 'conche'] as const;
/** See {@link FACTORS}. */
export type Factor = (typeof FACTORS)[number];

/** A factor as the trade handles it. */
export interface FactorHabit {
  /** Where the trade usually begins. */
  usual: number;
  /** One step by hand, as a factor (log) or a difference. */
  step: number;
  scale: 'log' | 'linear';
  /** What makes sense at all. */
  low: number;
  high: number;
}

/**
 * Dose in minutes worth at 120 °C, acid as the share of sharp acid left after the roast, sugar in % of the whole, grit in µm, conche in
 * hours in grinder and conche together.
 */
export const FACTOR_HABITS: Readonly<Record<Factor, FactorHabit>> = {
  dose: { usual: 12, step: 1.25, scale: 'log', low: 3, high: 40 },
  acid: { usual: 0.35, step: 1.25, scale: 'log', low: 0.05, high: 0.95 },
  sugar: { usual: 30, step: 3, scale: 'linear', low: 0, high: 60 },
  grit: { usual: 20, step: 1.2, scale: 'log', low: 10, high: 60 },
  conche: { usual: 30, step: 1.4, scale: 'log', low: 2, high: 120 },
};

/** How one batch was made; a factor nobody measured is left out. */
export type Setting = Partial<Record<Factor, number>>;

/** A value as steps from where the trade begins. */
export function toSteps(factor: Factor, value: number): number {
  const h = FACTOR_HABITS[factor];
  requireFinite(value, factor);
  if (h.scale === 'linear') return (value - h.usual) / h.step;
  if (!(value > 0)) throw new RangeError(`${factor} must be above 0, not ${value}`);
  return Math.log(value / h.usual) / Math.log(h.step);
}

/** Steps as a value, within what makes sense. */
export function fromSteps(factor: Factor, steps: number): number {
  const h = FACTOR_HABITS[factor];
  const value = h.scale === 'linear' ? h.usual + steps * h.step : h.usual * h.step ** steps;
  return Math.min(h.high, Math.max(h.low, value));
}
