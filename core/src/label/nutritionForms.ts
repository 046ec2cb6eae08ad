import { requireFinite } from '../numerics/index.ts';
import { writeNumber } from '../quantity/index.ts';
import {
  energy,
  labelDecimals,
  nutritionFor,
  roundForLabel,
  type Nutrition,
  type RecipeLine,
} from '../recipe/index.ts';
import type { LabelLanguage } from './design.ts';
import { LABEL_WORDS } from './words.ts';

/** One row of a nutrition statement: its name, the amount, and for the US form the share of the daily value. */
export interface NutritionRow {
  name: string;
  amount: string;
  /** % of the daily value, with its sign; empty where none is stated. */
  daily: string;
  /** Part of the row above it. */
  inner: boolean;
}

/** A nutrition statement as a market wants it. */
export interface NutritionForm {
  title: string;
  /** What stands under the title: servings and their size; empty for the European form. */
  under: string;
  rows: NutritionRow[];
}

const NUMBERS: Readonly<Record<LabelLanguage, 'en' | 'de'>> = { en: 'en', de: 'de', fr: 'de' };

/** Writes a number as labels of a language do. */
export function labelNumber(value: number, decimals: number, language: LabelLanguage): string {
  requireFinite(value, 'a figure on a label');
  return writeNumber(value, decimals, NUMBERS[language], language !== 'fr');
}

/** The European statement, per 100 g, in the order of Regulation (EU) 1169/2011, Annex XV. */
export function euNutrition(per100g: Nutrition, language: LabelLanguage): NutritionForm {
  const words = LABEL_WORDS[language];
  const e = energy(per100g);
  const hasPolyols = roundForLabel('polyols', per100g.polyols ?? 0) > 0;
  const names = [
    'fat',
    'saturates',
    'carbohydrate',
    'sugars',
    ...(hasPolyols ? (['polyols'] as const) : []),
    'fibre',
    'protein',
    'salt',
  ] as const;
  return {
    title: words.nutrition,
    under: '',
    rows: [
      {
        name: words.energy,
        amount: `${labelNumber(e.kJ, 0, language)}\u00a0kJ / ${labelNumber(e.kcal, 0, language)}\u00a0kcal`,
        daily: '',
        inner: false,
      },
      ...names.map((name) => {
        const value = roundForLabel(name, per100g[name] ?? 0);
        return {
          name: words.nutrients[name],
          amount: `${labelNumber(value, labelDecimals(name, value), language)}\u00a0g`,
          daily: '',
          inner: name === 'saturates' || name === 'sugars' || name === 'polyols',
        };
      }),
    ],
  };
}

/** Daily values, g but for sodium in mg (21 CFR 101.9(c)(8)(iv) and (9), as of 2024-04-01). */
const DAILY = { fat: 78, saturates: 20, carbohydrate: 275, fibre: 28, added: 50, sodiumMg: 2300 } as const;

/** Usual serving of chocolate, g (reference amount of 21 CFR 101.12(b), candies). */
const SERVING_G = 30;

/** Parts of the US form that no composition tells: they need an analysis. */
export const US_UNKNOWN = ['trans fat', 'cholesterol', 'vitamin D', 'calcium', 'iron', 'potassium'] as const;

/** Calories: to 5 up to 50, to 10 above; below 5 none. */
function usCalories(kcal: number): number {
  return kcal < 5 ? 0 : kcal <= 50 ? Math.round(kcal / 5) * 5 : Math.round(kcal / 10) * 10;
}

/** Fats: halves of a gram below 5 g, whole above; below half a gram none. */
function usFat(grams: number): number {
  return grams < 0.5 ? 0 : grams < 5 ? Math.round(grams * 2) / 2 : Math.round(grams);
}

/** Other nutrients in words: whole grams, "less than 1 g", or none below half a gram. */
function usGrams(grams: number): string {
  return grams < 0.5 ? '0\u00a0g' : grams < 1 ? 'less than 1\u00a0g' : `${Math.round(grams)}\u00a0g`;
}

/** Sodium, mg: fives up to 140, tens above; below 5 none. */
function usSodium(mg: number): number {
  return mg < 5 ? 0 : mg <= 140 ? Math.round(mg / 5) * 5 : Math.round(mg / 10) * 10;
}

/** Sugars that were added: of sugars and sweets, not of milk, nuts and fruit; g in 100 g. */
export function addedSugars(lines: readonly RecipeLine[], isFood: (line: RecipeLine) => boolean): number {
  const total = lines.reduce((sum, l) => sum + l.massMg, 0);
  if (total <= 0) return 0;
  return lines.reduce((sum, line) => {
    const { ingredient, massMg } = line;
    if (ingredient.cacao !== 'none' || isFood(line)) return sum;
    const polyols = ingredient.nutrition?.polyols ?? 0;
    return sum + (massMg / total) * Math.max(0, ingredient.composition.sugar - polyols);
  }, 0);
}

/**
 * The US statement (21 CFR 101.9) as far as the composition tells it. A bar below two servings is one serving; a larger one is stated
 * by its usual serving.
 *
 * @param addedPer100g added sugars, g in 100 g
 * @param netMg net mass of the bar
 */
export function usNutrition(per100g: Nutrition, addedPer100g: number, netMg: number): NutritionForm {
  const netG = netMg / 1000;
  const single = netG < 2 * SERVING_G;
  const servingG = single ? netG : SERVING_G;
  const n = nutritionFor(per100g, servingG);
  const added = (addedPer100g * servingG) / 100;
  const carbohydrate = n.carbohydrate + n.fibre;
  const sodiumMg = (n.salt * 1000) / 2.5;
  const share = (amount: number, daily: number) => `${Math.round((100 * amount) / daily)}\u00a0%`;
  const servings = single ? 1 : Math.max(1, Math.round(netG / SERVING_G));
  const row = (name: string, amount: string, daily = '', inner = false): NutritionRow => ({
    name,
    amount,
    daily,
    inner,
  });
  return {
    title: 'Nutrition Facts',
    under: `${servings} ${servings === 1 ? 'serving' : 'servings'}, serving size ${Math.round(servingG)} g`,
    rows: [
      row('Calories', String(usCalories(energy(n).kcal))),
      row('Total Fat', `${usFat(n.fat)}\u00a0g`, share(n.fat, DAILY.fat)),
      row('Saturated Fat', `${usFat(n.saturates)}\u00a0g`, share(n.saturates, DAILY.saturates), true),
      row('Sodium', `${usSodium(sodiumMg)}\u00a0mg`, share(sodiumMg, DAILY.sodiumMg)),
      row('Total Carbohydrate', usGrams(carbohydrate), share(carbohydrate, DAILY.carbohydrate)),
      row('Dietary Fiber', usGrams(n.fibre), share(n.fibre, DAILY.fibre), true),
      row('Total Sugars', usGrams(n.sugars), '', true),
      row('Includes Added Sugars', usGrams(added), share(added, DAILY.added), true),
      row('Protein', usGrams(n.protein)),
    ],
  };
}
