/** Kitchen measures by volume, mL, with the words people write for them in English and German. */
const MEASURES: readonly { ml: number; words: RegExp }[] = [
  { ml: 0.3, words: /^(pinch|pinches|prise|prisen)$/ },
  { ml: 2.5, words: /^(half teaspoon)$/ },
  { ml: 5, words: /^(tsp|teaspoon|teaspoons|tl|teelöffel)$/ },
  { ml: 15, words: /^(tbsp|tablespoon|tablespoons|spoon|spoons|el|esslöffel|löffel)$/ },
  { ml: 240, words: /^(cup|cups|tasse|tassen)$/ },
  { ml: 1, words: /^(ml|millilitre|millilitres|milliliter)$/ },
  { ml: 1000, words: /^(l|litre|litres|liter)$/ },
];

const FRACTIONS: Readonly<Record<string, number>> = {
  '½': 0.5,
  '¼': 0.25,
  '¾': 0.75,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
};

/** Relative standard uncertainty of a mass from a spoon or cup: heaped or level, packed or loose. */
export const KITCHEN_U = 0.2;

/** A mass read from a kitchen measure: rough, and marked so. */
export interface KitchenMass {
  massMg: number;
  /** Standard uncertainty, mg. */
  uMg: number;
  millilitres: number;
}

/**
 * Reads `2 tbsp`, `1/2 cup`, `½ TL`, `1 1/2 cups`, `a pinch` or a share by volume of what is in the bowl (`a third`, `ein Drittel`), and
 * turns it into mass by the ingredient's density, g/mL. `bowlMl` is the volume a share speaks of. Null where it is no kitchen measure.
 *
 * @throws RangeError for a density not above 0
 */
export function kitchenMass(text: string, densityGPerMl: number, bowlMl?: number): KitchenMass | null {
  if (!(densityGPerMl > 0) || !Number.isFinite(densityGPerMl))
    throw new RangeError('a density above 0 g/mL is needed');
  const clean = text.trim().toLowerCase().replace(',', '.').replace(/\s+/g, ' ');
  const ml = volumeOf(clean) ?? shareOf(clean, bowlMl);
  if (ml === null || !(ml > 0)) return null;
  const massMg = Math.round(ml * densityGPerMl * 1000);
  return { massMg, uMg: Math.max(1, Math.round(massMg * KITCHEN_U)), millilitres: ml };
}

function volumeOf(text: string): number | null {
  const match =
    /^(?:(a|an|one|eine?|einen)|(\d+(?:\.\d+)?)?\s*(?:(\d+)\s*\/\s*(\d+)|([½¼¾⅓⅔]))?)\s*([a-zäöü ]+)$/.exec(
      text,
    );
  if (!match) return null;
  const [, word, whole, top, bottom, sign, unit] = match;
  const measure = MEASURES.find((m) => m.words.test(unit!.trim()));
  if (!measure) return null;
  const amount = word
    ? 1
    : Number(whole ?? 0) + (top ? Number(top) / Number(bottom) : 0) + (sign ? FRACTIONS[sign]! : 0);
  return Number.isFinite(amount) && amount > 0 ? amount * measure.ml : null;
}

const SHARES: readonly [RegExp, number][] = [
  [/^(a |one |ein )?(half|hälfte)( by volume)?$/, 1 / 2],
  [/^(a |one |ein )?(third|drittel)( by volume)?$/, 1 / 3],
  [/^(a |one |ein )?(quarter|viertel)( by volume)?$/, 1 / 4],
];

function shareOf(text: string, bowlMl: number | undefined): number | null {
  const share = SHARES.find(([words]) => words.test(text));
  return share && bowlMl ? share[1] * bowlMl : null;
}
