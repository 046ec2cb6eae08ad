import type { Ingredient } from './composition.ts';

/** Parts of 100 g of dry matter from which an ingredient counts as sugar, milk or pure fat, and an emulsifier as one. */
const SUGAR = 75;
const MILK = 50;
const FAT = 90;
const EMULSIFIER = 30;

/** What of an ingredient is ground as crystals, %: sugars, and the polyols that stand in for them. */
export function crystalShare({
  composition,
  nutrition,
}: Pick<Ingredient, 'composition' | 'nutrition'>): number {
  return Math.max(composition.sugar, nutrition?.polyols ?? 0);
}

/** Whether an ingredient is an emulsifier, judged on its dry matter. */
export function isEmulsifier({ composition: c }: Pick<Ingredient, 'composition'>): boolean {
  return c.water < 100 && (100 * c.emulsifier) / (100 - c.water) >= EMULSIFIER;
}

/**
 * Whether an ingredient is another food beside the chocolate itself: nuts, fruit, cereals, coffee, spices, salt. Cacao, sugars and
 * sweeteners, milk, pure fats and emulsifiers are parts of the chocolate. Judged on the dry matter.
 */
export function isOtherFood({
  cacao,
  composition: c,
  nutrition,
}: Pick<Ingredient, 'cacao' | 'composition' | 'nutrition'>): boolean {
  if (cacao !== 'none') return false;
  const dry = 100 - c.water;
  if (!(dry > 0)) return false;
  const share = (grams: number) => (100 * grams) / dry;
  return (
    share(c.sugar + (nutrition?.polyols ?? 0)) < SUGAR &&
    share(c.milkSolids + c.milkFat) < MILK &&
    share(c.otherFat + c.milkFat + c.cocoaButter) < FAT &&
    !isEmulsifier({ composition: c })
  );
}
