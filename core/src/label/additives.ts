import { isEmulsifier, isOtherFood, type Ingredient, type Market } from '../recipe/index.ts';
import type { BarFacts } from './bar.ts';
import type { LabelLanguage } from './design.ts';
import { addedSugars } from './nutritionForms.ts';
import { LABEL_WORDS, type AdditiveClass } from './words.ts';

/** A polyol by its name in English, German and French, also as its syrup, or by its number. */
const polyol = (name: string, number: number) => String.raw`${name}(?:[ -]?s[iy]rup)?|e ?${number}(?![0-9])`;

/** The sweeteners of Regulation (EC) 1333/2008, each as sheets call it: polyols, and those of which a pinch is enough. */
const POLYOLS = [
  polyol('sorbit(?:ols?)?', 420),
  polyol('mannit(?:ols?)?', 421),
  polyol('isomalte?', 953),
  polyol('maltit(?:ols?)?', 965),
  polyol('la[ck]tit(?:ols?)?', 966),
  polyol('(?:xylit(?:ols?)?|birkenzucker)', 967),
  polyol('[eé]rythrit(?:ols?)?', 968),
];
const INTENSE = [
  String.raw`a[ck]esulfame?(?:[ -]k)?`,
  String.raw`aspartame?`,
  String.raw`[ck]y[ck]lamate?s?`,
  String.raw`sac?charine?`,
  String.raw`su[ck]ralose`,
  String.raw`thaumatine?`,
  String.raw`n[eé]ohesp[eé]ridine?`,
  String.raw`n[eé]otame?`,
  String.raw`advantame?`,
  String.raw`stevia|st[eé]viol\w*|rebaudiosid\w*`,
];

const word = (names: string) => new RegExp(String.raw`(?<![\p{L}\p{N}])(?:${names})(?!\p{L})`, 'iu');
const POLYOL = POLYOLS.map(word);
const SWEETENER = [...POLYOL, ...INTENSE.map(word)];

/** Sugars as sheets call them. A syrup of a polyol is none. */
const OF_POLYOLS = 'maltit|sorbit|isomalt';
const SUGAR = new RegExp(
  String.raw`(?<!\p{L})(?:sugars?|(?<!(?:${OF_POLYOLS})\p{L}*[ -])s[iy]rups?|(?!${OF_POLYOLS})\p{L}*sirup|honey|honig|miel|(?!birken)\p{L}*zucker|sucres?|sirops?(?! (?:de |d[’'])(?:${OF_POLYOLS}))|(?:glu[ck]|fru[ck]t|dextr)ose)(?!\p{L})`,
  'iu',
);

/** Polyols from which an ingredient is a sweetener, g in 100 g. */
const MOSTLY = 50;

/** Added polyols above which a label warns of them, % (Regulation (EU) 1169/2011, Annex III, 2.4). */
const LAXATIVE = 10;

/** Which of the sweeteners a text names, by their places in the list. */
const named = (sweeteners: readonly RegExp[], text: string) =>
  sweeteners.flatMap((s, i) => (s.test(text) ? [i] : []));

/** What an ingredient does as an additive; null for a food. Sugars and honey are foods. */
export function additiveClass(
  ingredient: Pick<Ingredient, 'name' | 'cacao' | 'composition' | 'nutrition'>,
): AdditiveClass | null {
  if ((ingredient.nutrition?.polyols ?? 0) >= MOSTLY) return 'sweetener';
  const isFood = ingredient.cacao !== 'none' || ingredient.composition.sugar >= MOSTLY;
  if (!isFood && named(SWEETENER, ingredient.name).length > 0) return 'sweetener';
  return isEmulsifier(ingredient) ? 'emulsifier' : null;
}

/** What stands before an additive's name in a market; empty where the name says it already, or nothing is asked. */
export function classBefore(
  ingredient: Parameters<typeof additiveClass>[0],
  name: string,
  market: Market,
  language: LabelLanguage,
): string {
  const is = additiveClass(ingredient);
  if (is === null || market !== 'EU') return '';
  const { word, before } = LABEL_WORDS[language].additive[is];
  return name.toLocaleLowerCase(language).includes(word.toLocaleLowerCase(language)) ? '' : before;
}

/** What a label must say of sweeteners. */
export interface Sweetened {
  /** How many there are. */
  sweeteners: number;
  /** Whether sugars were added as well. */
  sugars: boolean;
  /** Whether too much of it may be laxative. */
  laxative: boolean;
}

/**
 * The sweeteners of a bar: by the polyols its ingredients state, by their names, and by what the sheets of bought things name. Where such a sheet
 * names a polyol and nobody knows how much, it is taken for more than a tenth.
 */
export function sweetenedWith({ lines, bought }: Pick<BarFacts, 'lines' | 'bought'>): Sweetened {
  const inIt = lines.filter((l) => l.massMg > 0);
  const total = inIt.reduce((sum, l) => sum + l.massMg, 0);
  const own = inIt.filter((l) => additiveClass(l.ingredient) === 'sweetener');
  const texts = inIt.map((l) => bought[l.ingredient.name] ?? '');
  const kinds = new Set<number | string>([
    ...own.map((l) => named(SWEETENER, l.ingredient.name)[0] ?? l.ingredient.name),
    ...texts.flatMap((text) => named(SWEETENER, text)),
  ]);
  const polyols = inIt.reduce((sum, l) => sum + (l.ingredient.nutrition?.polyols ?? 0) * l.massMg, 0);
  return {
    sweeteners: kinds.size,
    sugars:
      addedSugars(
        // What a sheet lists is known better than how much of it there is.
        inIt.filter((l) => !own.includes(l) && !bought[l.ingredient.name]),
        (l) => isOtherFood(l.ingredient),
      ) > 0 || texts.some((text) => SUGAR.test(text)),
    laxative: polyols / (total || 1) > LAXATIVE || texts.some((text) => named(POLYOL, text).length > 0),
  };
}

/** What a market asks to be said of the sweeteners of a bar; null where there is none, or other law than Europe's decides. */
export function sweetenedFor(bar: Pick<BarFacts, 'lines' | 'bought'>, market: Market): Sweetened | null {
  const sweetened = sweetenedWith(bar);
  return market === 'EU' && sweetened.sweeteners > 0 ? sweetened : null;
}

/** What stands beside the name of what is sweetened (Regulation (EU) 1169/2011, Annex III, 2.1 and 2.2). */
export function sweetenedWords({ sweeteners, sugars }: Sweetened, language: LabelLanguage): string {
  const { one, many, sugarAndOne, sugarAndMany } = LABEL_WORDS[language].sweetened;
  if (sugars) return sweeteners > 1 ? sugarAndMany : sugarAndOne;
  return sweeteners > 1 ? many : one;
}
