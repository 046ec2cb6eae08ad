/** What 100 g of an ingredient hold, in g. The nine parts add up to 100. */
export interface Composition {
  cocoaButter: number;
  /** Fats that are neither cocoa butter nor milk fat. */
  otherFat: number;
  milkFat: number;
  cocoaSolids: number;
  sugar: number;
  milkSolids: number;
  otherSolids: number;
  water: number;
  emulsifier: number;
}

/** Counts towards cacao %: as ground bean (nibs, liquor), as added cocoa butter or powder, or not at all. */
export type CacaoKind = 'bean' | 'butter' | 'powder' | 'none';

/** An ingredient as the recipe arithmetic needs it. */
export interface Ingredient {
  id: string;
  name: string;
  cacao: CacaoKind;
  composition: Composition;
  /** Minor units of the workshop's currency per kg. */
  pricePerKg: number;
  allergens: readonly string[];
}

const parts = (p: Partial<Composition>): Composition => ({
  cocoaButter: 0,
  otherFat: 0,
  milkFat: 0,
  cocoaSolids: 0,
  sugar: 0,
  milkSolids: 0,
  otherSolids: 0,
  water: 0,
  emulsifier: 0,
  ...p,
});

/** Cocoa butter in nibs where the lot has no figure of its own, % by mass (usual range 50–56). */
export const DEFAULT_NIB_FAT = 54;

/** Water in roasted nibs, % by mass. */
export const NIB_WATER = 2;

/** Composition of nibs (or pure liquor) with `fat` % cocoa butter. Throws RangeError outside 30–70 %. */
export function nibComposition(fat: number = DEFAULT_NIB_FAT): Composition {
  if (!(fat >= 30 && fat <= 70)) throw new RangeError(`nib fat of ${fat} % is outside 30–70 %`);
  return parts({ cocoaButter: fat, cocoaSolids: 100 - fat - NIB_WATER, water: NIB_WATER });
}

/** A starter ingredient; prices are left to the workshop. */
export interface StarterIngredient extends Omit<Ingredient, 'id' | 'pricePerKg'> {
  key: string;
  pricePerKg: number;
}

/**
 * Common ingredients. Compositions from public food-composition tables (USDA FoodData Central and
 * McCance and Widdowson, typical values, rounded); prices are round figures to be changed.
 */
export const STARTER_INGREDIENTS: readonly StarterIngredient[] = [
  { key: 'nibs', name: 'Nibs', cacao: 'bean', composition: nibComposition(), pricePerKg: 0, allergens: [] },
  {
    key: 'cane-sugar',
    name: 'Cane sugar',
    cacao: 'none',
    composition: parts({ sugar: 99.9, water: 0.1 }),
    pricePerKg: 180,
    allergens: [],
  },
  {
    key: 'icing-sugar',
    name: 'Icing sugar with starch',
    cacao: 'none',
    composition: parts({ sugar: 96.5, otherSolids: 3, water: 0.5 }),
    pricePerKg: 240,
    allergens: [],
  },
  {
    key: 'coconut-sugar',
    name: 'Coconut sugar',
    cacao: 'none',
    composition: parts({ sugar: 93, otherSolids: 5, water: 2 }),
    pricePerKg: 650,
    allergens: [],
  },
  {
    key: 'cocoa-butter',
    name: 'Cocoa butter',
    cacao: 'butter',
    composition: parts({ cocoaButter: 100 }),
    pricePerKg: 1900,
    allergens: [],
  },
  {
    key: 'cocoa-powder',
    name: 'Cocoa powder',
    cacao: 'powder',
    composition: parts({ cocoaButter: 11, cocoaSolids: 84, water: 5 }),
    pricePerKg: 1100,
    allergens: [],
  },
  {
    key: 'whole-milk-powder',
    name: 'Whole milk powder',
    cacao: 'none',
    composition: parts({ milkFat: 26.7, milkSolids: 70.3, water: 3 }),
    pricePerKg: 950,
    allergens: ['milk'],
  },
  {
    key: 'skimmed-milk-powder',
    name: 'Skimmed milk powder',
    cacao: 'none',
    composition: parts({ milkFat: 0.8, milkSolids: 95.2, water: 4 }),
    pricePerKg: 720,
    allergens: ['milk'],
  },
  {
    key: 'oat-powder',
    name: 'Oat powder',
    cacao: 'none',
    composition: parts({ otherFat: 7, otherSolids: 87, water: 6 }),
    pricePerKg: 680,
    allergens: ['gluten'],
  },
  {
    key: 'coconut-milk-powder',
    name: 'Coconut milk powder',
    cacao: 'none',
    composition: parts({ otherFat: 60, otherSolids: 37, water: 3 }),
    pricePerKg: 1600,
    allergens: [],
  },
  {
    key: 'lecithin',
    name: 'Sunflower lecithin',
    cacao: 'none',
    composition: parts({ otherFat: 38, emulsifier: 61, water: 1 }),
    pricePerKg: 2200,
    allergens: [],
  },
  {
    key: 'vanilla',
    name: 'Ground vanilla',
    cacao: 'none',
    composition: parts({ otherSolids: 85, otherFat: 5, sugar: 5, water: 5 }),
    pricePerKg: 38000,
    allergens: [],
  },
  {
    key: 'salt',
    name: 'Sea salt',
    cacao: 'none',
    composition: parts({ otherSolids: 99, water: 1 }),
    pricePerKg: 300,
    allergens: [],
  },
  {
    key: 'hazelnuts',
    name: 'Roasted hazelnuts',
    cacao: 'none',
    composition: parts({ otherFat: 62, sugar: 5, otherSolids: 31, water: 2 }),
    pricePerKg: 1700,
    allergens: ['nuts'],
  },
];
