import { useMemo } from 'react';
import type { BatchView, IngredientRecord, Recipe } from '@wunsch/contract';
import { nibComposition, type RecipeLine } from '@wunsch/core/recipe';
import { useRead } from '../../shell/door.tsx';

/** Ingredients by id. */
export function useIngredients(): Map<string, IngredientRecord> {
  const { data } = useRead<IngredientRecord[]>('/api/ingredients');
  return useMemo(() => new Map((data ?? []).map((i) => [i.id, i])), [data]);
}

/** Recipes, newest first. */
export function useRecipes(): Recipe[] {
  return useRead<Recipe[]>('/api/recipes').data ?? [];
}

/** Recipe lines with their ingredients; nibs take the lot's own fat where it is known. */
export function linesWith(
  lines: readonly { ingredientId: string; massMg: number }[],
  ingredients: ReadonlyMap<string, IngredientRecord>,
  nibFat: number | null = null,
): RecipeLine[] {
  return lines.flatMap((l) => {
    const ingredient = ingredients.get(l.ingredientId);
    if (!ingredient) return [];
    const composition =
      ingredient.cacao === 'bean' && nibFat !== null ? nibComposition(nibFat) : ingredient.composition;
    return [{ ingredient: { ...ingredient, composition }, massMg: l.massMg }];
  });
}

/** What is really in the bowl: every weight in force that went into recipe and grinder, nibs by the lot's fat. */
export function bowlLines(view: BatchView, ingredients: ReadonlyMap<string, IngredientRecord>): RecipeLine[] {
  const all = [...ingredients.values()];
  const nibs = all.find((i) => i.key === 'nibs') ?? all.find((i) => i.cacao === 'bean');
  const liquor = all.find((i) => i.key === 'liquor') ?? nibs;
  const made = new Set(
    view.movements
      .filter(
        (m) =>
          m.direction === 'out' &&
          m.inForce &&
          view.steps.some((s) => s.id === m.stepId && (s.station === 'recipe' || s.station === 'grind')),
      )
      .map((m) => m.parcelId),
  );
  return view.movements.flatMap((m): RecipeLine[] => {
    const step = view.steps.find((s) => s.id === m.stepId);
    if (
      !m.inForce ||
      m.direction !== 'in' ||
      !step ||
      (step.station !== 'recipe' && step.station !== 'grind')
    )
      return [];
    if (m.ingredientId)
      return linesWith([{ ingredientId: m.ingredientId, massMg: m.massMg }], ingredients, view.lot.nibFat);
    if (made.has(m.parcelId) || !nibs || (m.material !== 'nibs' && m.material !== 'liquor')) return [];
    return [
      {
        ingredient: {
          ...(m.material === 'liquor' ? liquor! : nibs),
          composition: view.lot.nibFat ? nibComposition(view.lot.nibFat) : nibs.composition,
        },
        massMg: m.massMg,
      },
    ];
  });
}
