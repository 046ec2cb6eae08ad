import { requireBetween } from '../numerics/index.ts';
import { claimPercent, recipeFigures, type RecipeLine } from './figures.ts';
import { bowlNutrition } from './nutrition.ts';
import type { Nutrition } from './composition.ts';

/** An ingredient on the label: its share, and the allergens that must stand out in it. */
export interface LabelIngredient {
  name: string;
  percent: number;
  allergens: readonly string[];
}

/** What a label says of a bowl, all following what is really in it. */
export interface LabelFacts {
  /** In falling order of mass; the same name only once. */
  ingredients: LabelIngredient[];
  allergens: string[];
  /** Rounded down, never up. */
  cacaoAll: number;
  cacaoBeans: number;
  per100g: Nutrition;
}

/** The facts of a label from what is in the bowl. Lines of no mass are left out; equal masses stand in order of name. */
export function labelFacts(lines: readonly RecipeLine[]): LabelFacts {
  const f = recipeFigures(lines);
  const byName = new Map<string, { massMg: number; allergens: readonly string[] }>();
  for (const { ingredient, massMg } of lines) {
    if (massMg <= 0) continue;
    const there = byName.get(ingredient.name);
    byName.set(ingredient.name, {
      massMg: (there?.massMg ?? 0) + massMg,
      // Two deliveries under one name: what either declares stands out.
      allergens: [...new Set([...(there?.allergens ?? []), ...ingredient.allergens])].sort(),
    });
  }
  const ingredients = [...byName]
    .sort(([a, x], [b, y]) => y.massMg - x.massMg || a.localeCompare(b))
    .map(([name, { massMg, allergens }]) => ({ name, percent: (100 * massMg) / f.totalMg, allergens }));
  return {
    ingredients,
    allergens: f.allergens,
    cacaoAll: claimPercent(f.cacaoAll),
    cacaoBeans: claimPercent(f.cacaoBeans),
    per100g: bowlNutrition(lines),
  };
}

/** A share of cacao, %, that a name states: “Two-ingredient 70”, “72 % with nibs”; null where its numbers are masses, hours or years, or none. */
export function claimInName(name: string): number | null {
  for (const [, digits, unit] of name.matchAll(
    /(?<![\d.,])(\d{2,3}(?:[.,]\d)?)(?![\d.,]*\d)\s*([\p{L}µ°%]*)/gu,
  )) {
    const percent = Number(digits!.replace(',', '.'));
    if (percent >= 20 && percent <= 100 && !/^(k?g|mg|oz|lb|h|min|[µu]m|°.*|c|f|er|x)$/iu.test(unit!))
      return percent;
  }
  return null;
}

/** Whether a claim on a label is more than the bowl holds: "the label says 75 %, the bowl is 71.4 %". */
export function claimTooHigh(claimed: number, lines: readonly RecipeLine[]): boolean {
  requireBetween(claimed, 0, 100, 'a claim in %');
  return claimed > recipeFigures(lines).cacaoAll + 1e-9;
}
