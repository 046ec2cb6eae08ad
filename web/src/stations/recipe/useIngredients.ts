import { useMemo } from 'react';
import type { BatchView, IngredientRecord, MovementRecord, Recipe } from '@wunsch/contract';
import { COUNTS_AS, nibComposition, type RecipeLine } from '@wunsch/core/recipe';
import { useRead } from '../../shell/door.tsx';
import { inOrder } from '../../words/inOrder.ts';
import { useWords } from '../../words/words.tsx';

/** Ingredients by id, in the order of the alphabet. */
export function useIngredients(): Map<string, IngredientRecord> {
  const words = useWords();
  const { data } = useRead<IngredientRecord[]>('/api/ingredients');
  return useMemo(
    () => new Map(inOrder(words, 'ingredient', data ?? []).map((i) => [i.id, i])),
    [data, words],
  );
}

/** Recipes, newest first. */
export function useRecipes(): Recipe[] {
  return useRead<Recipe[]>('/api/recipes').data ?? [];
}

/** Whether what there is of both is known, so that what is drawn of them stays where it is. */
export function useShelfKnown(): boolean {
  const { data: recipes } = useRead<Recipe[]>('/api/recipes');
  const { data: ingredients } = useRead<IngredientRecord[]>('/api/ingredients');
  return recipes !== undefined && ingredients !== undefined;
}

/** The ingredient that a line weighs in, off the shelf or out of a lot; none where it is several at once. */
export function ingredientOf(
  { ingredientId, material }: Pick<MovementRecord, 'ingredientId' | 'material'>,
  ingredients: ReadonlyMap<string, IngredientRecord>,
): IngredientRecord | undefined {
  if (ingredientId) return ingredients.get(ingredientId);
  const key = material && COUNTS_AS[material];
  return key ? [...ingredients.values()].find((i) => i.key === key) : undefined;
}

/** What a kg of an ingredient costs now; an answer kept from an older release knows its own price only. */
export const costNow = (
  of: Pick<IngredientRecord, 'pricePerKg'> & Partial<Pick<IngredientRecord, 'priceNow'>>,
) => of.priceNow ?? of.pricePerKg;

/** A line of a recipe with its ingredient as the shelf knows it. */
export interface PlannedLine extends RecipeLine {
  ingredient: IngredientRecord;
}

/** Recipe lines with their ingredients at what they cost now; nibs take the lot's own fat where it is known. */
export function linesWith(
  lines: readonly { ingredientId: string; massMg: number }[],
  ingredients: ReadonlyMap<string, IngredientRecord>,
  nibFat: number | null = null,
): PlannedLine[] {
  return lines.flatMap((l) => {
    const ingredient = ingredients.get(l.ingredientId);
    if (!ingredient) return [];
    const composition =
      ingredient.cacao === 'bean' && nibFat !== null ? nibComposition(nibFat) : ingredient.composition;
    return [
      { ingredient: { ...ingredient, composition, pricePerKg: costNow(ingredient) }, massMg: l.massMg },
    ];
  });
}

/** What is really in the bowl, as the server follows every weight back to it. */
export function bowlLines(view: Pick<BatchView, 'bowl'>): readonly RecipeLine[] {
  return view.bowl ?? NOTHING;
}

/** What is in a grinder that is at work with a part of a batch, and what of it is not known; else what is in the bowl. */
export function bowlAt(
  view: Pick<BatchView, 'bowl' | 'bowls' | 'bowlUnknown'>,
  stepId: string,
): { lines: readonly RecipeLine[]; unknown: readonly string[] } {
  const own = view.bowls?.find((b) => b.stepId === stepId);
  return own ?? { lines: bowlLines(view), unknown: view.bowlUnknown ?? [] };
}

const NOTHING: readonly RecipeLine[] = [];
