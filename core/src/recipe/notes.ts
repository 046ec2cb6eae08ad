import type { Ingredient } from './composition.ts';
import { crystalShare } from './foods.ts';
import { recipeFigures, WATER_WARN, WET_INGREDIENT, type RecipeLine } from './figures.ts';
import { LECITHIN } from './flow.ts';

/** What stands out in a bowl. */
export type RecipeNote =
  /** A wet ingredient: chocolate seizes. `dry` is the key of a starter ingredient that does instead, where there is one. */
  | { code: 'seizes'; severity: 'stop'; ingredient: string; water: number; dry: string | null }
  /** Water of the whole bowl above 1 %. Where it all comes with nibs it is ordinary and mostly leaves while grinding. */
  | { code: 'water'; severity: 'warn' | 'note'; water: number }
  | { code: 'lecithin'; severity: 'warn'; percent: number }
  /** Other fats soften cocoa butter and may not mix with it. */
  | { code: 'other-fat'; severity: 'warn'; percent: number }
  | { code: 'starch'; severity: 'note'; ingredient: string }
  | { code: 'damp-sugar'; severity: 'warn'; ingredient: string; water: number }
  | { code: 'coarse-sugar'; severity: 'note'; ingredient: string; crystalUm: number };

/** Dry ingredients that stand in for wet ones, by words in the wet one's name. */
const DRY_FOR: readonly [RegExp, string][] = [
  [/\bmilk|cream|milch|sahne/i, 'whole-milk-powder'],
  [/honey|honig|syrup|sirup|nectar|agave|maple|ahorn/i, 'coconut-sugar'],
  [/fruit|frucht|berry|beere|mango|banana|banane|orange|lemon|zitrone|passion/i, 'freeze-dried-raspberry'],
  [/juice|saft/i, 'freeze-dried-raspberry'],
  [/coffee|kaffee|espresso/i, 'ground-coffee'],
  [/vanilla|vanille|extract|extrakt/i, 'vanilla'],
];

/** The dry starter ingredient that does instead of a wet one, by its name; null where none is known (spirits, for one). */
export function dryEquivalent(name: string): string | null {
  return DRY_FOR.find(([pattern]) => pattern.test(name))?.[1] ?? null;
}

/** Whether chocolate seizes on an ingredient: more than 8 % water. */
export function seizes({ composition }: Ingredient): boolean {
  return composition.water > WET_INGREDIENT;
}

/** Share of cocoa, milk and sugar, %, from which an ingredient is what bowls are made of; spices, salt and emulsifiers lie far below. */
const BULK = 90;

/** Whether an ingredient goes in by the part and not by the pinch: cocoa in any form, milk powder, sugar. */
export function isBulk({ composition: c }: Pick<Ingredient, 'composition'>): boolean {
  return c.cocoaButter + c.cocoaSolids + c.milkFat + c.milkSolids + c.sugar >= BULK;
}

/** Other fats, % of the bowl, from which softening and the sold name are spoken of. */
const OTHER_FAT_NOTED = 2;

/** Water in sugar, %, above which it is damp. */
const DAMP_SUGAR = 0.6;

/** Crystals coarser than this take noticeably longer, µm. */
const COARSE_SUGAR = 800;

/** Names what stands out in a bowl, gravest first. */
export function recipeNotes(lines: readonly RecipeLine[]): RecipeNote[] {
  const used = lines.filter((l) => l.massMg > 0);
  const f = recipeFigures(used);
  const notes: RecipeNote[] = [];
  for (const { ingredient } of used) {
    const { name, composition: c } = ingredient;
    if (seizes(ingredient))
      notes.push({
        code: 'seizes',
        severity: 'stop',
        ingredient: name,
        water: c.water,
        dry: dryEquivalent(name),
      });
  }
  if (f.water > WATER_WARN) {
    const others = used
      .filter((l) => l.ingredient.cacao !== 'bean')
      .reduce((s, l) => s + (l.massMg * l.ingredient.composition.water) / f.totalMg, 0);
    notes.push({ code: 'water', severity: others > WATER_WARN / 2 ? 'warn' : 'note', water: f.water });
  }
  const lecithin = f.composition.emulsifier / LECITHIN.activeShare;
  if (lecithin > LECITHIN.rises) notes.push({ code: 'lecithin', severity: 'warn', percent: lecithin });
  if (f.composition.otherFat > OTHER_FAT_NOTED)
    notes.push({ code: 'other-fat', severity: 'warn', percent: f.composition.otherFat });
  for (const { ingredient } of used) {
    const { name, composition: c, crystalUm } = ingredient;
    const crystals = crystalShare(ingredient);
    if (crystals < 80) continue;
    const others = c.sugar + c.otherSolids - crystals;
    if (/icing|puder|powdered|starch|stärke/i.test(name) && others > 1)
      notes.push({ code: 'starch', severity: 'note', ingredient: name });
    if (c.water > DAMP_SUGAR && others < 2)
      notes.push({ code: 'damp-sugar', severity: 'warn', ingredient: name, water: c.water });
    if (crystalUm && crystalUm > COARSE_SUGAR)
      notes.push({ code: 'coarse-sugar', severity: 'note', ingredient: name, crystalUm });
  }
  return notes;
}

/** Grit the sugar starts at, µm: the coarsest crystal of the bowl by mass of sugar and polyols above a tenth of them; null where unknown. */
export function startingGrit(lines: readonly RecipeLine[]): number | null {
  const sugar = lines.map((l) => ({ ...l, sugarMg: (l.massMg * crystalShare(l.ingredient)) / 100 }));
  const all = sugar.reduce((s, l) => s + l.sugarMg, 0);
  const sizes = sugar.flatMap((l) =>
    l.ingredient.crystalUm && all > 0 && l.sugarMg > 0.1 * all ? [l.ingredient.crystalUm] : [],
  );
  return sizes.length > 0 ? Math.max(...sizes) : null;
}
