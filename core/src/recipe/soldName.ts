import { isOtherFood } from './foods.ts';
import { recipeFigures, type RecipeLine } from './figures.ts';

/** Markets whose rules are in the table. */
export type Market = 'EU' | 'US';

/** Figures a rule may speak of, % by mass. */
interface RuleFigures {
  /** Cocoa butter and fat-free dry cocoa. */
  dryCocoa: number;
  cocoaButter: number;
  fatFreeCocoa: number;
  milkFat: number;
  /** Milk fat and milk solids non-fat. */
  milkSolids: number;
  /** Cocoa butter and milk fat. */
  totalFat: number;
  liquor: number;
  otherFat: number;
  sugar: number;
  /** Nuts, fruit, spices and other foods, % of the whole; all other figures are reckoned without them. */
  otherFoods: number;
}

/** A condition: at least, at most, or less than so much. */
export interface RuleLimit {
  figure: keyof RuleFigures;
  min?: number;
  max?: number;
  below?: number;
}

/** A name under which something may be sold, with its conditions. */
export interface NameRule {
  market: Market;
  name: string;
  limits: readonly RuleLimit[];
  source: string;
}

const EU = 'Directive 2000/36/EC, Annex I, as of 2000-08-03';
const US = '21 CFR 163, as of 2024-04-01';

/** Rules looked at, strictest first within a kind. Advisory: the local authority decides. */
export const NAME_RULES: readonly NameRule[] = [
  {
    market: 'EU',
    name: 'milk chocolate',
    source: EU,
    limits: [
      { figure: 'dryCocoa', min: 25 },
      { figure: 'milkSolids', min: 14 },
      { figure: 'fatFreeCocoa', min: 2.5 },
      { figure: 'milkFat', min: 3.5 },
      { figure: 'totalFat', min: 25 },
      { figure: 'otherFat', max: 5 },
      { figure: 'otherFoods', max: 40 },
    ],
  },
  {
    market: 'EU',
    name: 'white chocolate',
    source: EU,
    limits: [
      { figure: 'cocoaButter', min: 20 },
      { figure: 'milkSolids', min: 14 },
      { figure: 'milkFat', min: 3.5 },
      { figure: 'otherFat', max: 5 },
      { figure: 'otherFoods', max: 40 },
    ],
  },
  {
    market: 'EU',
    name: 'chocolate',
    source: EU,
    limits: [
      { figure: 'dryCocoa', min: 35 },
      { figure: 'cocoaButter', min: 18 },
      { figure: 'fatFreeCocoa', min: 14 },
      { figure: 'otherFat', max: 5 },
      { figure: 'otherFoods', max: 40 },
    ],
  },
  {
    market: 'US',
    name: 'milk chocolate',
    source: US,
    limits: [
      { figure: 'liquor', min: 10 },
      { figure: 'milkFat', min: 3.39 },
      { figure: 'milkSolids', min: 12 },
      { figure: 'otherFat', max: 1 },
    ],
  },
  {
    market: 'US',
    name: 'white chocolate',
    source: US,
    limits: [
      { figure: 'cocoaButter', min: 20 },
      { figure: 'milkFat', min: 3.5 },
      { figure: 'milkSolids', min: 14 },
      { figure: 'sugar', max: 55 },
      { figure: 'otherFat', max: 1 },
    ],
  },
  {
    market: 'US',
    name: 'bittersweet chocolate',
    source: US,
    limits: [
      { figure: 'liquor', min: 35 },
      { figure: 'milkSolids', below: 12 },
      { figure: 'otherFat', max: 1 },
    ],
  },
  {
    market: 'US',
    name: 'sweet chocolate',
    source: US,
    limits: [
      { figure: 'liquor', min: 15 },
      { figure: 'milkSolids', below: 12 },
      { figure: 'otherFat', max: 1 },
    ],
  },
];

/** A limit with what the bowl has. */
export interface LimitCheck extends RuleLimit {
  value: number;
  met: boolean;
}

/** A rule held against a bowl. */
export interface NameVerdict {
  rule: NameRule;
  met: boolean;
  checks: LimitCheck[];
}

/**
 * What a bowl may be called in a market, each rule with its figures; `name` is the first that is met, or `compound` where other fats
 * forbid every name, else null. The minima are reckoned on the chocolate alone, without nuts, fruit and other foods (2000/36/EC, Annex
 * I.B; 21 CFR 163 for the chocolate component): the fat of a hazelnut is no foreign fat.
 */
export function soldName(
  lines: readonly RecipeLine[],
  market: Market,
): { name: string | null; verdicts: NameVerdict[] } {
  const foods = lines.filter((l) => isOtherFood(l.ingredient));
  const f = recipeFigures(lines.filter((l) => !isOtherFood(l.ingredient)));
  const all = lines.reduce((sum, l) => sum + l.massMg, 0);
  const c = f.composition;
  const figures: RuleFigures = {
    dryCocoa: c.cocoaButter + c.cocoaSolids,
    cocoaButter: c.cocoaButter,
    fatFreeCocoa: c.cocoaSolids,
    milkFat: c.milkFat,
    milkSolids: c.milkFat + c.milkSolids,
    totalFat: c.cocoaButter + c.milkFat,
    liquor: f.cacaoBeans,
    otherFat: c.otherFat,
    sugar: c.sugar,
    otherFoods: all > 0 ? (100 * foods.reduce((sum, l) => sum + l.massMg, 0)) / all : 0,
  };
  const verdicts = NAME_RULES.filter((r) => r.market === market).map((rule): NameVerdict => {
    const checks = rule.limits.map((l) => {
      const value = figures[l.figure];
      return {
        ...l,
        value,
        met:
          value >= (l.min ?? -Infinity) - 1e-9 &&
          value <= (l.max ?? Infinity) + 1e-9 &&
          value < (l.below ?? Infinity) - 1e-9,
      };
    });
    return { rule, checks, met: checks.every((k) => k.met) };
  });
  const met = verdicts.find((v) => v.met);
  const butForFat = verdicts.some((v) => !v.met && v.checks.every((k) => k.met || k.figure === 'otherFat'));
  return { name: met?.rule.name ?? (butForFat ? 'compound' : null), verdicts };
}
