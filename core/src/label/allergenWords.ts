import { ALLERGENS } from './allergens.ts';

/**
 * How allergens are called in ingredients as makers of bought chocolate print them: in English, German and French, whole words or the words they
 * are part of. What only sounds like one is left out (milk of coconuts, butter of cocoa). The allergens are those of Regulation (EU) 1169/2011, Annex II.
 */
const WORDS: Readonly<Record<string, readonly string[]>> = {
  milk: [
    String.raw`(?<!(?:coconut|oat|soya?|almond|rice|hazelnut)[ -])milk\w*`,
    String.raw`\w*(?<!kokos|kokosnuss|hafer|soja|mandel|reis|haselnuss)milch\w*`,
    String.raw`lait(?! (?:de|d[’'])\s?(?:coco|avoine|soja|amande|riz))`,
    String.raw`(?<!(?:cocoa|cacao|shea|almond|nut|peanut|hazelnut)[ -])butter(?: ?(?:fat|oil))?`,
    String.raw`butterfat`,
    String.raw`butterreinfett`,
    String.raw`butterfett`,
    String.raw`whey`,
    String.raw`\w*molke\w*`,
    String.raw`lactos(?:e|érum)`,
    String.raw`laktose`,
    String.raw`(?<!coconut[ -])cream`,
    String.raw`\w*sahne\w*`,
    String.raw`\w*rahm\w*`,
    String.raw`crème`,
    String.raw`beurre(?! de cacao)`,
  ],
  nuts: [
    String.raw`(?:hazel|wal|pecan |brazil |macadamia )?nuts?`,
    String.raw`almonds?`,
    String.raw`pistachios?`,
    String.raw`cashews?`,
    String.raw`pecans?`,
    String.raw`macadamias?`,
    String.raw`(?:hasel|wal|pekan|para|macadamia)n(?:uss|üsse)\w*`,
    String.raw`n(?:uss|üsse)\w*`,
    String.raw`mandeln?\w*`,
    String.raw`pistazien?\w*`,
    String.raw`cashewkerne?\w*`,
    String.raw`noisettes?`,
    String.raw`amandes?`,
    String.raw`noix(?! de coco)`,
    String.raw`pistaches?`,
    String.raw`cajou`,
  ],
  sesame: [String.raw`sesame`, String.raw`sesam\w*`, String.raw`sésame`],
  gluten: [
    String.raw`gluten\w*`,
    String.raw`wheat`,
    String.raw`barley`,
    String.raw`rye`,
    String.raw`oats?`,
    String.raw`spelt`,
    String.raw`\w*weizen\w*`,
    String.raw`gersten?\w*`,
    String.raw`roggen\w*`,
    String.raw`hafer\w*`,
    String.raw`dinkel\w*`,
    String.raw`blé`,
    String.raw`orge`,
    String.raw`seigle`,
    String.raw`avoine`,
    String.raw`épeautre`,
  ],
  soy: [String.raw`soya?(?:beans?)?`, String.raw`soja\w*`],
  peanuts: [
    String.raw`peanuts?`,
    String.raw`groundnuts?`,
    String.raw`erdn(?:uss|üsse)\w*`,
    String.raw`arachides?`,
    String.raw`cacahuètes?`,
  ],
  eggs: [
    String.raw`eggs?`,
    String.raw`ei(?:er|gelb|weiß)?\w*pulver`,
    String.raw`ei(?:er|gelb|weiß)?`,
    String.raw`(?:œ|oe)ufs?`,
  ],
  sulphites: [
    String.raw`sul(?:ph|f)ites?`,
    String.raw`sul(?:ph|f)ur dioxide`,
    String.raw`\w*sulfite?`,
    String.raw`schwefeldioxid`,
    String.raw`anhydride sulfureux`,
    String.raw`e ?22[0-8]`,
  ],
  lupin: [String.raw`lupin(?:e[ns]?|s)?\w*`],
  mustard: [String.raw`mustard`, String.raw`senf\w*`, String.raw`moutarde`],
  celery: [String.raw`celery`, String.raw`sellerie\w*`, String.raw`céleri`],
  fish: [String.raw`fish`, String.raw`\w*fisch\w*`, String.raw`poissons?`],
  crustaceans: [
    String.raw`crustaceans?`,
    String.raw`shrimps?`,
    String.raw`prawns?`,
    String.raw`crabs?`,
    String.raw`krebstiere?`,
    String.raw`garnelen?`,
    String.raw`crustacés?`,
    String.raw`crevettes?`,
  ],
  molluscs: [
    String.raw`molluscs?`,
    String.raw`squid`,
    String.raw`mussels?`,
    String.raw`weichtiere?`,
    String.raw`muscheln?`,
    String.raw`mollusques?`,
    String.raw`moules?`,
  ],
};

