import { requireBetween } from '../numerics/index.ts';
import type { RecipeLine } from './figures.ts';

const sum = (lines: readonly RecipeLine[]): number => lines.reduce((mass, l) => mass + l.massMg, 0);

/**
 * How many times a recipe a bowl is, by its cacao: the mass of bean in it over the mass the recipe names. Of several that a recipe names, such as
 * nibs and bought liquor, the first that is in the bowl decides, since the others may be still to come. 1 where nothing tells.
 *
 * @throws RangeError where a mass is negative or no number
 * @example half of it: 3.6 kg of nibs in the bowl, 7.2 kg in the recipe → 0.5
 */
export function timesRecipe(bowl: readonly RecipeLine[], recipe: readonly RecipeLine[]): number {
  for (const { ingredient, massMg } of [...bowl, ...recipe])
    requireBetween(massMg, 0, Number.MAX_VALUE, `mass of ${ingredient.name}`);
  const beans = (lines: readonly RecipeLine[]) =>
    lines.filter((l) => l.ingredient.cacao === 'bean' && l.massMg > 0);
  const [there, wanted] = [beans(bowl), beans(recipe)];
  if (there.length === 0 || wanted.length === 0) return 1;
  const kinds = [...new Set(wanted.map((l) => l.ingredient.id))];
  const first = kinds.find((id) => there.some((l) => l.ingredient.id === id));
  const of = (lines: readonly RecipeLine[]) =>
    kinds.length > 1 && first !== undefined ? lines.filter((l) => l.ingredient.id === first) : lines;
  return sum(of(there)) / sum(of(wanted));
}
