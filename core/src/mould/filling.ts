import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';
import { nutritionOf, recipeFigures, type RecipeLine } from '../recipe/index.ts';
import { waterActivity } from './waterActivity.ts';

/** What is not in the pot any more and did not come out of it: steam, or what clings to the pot. */
export const POT_LOSSES = ['boiled off', 'hold-up'] as const;

/** One of {@link POT_LOSSES}. */
export type PotLoss = (typeof POT_LOSSES)[number];

/** Most things in one pot. */
export const MOST_IN_POT = 30;

/** What is not known of a filling and how it is bounded. */
export const FILLING_UNKNOWNS = {
  /** g that dissolve in a g of water near 20 °C; what is more lies there as crystals. Invert stays dissolved, as in honey. */
  dissolves: { sucrose: 2, lactose: 0.19 },
  /** g of water a g of dry matter that does not dissolve holds back from the sugar: from so little to so much. */
  heldBack: [0.05, 0.15],
  /** Lactose of dry milk without its fat. */
  lactose: 0.54,
  /** Water of the whole below which there is no syrup to reckon with, %: a filling of fat and nuts keeps as its fat does. */
  leastWater: 4,
} as const;

/** What the water in a filling comes to. */
export interface FillingWater {
  /** % by mass. */
  water: number;
  /** Between which the water activity lies: all of its sugar invert, and all of it cane sugar. Null where too little water is in it for that. */
  activity: { low: number; high: number } | null;
}

/**
 * How much water a filling holds and how free it is, from what is weighed into it and what has boiled off (mg). An estimate between two
 * bounds, since nobody says which sugars those are: syrups and honey pull it to the lower, cane sugar to the upper. Alcohol and acid are not
 * reckoned with. A meter or a laboratory decides.
 *
 * @throws RangeError for an empty filling, a negative mass, or more boiled off than there is water
 */
export function fillingWater(lines: readonly RecipeLine[], boiledOffMg = 0): FillingWater {
  const { totalMg, composition } = recipeFigures(lines);
  requireAbove0(totalMg, 'the mass of a filling');
  requireNotBelow0(boiledOffMg, 'what has boiled off');
  const per100 = (mg: number) => (mg * composition.water) / 100;
  const waterMg = per100(totalMg) - boiledOffMg;
  if (waterMg < 0)
    throw new RangeError(
      'more has boiled off than there was water in it; check what went in and what came out',
    );
  const water = (100 * waterMg) / (totalMg - boiledOffMg);
  if (water < FILLING_UNKNOWNS.leastWater) return { water, activity: null };
  // From here on g of 100 g as they went in, and the water that is left.
  const left = (100 * waterMg) / totalMg;
  const share = (of: 'polyols' | 'salt') =>
    lines.reduce((sum, l) => sum + (l.massMg / totalMg) * (nutritionOf(l.ingredient)[of] ?? 0), 0);
  const [polyol, salt] = [share('polyols'), share('salt')];
  const lactose = composition.milkSolids * FILLING_UNKNOWNS.lactose;
  const otherSolids = Math.max(0, composition.otherSolids - polyol - salt);
  const holding = composition.cocoaSolids + otherSolids + composition.milkSolids - lactose;
  const [little, much] = FILLING_UNKNOWNS.heldBack;
  const activity = (sugar: 'sucrose' | 'invert', heldBack: number) => {
    // However much is held back, a part of the water remains.
    const free = Math.max(left - heldBack * holding, left / 4);
    const dissolved =
      sugar === 'sucrose'
        ? Math.min(composition.sugar, FILLING_UNKNOWNS.dissolves.sucrose * free)
        : composition.sugar;
    return waterActivity(free, {
      [sugar]: dissolved,
      lactose: Math.min(lactose, FILLING_UNKNOWNS.dissolves.lactose * free),
      polyol,
      salt,
    });
  };
  return { water, activity: { low: activity('invert', much), high: activity('sucrose', little) } };
}
