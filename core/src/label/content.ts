import { lotWords } from '../beans/index.ts';
import { requireAbove0 } from '../numerics/index.ts';
import { DIMENSIONS, MG_PER_OUNCE } from '../quantity/index.ts';
import {
  isOtherFood,
  labelFacts,
  soldName,
  type LabelIngredient,
  type Market,
  type RecipeLine,
} from '../recipe/index.ts';
import { classBefore, sweetenedFor, sweetenedWords } from './additives.ts';
import { findAllergens } from './allergenWords.ts';
import type { BarFacts, MakerFacts } from './bar.ts';
import type { LabelDesign, LabelLanguage, LabelPart } from './design.ts';
import { addedSugars, euNutrition, labelNumber, usNutrition, type NutritionForm } from './nutritionForms.ts';
import { ingredientName, labelDay, LABEL_WORDS } from './words.ts';

/** A stretch of text in one face. */
export interface Run {
  text: string;
  bold: boolean;
}

/** What one part of a label says: paragraphs of runs, and for the nutrition statement its forms. */
export interface PartContent {
  part: LabelPart;
  paragraphs: Run[][];
  forms: NutritionForm[];
}

/** Everything a label says, by part, before anything has a place. Parts with nothing to say are left out. */
export interface LabelContent {
  parts: PartContent[];
  /** The name it is sold under, in the first language; null where it meets none and has no name of its own. */
  soldAs: string | null;
  /** Names of ingredients the chosen languages have no word for. */
  untranslated: { name: string; language: LabelLanguage }[];
  /** Bought things whose own ingredients stand as their sheets print them, in one language for all the label has. */
  inOneLanguage: string[];
  /** What the symbol carries. */
  symbolText: string;
}

/** Chocolate pieces up to this mass are eaten in one mouthful, mg. */
const MOUTHFUL_MG = 20_000;

/** A food is named with its share from this, % by mass. */
const WORTH_A_SHARE = 2;

/** A food is part of the name from this, % by mass: a pinch of vanilla is not. */
const WORTH_A_NAME = 0.4;

/** In which cool a bar is kept, in the degrees of the market; what is filled in cooler. */
const KEPT_AT = {
  storage: { EU: '16–18\u00a0°C', US: '61–64\u00a0°F' },
  storageFilled: { EU: '14–16\u00a0°C', US: '57–61\u00a0°F' },
} as const;

/** The finest a mass is stored, mg. */
const GRAIN_MG = DIMENSIONS.mass.grain;

/** Ounces in a pound. */
const POUND = 16;

/** Rounded down to so many decimals, all of them written. */
const roundedDown = (value: number, decimals: number) =>
  (Math.floor(value * 10 ** decimals + 1e-9) / 10 ** decimals).toFixed(decimals);

/**
 * Net mass as a market writes it; the US in ounces, from one pound to four in ounces and pounds, then in pounds (21 CFR 101.7(j)). Neither
 * grams nor ounces are ever rounded up.
 *
 * @param netMg above 0
 */
export function netMassText(netMg: number, market: Market, language: LabelLanguage): string {
  requireAbove0(netMg, 'the net mass');
  // Tenths of a gram, rounded down: nobody gets less than it says.
  const grams = Math.floor(netMg / 100 + 1e-9) / 10;
  const metric = `${labelNumber(grams, grams % 1 ? 1 : 0, language)}\u00a0g`;
  if (market !== 'US') return metric;
  // Two ounces are stored as 56 699 mg, a hair below two: what a grain of the store took off is no rounding up.
  const ounces = (netMg + GRAIN_MG / 2) / MG_PER_OUNCE;
  if (ounces < POUND) return `Net Wt ${roundedDown(ounces, ounces < 1 ? 2 : 1)}\u00a0oz (${metric})`;
  const tenths = Math.floor(ounces * 10 + 1e-9);
  const [pounds, left] = [Math.floor(tenths / (10 * POUND)), (tenths % (10 * POUND)) / 10];
  const inPounds = `${pounds}\u00a0lb${left > 0 ? ` ${left}\u00a0oz` : ''}`;
  return pounds < 4
    ? `Net Wt ${roundedDown(ounces, 1)}\u00a0oz (${inPounds}) ${metric}`
    : `Net Wt ${inPounds} (${metric})`;
}

const plain = (text: string): Run => ({ text, bold: false });
const bold = (text: string): Run => ({ text, bold: true });

function fill(text: string, params: Record<string, string>): string {
  return text.replace(/\{(\w+)\}/g, (_, name: string) => params[name] ?? '');
}

