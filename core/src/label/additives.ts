import { isEmulsifier, isOtherFood, type Ingredient, type Market } from '../recipe/index.ts';
import type { BarFacts } from './bar.ts';
import type { LabelLanguage } from './design.ts';
import { addedSugars } from './nutritionForms.ts';
import { LABEL_WORDS, type AdditiveClass } from './words.ts';

/** How the sweeteners of Regulation (EC) 1333/2008 are called in English, German and French: polyols, and those of which a pinch is enough. */
const POLYOLS = [
  String.raw`sorbit(?:ols?)?`,
  String.raw`mannit(?:ols?)?`,
  String.raw`isomalte?`,
  String.raw`maltit(?:ols?)?`,
  String.raw`la[ck]tit(?:ols?)?`,
  String.raw`xylit(?:ols?)?`,
  String.raw`birkenzucker`,
  String.raw`[eé]rythrit(?:ols?)?`,
  String.raw`e ?(?:420|421|953|965|966|967|968)(?![0-9])`,
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
  String.raw`stevia`,
  String.raw`st[eé]viol\w*`,
  String.raw`rebaudiosid\w*`,
];

const anyOf = (words: readonly string[]) =>
  new RegExp(String.raw`(?<![\p{L}\p{N}])(?:${words.join('|')})(?![\p{L}])`, 'giu');
const POLYOL = anyOf(POLYOLS);
const SWEETENER = anyOf([...POLYOLS, ...INTENSE]);
const SUGAR =
  /(?<!\p{L})(?:sugars?|syrups?|honey|(?!birken)\p{L}*zucker|\p{L}*sirup|honig|sucres?|sirops?|miel|(?:glu[ck]|fru[ck]t|dextr)ose)(?!\p{L})/iu;

/** Polyols from which an ingredient is a sweetener, g in 100 g. */
const MOSTLY = 50;

/** Added polyols above which a label warns of them, % (Regulation (EU) 1169/2011, Annex III, 2.4). */
const LAXATIVE = 10;

const named = (words: RegExp, text: string) => [...text.matchAll(words)].map(([m]) => m.toLowerCase());

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
  const kinds = new Set([
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
