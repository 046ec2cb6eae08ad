import { requireNotBelow0 } from '../numerics/index.ts';
import type { Composition, Ingredient, Nutrition } from './composition.ts';
import type { RecipeLine } from './figures.ts';

const NAMES = [
  'fat',
  'saturates',
  'carbohydrate',
  'sugars',
  'fibre',
  'protein',
  'salt',
  'polyols',
  'erythritol',
] as const;

/** What 100 g of each part of a composition hold; typical values of public food-composition tables, rounded. */
const OF_PART: Readonly<Record<keyof Composition, Partial<Nutrition>>> = {
  cocoaButter: { fat: 100, saturates: 61 },
  otherFat: { fat: 100, saturates: 20 },
  milkFat: { fat: 100, saturates: 65 },
  // Fat-free dry cocoa: the rest is ash, acids and polyphenols.
  cocoaSolids: { carbohydrate: 24, sugars: 2, fibre: 35, protein: 24, salt: 0.05 },
  sugar: { carbohydrate: 100, sugars: 100 },
  milkSolids: { carbohydrate: 54, sugars: 54, protein: 37, salt: 1.3 },
  otherSolids: { carbohydrate: 60, sugars: 2, fibre: 15, protein: 12 },
  water: {},
  emulsifier: { fat: 100, saturates: 20 },
};

/** Nutrition of 100 g of an ingredient: as entered, or from its composition. */
export function nutritionOf({ nutrition, composition }: Ingredient): Nutrition {
  if (nutrition) return nutrition;
  return mapNames((name) =>
    (Object.keys(OF_PART) as (keyof Composition)[]).reduce(
      (sum, part) => sum + (composition[part] / 100) * (OF_PART[part][name] ?? 0),
      0,
    ),
  );
}

/**
 * Energy of a nutrition statement by the factors of Regulation (EU) 1169/2011, Annex XIV: fat 37 kJ/9 kcal, carbohydrate (but polyols)
 * and protein 17/4, polyols 10/2.4, erythritol 0, fibre 8/2.
 */
export function energy({ fat, carbohydrate, protein, fibre, polyols = 0, erythritol = 0 }: Nutrition): {
  kJ: number;
  kcal: number;
} {
  const sugars = Math.max(0, carbohydrate - polyols);
  const counted = Math.max(0, polyols - erythritol);
  return {
    kJ: 37 * fat + 17 * (sugars + protein) + 10 * counted + 8 * fibre,
    kcal: 9 * fat + 4 * (sugars + protein) + 2.4 * counted + 2 * fibre,
  };
}

/** Parts that cannot be more than what they are part of, g of 100 g. */
const PART_OF = [
  ['saturates', 'fat'],
  ['sugars', 'carbohydrate'],
  ['polyols', 'carbohydrate'],
  ['erythritol', 'polyols'],
] as const;

/** What cannot be in a nutrition statement: a part that is more than its whole, or more than 100 g in all; null where all of it can. */
export type NutritionFault =
  | { part: (typeof PART_OF)[number][0]; of: (typeof PART_OF)[number][1] }
  | 'over-100'
  | null;

/** See {@link NutritionFault}. What rounding of printed statements may add, half a gram in all and a tenth in a part, is let pass. */
export function nutritionFault(n: Nutrition): NutritionFault {
  for (const name of NAMES) requireNotBelow0(n[name] ?? 0, `the ${name} of 100 g`);
  for (const [part, of] of PART_OF) if ((n[part] ?? 0) > (n[of] ?? 0) + 0.1) return { part, of };
  // Polyols are no sugars: both have to find room in the carbohydrate.
  if (n.sugars + (n.polyols ?? 0) > n.carbohydrate + 0.2) return { part: 'polyols', of: 'carbohydrate' };
  return n.fat + n.carbohydrate + n.fibre + n.protein + n.salt > 100.5 ? 'over-100' : null;
}

/** Nutrition of 100 g of a bowl. Zeros for an empty one. */
export function bowlNutrition(lines: readonly RecipeLine[]): Nutrition {
  const total = lines.reduce((s, l) => s + l.massMg, 0);
  return mapNames((name) =>
    total > 0
      ? lines.reduce((sum, l) => sum + (l.massMg / total) * (nutritionOf(l.ingredient)[name] ?? 0), 0)
      : 0,
  );
}

/** A statement for some other mass than 100 g. */
export function nutritionFor(per100: Nutrition, grams: number): Nutrition {
  requireNotBelow0(grams, 'the mass of a portion');
  return mapNames((name) => ((per100[name] ?? 0) * grams) / 100);
}

/**
 * A figure as the Commission's guidance on tolerances (2012) rounds it: from 10 g whole grams, below that tenths, up to 0.5 g (saturates 0.1 g)
 * as 0; salt to tenths from 1 g, hundredths below, up to 0.0125 g as 0.
 */
export function roundForLabel(name: keyof Nutrition, grams: number): number {
  requireNotBelow0(grams, `the ${name} of a label`);
  if (name === 'salt') return grams >= 1 ? round(grams, 1) : grams <= 0.0125 ? 0 : round(grams, 2);
  if (grams >= 10) return round(grams, 0);
  return grams <= (name === 'saturates' ? 0.1 : 0.5) ? 0 : round(grams, 1);
}

/** Decimals with which a figure of {@link roundForLabel} is written. */
export function labelDecimals(name: keyof Nutrition, rounded: number): number {
  requireNotBelow0(rounded, `the ${name} of a label`);
  if (name === 'salt' && rounded > 0) return rounded >= 1 ? 1 : 2;
  return rounded % 1 ? 1 : 0;
}

const round = (value: number, digits: number) => Math.round(value * 10 ** digits) / 10 ** digits;

function mapNames(value: (name: keyof Nutrition) => number): Nutrition {
  return Object.fromEntries(NAMES.map((n) => [n, value(n)])) as unknown as Nutrition;
}