function list(names: readonly string[], and: string): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} ${and} ${names.at(-1)}`;
}

/** Other foods in a bar from a share on, %, greatest first. */
function foodsOf(lines: readonly RecipeLine[], from = 0): string[] {
  const total = lines.reduce((sum, l) => sum + l.massMg, 0);
  const masses = new Map<string, number>();
  for (const l of lines)
    if (l.massMg > 0 && isOtherFood(l.ingredient))
      masses.set(l.ingredient.name, (masses.get(l.ingredient.name) ?? 0) + l.massMg);
  return [...masses]
    .filter(([, massMg]) => (100 * massMg) / total >= from)
    .sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
    .map(([name]) => name);
}

/** What ingredients are called on a label in a language, by their names: as the maker names them, or as {@link ingredientName} does. */
export function nameIn({ lines }: Pick<BarFacts, 'lines'>, language: LabelLanguage) {
  const own = new Map(lines.map((l) => [l.ingredient.name, l.ingredient.labelNames]));
  return (name: string) => ingredientName(name, language, own.get(name));
}

/** Names of bought chocolate by what its sheet says it is. */
const BOUGHT = {
  dark: 'chocolate',
  milk: 'milk chocolate',
  white: 'white chocolate',
  // What these are called the law leaves open: the maker names them.
  plant: null,
  fruit: null,
} as const;

/** The name a bar is sold under in a language; null where it meets no rule and the maker has given none. */
export function soldAs(bar: BarFacts, market: Market, language: LabelLanguage): string | null {
  if (bar.ownName) return bar.ownName;
  const words = LABEL_WORDS[language];
  if (bar.shellPercent !== null && bar.netMg <= MOUTHFUL_MG) return words.pieces;
  const key = bar.boughtKind
    ? BOUGHT[bar.boughtKind]
    : bar.lines.length > 0
      ? soldName(bar.lines, market).name
      : null;
  const name = key === null ? undefined : words.sold[key];
  if (!name) return null;
  if (bar.shellPercent !== null) {
    const lower = language === 'fr' ? name : name.toLowerCase();
    return fill(words.filled, { name: lower });
  }
  const foods = foodsOf(bar.lines, WORTH_A_NAME).slice(0, 3);
  if (foods.length === 0) return name;
  const called = nameIn(bar, language);
  const inCase = foods.map((f) => (words.withFood ? words.withFood[f] : called(f).text));
  if (inCase.every((f) => f !== undefined)) return fill(words.with, { name, foods: list(inCase, words.and) });
  return `${name} (${list(
    foods.map((f) => called(f).text),
    words.and,
  )})`;
}

function ingredientRuns(
  ingredients: readonly LabelIngredient[],
  foods: ReadonlySet<string>,
  bar: BarFacts,
  market: Market,
  language: LabelLanguage,
): Run[] {
  const byName = new Map(bar.lines.map((l) => [l.ingredient.name, l.ingredient]));
  const runs = [plain(`${LABEL_WORDS[language].ingredients} `)];
  const called = nameIn(bar, language);
  // Chocolate that was bought ready is what its sheet says, and under no name of ours.
  const isReady = ingredients.length === 1 && Boolean(bar.bought[ingredients[0]!.name]);
  ingredients.forEach(({ name, percent, allergens }, i) => {
    const { text } = called(name);
    const own = bar.bought[name];
    if (own) {
      // Only the allergens stand out: where all of it did, nothing would.
      const named = findAllergens(own, allergens).stretches.map(({ text: word, isAllergen }) =>
        isAllergen ? bold(word.toLocaleUpperCase(language)) : plain(word),
      );
      runs.push(...(isReady ? named : [plain(`${text} (`), ...named, plain(')')]));
    } else {
      const before = classBefore(byName.get(name)!, text, market, language);
      if (before) runs.push(plain(before));
      runs.push(allergens.length > 0 ? bold(text.toLocaleUpperCase(language)) : plain(text));
    }
    const share =
      foods.has(name) && percent >= WORTH_A_SHARE
        ? ` (${labelNumber(percent, percent < 10 ? 1 : 0, language)}\u00a0%)`
        : '';
    runs.push(plain(`${share}${i < ingredients.length - 1 ? ', ' : '.'}`));
  });
  return runs;
}

/**
 * Writes what a label says from the bar as it was made: ingredients in falling order with allergens standing out, shares of foods it is
 * named after, claims never rounded up.
 *
 * @throws RangeError for a net mass that is not above 0
 */
export function labelContent(bar: BarFacts, maker: MakerFacts, design: LabelDesign): LabelContent {
  if (!(bar.netMg > 0) || !Number.isFinite(bar.netMg))
    throw new RangeError('a label needs the net mass of the bar, above 0 g');
  const facts = bar.lines.length > 0 ? labelFacts(bar.lines) : null;
  const foods = new Set(foodsOf(bar.lines));
  const inside = new Set(facts?.allergens ?? []);
  // What no word in a sheet's ingredients names is said after them, as is what came in with something else.
  const unnamed = (facts?.ingredients ?? []).flatMap(({ name, allergens }) => {
    const own = bar.bought[name];
    return own ? findAllergens(own, allergens).unnamed : [];
  });
  const brought = [...new Set([...bar.broughtAllergens.filter((a) => !inside.has(a)), ...unnamed])];
  const traces = maker.traces.filter((a) => !inside.has(a) && !brought.includes(a));
  const { languages, market } = design;
  const sweet = sweetenedFor(bar, market);
  const kept = bar.shellPercent === null ? 'storage' : 'storageFilled';
  const each = (write: (language: LabelLanguage) => Run[] | null): Run[][] => {
    const seen = new Set<string>();
    return languages.flatMap((language) => {
      const runs = write(language);
      const text = runs?.map((r) => r.text).join('') ?? '';
      // Numbers and names that are the same in every language stand only once.
      if (!runs || text === '' || seen.has(text)) return [];
      seen.add(text);
      return [runs];
    });
  };
  const allergenNames = (names: readonly string[], language: LabelLanguage) =>
    names.map((a) => LABEL_WORDS[language].allergens[a] ?? a).join(', ');
  const write: Record<LabelPart, () => Pick<PartContent, 'paragraphs'> & { forms?: NutritionForm[] }> = {
    maker: () => ({ paragraphs: [[plain(maker.name)]] }),
    name: () => ({
      paragraphs: each((language) => {
        const name = soldAs(bar, market, language);
        if (!name) return null;
        return sweet ? [bold(name), plain(`, ${sweetenedWords(sweet, language)}`)] : [bold(name)];
      }),
    }),
    origin: () => ({
      paragraphs:
        bar.origins.length === 0
          ? []
          : bar.origins.length === 1
            ? [
                [
                  plain(
                    [...lotWords(bar.origins[0]!.name, bar.origins[0]!.harvest), bar.origins[0]!.country]
                      .filter(Boolean)
                      .join(', '),
                  ),
                ],
              ]
            : each((language) => [plain(LABEL_WORDS[language].blend)]),
    }),
    cacao: () => ({
      paragraphs: each((language) => {
        // A filled piece states none: its filling is no chocolate.
        if (!facts || !bar.complete || bar.shellPercent !== null) return null;
        const chocolate = labelFacts(bar.lines.filter((l) => !isOtherFood(l.ingredient)));
        const claim = maker.cacaoSchool === 'all' ? chocolate.cacaoAll : chocolate.cacaoBeans;
        if (claim <= 0) return null;
        return [
          plain(
            fill(LABEL_WORDS[language].cacao, {
              percent: `${labelNumber(claim, claim % 1 ? 1 : 0, language)}\u00a0%`,
            }),
          ),
        ];
      }),
    }),
    ingredients: () => ({
      paragraphs: each((language) => {
        if (!facts) return null;
        const runs = ingredientRuns(facts.ingredients, foods, bar, market, language);
        const all = market === 'US' ? [...new Set([...inside, ...brought])].sort() : brought;
        if (sweet?.laxative) runs.push(plain(` ${LABEL_WORDS[language].laxative}`));
        if (all.length === 0) return runs;
        return [
          ...runs,
          plain(` ${LABEL_WORDS[language].contains} `),
          bold(allergenNames(all, language)),
          plain('.'),
        ];
      }),
    }),
    traces: () => ({
      paragraphs: each((language) =>
        traces.length === 0
          ? null
          : [plain(`${LABEL_WORDS[language].traces} `), bold(allergenNames(traces, language)), plain('.')],
      ),
    }),
    nutrition: () => ({
      paragraphs: [],
      forms:
        !facts || !bar.complete || !design.nutrition
          ? []
          : market === 'US'
            ? [
                usNutrition(
                  facts.per100g,
                  addedSugars(bar.lines, (l) => isOtherFood(l.ingredient)),
                  bar.netMg,
                ),
              ]
            : languages.map((language) => euNutrition(facts.per100g, language)),
    }),
    storage: () => ({
      paragraphs: each((language) => [
        plain(fill(LABEL_WORDS[language][kept], { range: KEPT_AT[kept][market] })),
      ]),
    }),
    address: () => ({
      paragraphs: each((language) =>
        maker.address
          ? [plain(fill(LABEL_WORDS[language].madeBy, { name: maker.name, address: maker.address }))]
          : null,
      ),
    }),
    netMass: () => ({ paragraphs: [[bold(netMassText(bar.netMg, market, languages[0] ?? 'en'))]] }),
    bestBefore: () => ({
      paragraphs: each((language) =>
        bar.bestBefore
          ? [plain(fill(LABEL_WORDS[language].bestBefore, { day: labelDay(bar.bestBefore, language) }))]
          : null,
      ),
    }),
    batch: () => ({
      paragraphs: each((language) => [plain(fill(LABEL_WORDS[language].batch, { code: bar.code }))]),
    }),
    symbol: () => ({ paragraphs: [] }),
  };
  const wanted = [...design.front, ...design.back];
  const names = [...(facts?.ingredients.map((i) => i.name) ?? [])];
  return {
    parts: wanted
      .map((part): PartContent => ({ part, forms: [], ...write[part]() }))
      .filter((p) => p.part === 'symbol' || p.paragraphs.length > 0 || p.forms.length > 0),
    soldAs: soldAs(bar, market, languages[0] ?? 'en'),
    untranslated: languages.flatMap((language) => {
      const called = nameIn(bar, language);
      return names
        .filter((n) => bar.bought[n] === undefined && !called(n).known)
        .map((name) => ({ name, language }));
    }),
    inOneLanguage: languages.length > 1 ? names.filter((n) => Boolean(bar.bought[n])) : [],
    symbolText: { page: bar.pageUrl, batch: bar.code, text: design.symbolText || bar.code }[
      design.symbolSays
    ],
  };
}
