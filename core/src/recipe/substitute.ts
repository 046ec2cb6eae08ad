import type { Ingredient } from './composition.ts';
import type { RecipeLine } from './figures.ts';

/** What stands in for nibs. */
export type Substitute = 'liquor' | 'powder and butter';

/**
 * Replaces `massMg` of a bean line: by liquor gram for gram, or by cocoa powder and butter in the masses that bring the
 * same cocoa solids and the same cocoa butter. Masses whole mg; figures stay but for the water the powder holds and, with powder and
 * butter, the beans-only share.
 *
 * @throws RangeError where the recipe has less of it, or the stand-ins cannot bring its solids and butter
 */
export function substituteNibs(
  lines: readonly RecipeLine[],
  {
    nibs,
    massMg,
    by,
    liquor,
    powder,
    butter,
  }: {
    nibs: Ingredient;
    massMg: number;
    by: Substitute;
    liquor?: Ingredient;
    powder?: Ingredient;
    butter?: Ingredient;
  },
): RecipeLine[] {
  const there = lines.filter((l) => l.ingredient.id === nibs.id).reduce((s, l) => s + l.massMg, 0);
  if (!(massMg > 0 && massMg <= there))
    throw new RangeError(`${massMg} mg of ${nibs.name} cannot be replaced, there are ${there} mg`);
  const less = without(lines, nibs.id, massMg);
  if (by === 'liquor') {
    if (!liquor) throw new RangeError('liquor is needed to stand in for nibs');
    return plus(less, liquor, massMg);
  }
  if (!powder || !butter)
    throw new RangeError('cocoa powder and cocoa butter are needed to stand in for nibs');
  const solids = massMg * nibs.composition.cocoaSolids;
  const fat = massMg * nibs.composition.cocoaButter;
  const powderMg = powder.composition.cocoaSolids > 0 ? solids / powder.composition.cocoaSolids : Number.NaN;
  const butterMg = (fat - powderMg * powder.composition.cocoaButter) / butter.composition.cocoaButter;
  if (!(powderMg >= 0) || !(butterMg >= 0))
    throw new RangeError('this powder and butter cannot bring the solids and the butter of the nibs');
  return plus(plus(less, powder, Math.round(powderMg)), butter, Math.round(butterMg));
}

function without(lines: readonly RecipeLine[], id: string, massMg: number): RecipeLine[] {
  let left = massMg;
  return lines.flatMap((l) => {
    if (l.ingredient.id !== id || left === 0) return [l];
    const taken = Math.min(left, l.massMg);
    left -= taken;
    return taken === l.massMg ? [] : [{ ...l, massMg: l.massMg - taken }];
  });
}

function plus(lines: readonly RecipeLine[], ingredient: Ingredient, massMg: number): RecipeLine[] {
  const at = lines.findIndex((l) => l.ingredient.id === ingredient.id);
  if (at < 0) return [...lines, { ingredient, massMg }];
  return lines.map((l, i) => (i === at ? { ...l, massMg: l.massMg + massMg } : l));
}
