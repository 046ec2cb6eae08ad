import { forecastMass, massNeeded, YIELD_PRIORS, type MassRange, type SharePrior } from '../ledger/index.ts';
import { normalQuantile, requireNumbers } from '../numerics/index.ts';
import { USUAL_DRY_YIELD } from './ferment.ts';

/** What is picked, or bought wet. */
export type Undried = keyof typeof USUAL_DRY_YIELD;

/** What is sorted, roasted and winnowed on the way from dry beans to nibs usually keeps of its mass. */
const USUAL_TO_NIBS: readonly SharePrior[] = [YIELD_PRIORS.sort, YIELD_PRIORS.roast, YIELD_PRIORS.winnow];

/** Share of pods or wet beans that dries to beans: four crops of five lie within the usual range. */
function dryYield(from: Undried): SharePrior {
  const [low, high] = USUAL_DRY_YIELD[from];
  return { mean: (low + high) / 2, sd: (high - low) / 2 / normalQuantile(0.9) };
}

const through = (from: Undried, toNibs: readonly SharePrior[]) => {
  requireNumbers(toNibs, 'a yield');
  return [dryYield(from), ...toNibs];
};

/**
 * How much must be cut or bought for a grinder’s least charge of nibs: back through winnowing, roasting, sorting and drying, with the range
 * that four of five crops lie in. Masses in mg.
 *
 * @param toNibs yields of sorting, roasting and winnowing; the trade’s usual ones where left out
 * @throws RangeError for a charge that is no mass, or a yield that gives none
 */
export function neededForCharge(
  chargeMg: number,
  from: Undried,
  toNibs: readonly SharePrior[] = USUAL_TO_NIBS,
): MassRange {
  return massNeeded(chargeMg, through(from, toNibs));
}

/**
 * Nibs that pods or wet beans are likely to give, mg, with the range that four of five crops lie in.
 *
 * @param toNibs as in {@link neededForCharge}
 * @throws RangeError for a mass below 0
 */
export function nibsFrom(
  massMg: number,
  from: Undried,
  toNibs: readonly SharePrior[] = USUAL_TO_NIBS,
): MassRange {
  return forecastMass(massMg, through(from, toNibs));
}
