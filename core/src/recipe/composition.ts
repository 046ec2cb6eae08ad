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
  /** Its flavour clings to stones and bowls. */
  strong?: boolean;
  /** What labels call it, by language; where a language has none, the usual word or the name itself. */
  labelNames?: Partial<Readonly<Record<string, string>>>;
  /** Per 100 g; worked out from the composition where left out. */
  nutrition?: Nutrition | null;
  /** g/mL as it is scooped, for spoons and cups. */
  densityGPerMl?: number | null;
  /** Size of the crystals as bought, µm. */
  crystalUm?: number | null;
  /** Whether a price of 0 is what it cost, and not one that nobody knows. */
  isFree?: boolean | undefined;
}

/** What 100 g hold, in g, as labels state it. */
export interface Nutrition {
  fat: number;
  saturates: number;
  carbohydrate: number;
  sugars: number;
  fibre: number;
  protein: number;
  salt: number;
  /** Polyols among the carbohydrate, and the erythritol among them. */
  polyols?: number;
  erythritol?: number;
}

/** A composition from the parts it has, the others 0. */
export const parts = (p: Partial<Composition>): Composition => ({
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

/** Most cocoa butter a cocoa powder can hold, % by mass: more of it is a paste. */
export const MOST_POWDER_FAT = 40;

/**
 * Composition of cocoa powder with `fat` % cocoa butter, the water of `usual` kept: less butter is more of all else.
 *
 * @throws RangeError outside 0–40 %
 */
export function powderComposition(fat: number, usual: Composition): Composition {
  if (!(fat >= 0 && fat <= MOST_POWDER_FAT))
    throw new RangeError(`cocoa powder of ${fat} % fat is outside 0–${MOST_POWDER_FAT} %`);
  return parts({ cocoaButter: fat, cocoaSolids: 100 - fat - usual.water, water: usual.water });
}