/** Letters count as letters in every language: `\w` and `\b` would end a word at an umlaut. */
const pattern = (words: readonly string[]) =>
  new RegExp(
    words
      .map(
        (w) => String.raw`(?<![\p{L}\d])(?:${w.replaceAll(String.raw`\w`, String.raw`\p{L}`)})(?![\p{L}\d])`,
      )
      .join('|'),
    'giu',
  );

/** What a text says of traces and of what else is made beside it: all the things it lists, up to the end of the sentence. */
const TRACES =
  /(?:may (?:also )?contain|traces? (?:of|d)|(?:made|produced|packed) (?:in|on) (?:a |the same )?(?:kitchen|factory|facility|line|equipment|machine|site|plant)s?|spuren|peut contenir)[^.;]*|k(?:ann|önnen) [^.;]*enthalten/giu;

/** What it says is not in it: up to the next comma, so that what is listed after it counts. */
const NOT_IN_IT = /(?<!\p{L})(?:free (?:from|of)|without|frei von|ohne|sans) [^,.;]*/giu;

/** One word that says of something that it is not in it: nut-free, laktosefrei. */
const FREE_WORD = /[\p{L}]+[- ]?(?:free|frei(?:e[mnrs]?)?)(?![\p{L}])/giu;

/**
 * The allergens that a text of ingredients names as being in it, of `ALLERGENS` and in their order; what it says of traces, and of what is not
 * in it, is left out.
 */
export function allergensNamed(text: string): string[] {
  const made = [TRACES, NOT_IN_IT, FREE_WORD].reduce((rest, said) => rest.replace(said, ' '), text);
  return ALLERGENS.filter((a) => made.search(PATTERNS.get(a)!) >= 0);
}

/** What the sheet of bought chocolate says of allergens. */
export interface AllergenSheet {
  kind: string | null;
  /** Those that were ticked. */
  allergens: readonly string[];
  ingredients: string;
}

/**
 * Allergens in bought chocolate by its sheet: those ticked, those its ingredients name, and milk in milk and white chocolate. None is lost because
 * nobody has ticked it; one too many is put right in the ingredients.
 */
export function sheetAllergens({ kind, allergens, ingredients }: AllergenSheet): string[] {
  const milk = kind === 'milk' || kind === 'white' ? ['milk'] : [];
  return [...new Set([...allergens, ...milk, ...allergensNamed(ingredients)])].sort();
}

/** What an allergen is called, made once. */
const PATTERNS = new Map(Object.entries(WORDS).map(([allergen, words]) => [allergen, pattern(words)]));

/** A stretch of a text of ingredients, and whether it is the name of an allergen. */
export interface Stretch {
  text: string;
  isAllergen: boolean;
}

/**
 * Finds the words in a text of ingredients that name some allergens, so that they can stand out from the rest.
 *
 * @param allergens those that are in it, of `ALLERGENS`
 * @returns the text in stretches, and the allergens no word in it names
 */
export function findAllergens(
  text: string,
  allergens: readonly string[],
): { stretches: Stretch[]; unnamed: string[] } {
  const found: { from: number; to: number }[] = [];
  const unnamed: string[] = [];
  for (const allergen of allergens) {
    const words = PATTERNS.get(allergen);
    const matches = words ? [...text.matchAll(words)] : [];
    if (matches.length === 0) unnamed.push(allergen);
    for (const m of matches) found.push({ from: m.index, to: m.index + m[0].length });
  }
  const stretches: Stretch[] = [];
  let at = 0;
  const add = (to: number, isAllergen: boolean) => {
    if (to > at) stretches.push({ text: text.slice(at, to), isAllergen });
    at = Math.max(at, to);
  };
  for (const { from, to } of found.sort((a, b) => a.from - b.from || b.to - a.to)) {
    add(from, false);
    add(to, true);
  }
  add(text.length, false);
  return { stretches, unnamed };
}
