import type { IngredientRecord, ParcelComposition, Recipe } from '@wunsch/contract';
import { isWithin, mostCacao } from '@wunsch/core/classes';
import type { RecipeLine } from '@wunsch/core/recipe';

/** Shares of cacao typed with commas between; a comma right before one last digit is that of a decimal. Null where they are none. */
export function readSweetness(text: string): number[] | null {
  const parts = text
    .replace(/(\d),(\d)(?!\d)/g, '$1.$2')
    .split(/[;,/\s]+/)
    .map((p) => p.replace(/%$/, ''))
    .filter(Boolean)
    .map(Number);
  const good = parts.length > 0 && parts.length <= 8 && parts.every((p) => p > 0 && p <= 100);
  return good ? [...new Set(parts)] : null;
}

/** Shares of cacao usually offered, %. */
const USUAL_SWEETNESS = [80, 70, 60];

/** What a class begins with as lines of a recipe: a recipe’s, or what a parcel is made of; none where that is not known here. */
export function baseLines(
  base: string,
  {
    recipes,
    ingredients,
    composition,
  }: {
    recipes: readonly Recipe[];
    ingredients: readonly IngredientRecord[];
    /** Of the parcel that is the base. */
    composition: ParcelComposition | undefined;
  },
): RecipeLine[] {
  if (composition && base === `parcel:${composition.parcelId}`) return composition.lines;
  const recipe = recipes.find((r) => base === `recipe:${r.id}`);
  return (recipe?.lines ?? []).flatMap(({ ingredientId, massMg }) => {
    const ingredient = ingredients.find((i) => i.id === ingredientId);
    return ingredient && massMg > 0 ? [{ ingredient, massMg }] : [];
  });
}

/** The most cacao % that bars from a base can have; null where what is in it is not known here. */
export const mostOf = (lines: readonly RecipeLine[], school: 'all' | 'beans'): number | null =>
  lines.length > 0 ? mostCacao({ base: lines, school, flavours: [] }) : null;

/** What is usually offered of it: what the base can have, or the base as it is. */
export function usualSweetness(most: number | null): string {
  const usual =
    most === null ? USUAL_SWEETNESS : USUAL_SWEETNESS.filter((percent) => isWithin(percent, most));
  return (usual.length > 0 ? usual : [Math.max(1, Math.floor(most!))]).join(', ');
}
