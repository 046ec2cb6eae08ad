import { requireBetween } from '../numerics/index.ts';
import type { Composition, Ingredient } from './composition.ts';

/** A weighed or planned line of a recipe. */
export interface RecipeLine {
  ingredient: Ingredient;
  /** Whole milligrams, ≥ 0. */
  massMg: number;
}

/** The true figures of a bowl. Shares are % by mass of the whole. */
export interface RecipeFigures {
  totalMg: number;
  /** (nibs or liquor + added cocoa butter + cocoa powder) ÷ total. */
  cacaoAll: number;
  /** (nibs or liquor) ÷ total: the school that does not count added butter. */
  cacaoBeans: number;
  fat: number;
  cocoaButter: number;
  milkFat: number;
  sugar: number;
  water: number;
  composition: Composition;
  /** Minor units for the whole bowl. */
  cost: number;
  allergens: string[];
}

/** Water of the whole bowl above which the paste thickens and keeps badly, %. */
export const WATER_WARN = 1;

/** Water of a single ingredient above which chocolate seizes, %. */
export const WET_INGREDIENT = 8;

/**
 * The figures of a bowl from its lines, never rounded up. An empty bowl has shares of 0.
 *
 * @throws RangeError for a negative mass
 */
export function recipeFigures(lines: readonly RecipeLine[]): RecipeFigures {
  const sum: Record<keyof Composition, number> = {
    cocoaButter: 0,
    otherFat: 0,
    milkFat: 0,
    cocoaSolids: 0,
    sugar: 0,
    milkSolids: 0,
    otherSolids: 0,
    water: 0,
    emulsifier: 0,
  };
  let [totalMg, beans, added, cost] = [0, 0, 0, 0];
  const allergens = new Set<string>();
  for (const { ingredient, massMg } of lines) {
    if (!(massMg >= 0) || !Number.isFinite(massMg))
      throw new RangeError(`${ingredient.name} cannot weigh ${massMg} mg`);
    totalMg += massMg;
    if (ingredient.cacao === 'bean') beans += massMg;
    else if (ingredient.cacao !== 'none') added += massMg;
    cost += (massMg / 1e6) * ingredient.pricePerKg;
    if (massMg > 0) ingredient.allergens.forEach((a) => allergens.add(a));
    for (const part of Object.keys(sum) as (keyof Composition)[])
      sum[part] += (massMg * ingredient.composition[part]) / 100;
  }
  const share = (mg: number) => (totalMg > 0 ? (100 * mg) / totalMg : 0);
  const composition = Object.fromEntries(
    Object.entries(sum).map(([k, v]) => [k, share(v)]),
  ) as unknown as Composition;
  return {
    totalMg,
    cacaoAll: share(beans + added),
    cacaoBeans: share(beans),
    fat: composition.cocoaButter + composition.milkFat + composition.otherFat,
    cocoaButter: composition.cocoaButter,
    milkFat: composition.milkFat,
    sugar: composition.sugar,
    water: composition.water,
    composition,
    cost,
    allergens: [...allergens].sort(),
  };
}

/** Rounds a cacao percentage down to one decimal, so that a claim is never rounded up. */
export function claimPercent(percent: number): number {
  requireBetween(percent, 0, 100 + 1e-6, 'a share of cacao');
  return Math.floor(percent * 10 + 1e-9) / 10;
}
