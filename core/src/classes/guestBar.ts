import { requireAbove0, requireBetween } from '../numerics/index.ts';
import {
  estimateFlow,
  recipeFigures,
  WET_INGREDIENT,
  type FlowWord,
  type Ingredient,
  type RecipeFigures,
  type RecipeLine,
} from '../recipe/index.ts';

/** Sugar stirred in is not ground: crystals above this are felt between the teeth, µm. */
export const FELT_UM = 35;

/** What a guest's own chocolate is to be, from the base of the class. */
export interface GuestBarProblem {
  /** All of the guest's bars together, mg, > 0. */
  massMg: number;
  /** What the base is made of; masses count only in proportion. */
  base: readonly RecipeLine[];
  /** Cacao % aimed at, above 0 and at most 100. */
  cacaoPercent: number;
  /** Which cacao % is meant: all of it, or as ground bean only. */
  school: 'all' | 'beans';
  /** What makes it sweeter. */
  sugar: Ingredient;
  /** Stirred in or strewn on, % of the whole, each above 0. */
  flavours: readonly { ingredient: Ingredient; percent: number }[];
  /** Division of the scale, mg. */
  divisionMg: number;
}

/** What may be wrong with a guest's chocolate. */
export type GuestBarFault = 'felt' | 'wet' | 'thick';

/** A guest's chocolate as it is weighed out. */
export interface GuestBar {
  baseMg: number;
  sugarMg: number;
  flavours: { id: string; name: string; massMg: number }[];
  /** Everything in it, the base by its own lines. */
  lines: RecipeLine[];
  /** True figures of what is weighed out, after rounding to the scale. */
  figures: RecipeFigures;
  /** By the school asked for, %. */
  cacaoPercent: number;
  flow: FlowWord;
  faults: GuestBarFault[];
}

/** Why a guest's chocolate cannot be made, whatever is weighed out. */
export const BAR_REFUSALS = [
  'base-empty',
  'base-without-cacao',
  'sugar-is-cacao',
  'too-dark',
  'too-light',
  'no-room',
] as const;
/** See {@link BAR_REFUSALS}. */
export type BarRefusal = (typeof BAR_REFUSALS)[number];

/** A guest's chocolate cannot be made: for which reason, and in words what would be right. */
export class CannotBeMade extends RangeError {
  constructor(
    readonly why: BarRefusal,
    message: string,
  ) {
    super(message);
  }
}

/** A bar's cacao cannot be reached from this base; `most` is the highest that can, %. */
export class OutOfReach extends CannotBeMade {
  constructor(
    readonly asked: number,
    readonly most: number,
  ) {
    super(
      'too-dark',
      `${asked} % cacao cannot be made from this base with these flavours: ${(Math.floor(most * 10) / 10).toFixed(1)} % is the most`,
    );
  }
}

/** The most cacao % a guest's chocolate can have: no sugar added, %. */
export function mostCacao({
  base,
  school,
  flavours,
}: Pick<GuestBarProblem, 'base' | 'school' | 'flavours'>): number {
  const { baseShare, flavourShare, flavourCacao } = sharesOf({ base, school, flavours });
  return 100 * (baseShare * (1 - flavourShare) + flavourCacao);
}

/** Whether a cacao % is within the most a base can have, both %; the last bit of a division does not count. */
export const isWithin = (cacaoPercent: number, most: number): boolean =>
  cacaoPercent / 100 <= most / 100 + 1e-9;

function sharesOf({ base, school, flavours }: Pick<GuestBarProblem, 'base' | 'school' | 'flavours'>) {
  const figures = recipeFigures(base);
  if (!(figures.totalMg > 0)) throw new CannotBeMade('base-empty', 'a base needs something in it');
  const baseShare = (school === 'all' ? figures.cacaoAll : figures.cacaoBeans) / 100;
  let [flavourShare, flavourCacao] = [0, 0];
  for (const { ingredient, percent } of flavours) {
    requireAbove0(percent, `the share of ${ingredient.name}`);
    flavourShare += percent / 100;
    if (ingredient.cacao === 'bean' || (school === 'all' && ingredient.cacao !== 'none'))
      flavourCacao += percent / 100;
  }
  if (flavourShare >= 1)
    throw new CannotBeMade(
      'no-room',
      `flavours of ${Math.round(100 * flavourShare)} % leave no room for chocolate; 10 to 20 % is usual`,
    );
  return { baseShare, flavourShare, flavourCacao };
}

/**
 * What a guest weighs out of the base, the sugar and the flavours so that the whole has the cacao % aimed at: with b of base of cacao
 * share c, flavours f of which g counts as cacao, b·c + g is the aim and sugar the rest. Every mass is rounded to the scale, the base
 * taking up what is left; the figures are those of the rounded masses.
 *
 * @throws OutOfReach where the base is not strong enough, CannotBeMade where it cannot be made otherwise, RangeError for anything that is no number in its range
 */
export function guestBar(problem: GuestBarProblem): GuestBar {
  const { massMg, base, cacaoPercent, school, sugar, flavours, divisionMg } = problem;
  requireAbove0(massMg, 'the mass of a guest’s bars');
  requireAbove0(divisionMg, 'the division of the scale');
  requireBetween(cacaoPercent, 0.1, 100, 'cacao %');
  if (sugar.cacao !== 'none')
    throw new CannotBeMade('sugar-is-cacao', `${sugar.name} is cacao and does not make it sweeter`);
  const { baseShare, flavourShare, flavourCacao } = sharesOf(problem);
  if (!(baseShare > 0))
    throw new CannotBeMade('base-without-cacao', 'a base without cacao reaches no cacao %');
  const most = mostCacao(problem);
  if (!isWithin(cacaoPercent, most)) throw new OutOfReach(cacaoPercent, most);
  const wantedBase = (cacaoPercent / 100 - flavourCacao) / baseShare;
  if (!(wantedBase > 0))
    throw new CannotBeMade(
      'too-light',
      `these flavours alone have more than ${cacaoPercent} % cacao; aim higher or take less of them`,
    );
  const rounded = (mg: number) => Math.round(mg / divisionMg) * divisionMg;
  const flavourMg = flavours.map((f) => rounded((massMg * f.percent) / 100));
  const sugarMg = Math.max(0, rounded(massMg * (1 - flavourShare - wantedBase)));
  const baseMg = rounded(massMg - sugarMg - flavourMg.reduce((a, b) => a + b, 0));
  const totalBase = base.reduce((sum, l) => sum + l.massMg, 0);
  const lines: RecipeLine[] = [
    ...base.map((l) => ({ ingredient: l.ingredient, massMg: (l.massMg / totalBase) * baseMg })),
    ...(sugarMg > 0 ? [{ ingredient: sugar, massMg: sugarMg }] : []),
    ...flavours.map((f, k) => ({ ingredient: f.ingredient, massMg: flavourMg[k]! })),
  ];
  const figures = recipeFigures(lines);
  // What is strewn on top or stirred in whole does not thicken as ground solids do: the paste is judged without it.
  const paste = recipeFigures(lines.slice(0, base.length + (sugarMg > 0 ? 1 : 0)));
  const flow = estimateFlow(paste.composition).word;
  const faults: GuestBarFault[] = [];
  if (sugarMg > 0 && (sugar.crystalUm ?? Infinity) > FELT_UM) faults.push('felt');
  if (flavours.some((f) => f.ingredient.composition.water > WET_INGREDIENT)) faults.push('wet');
  if (flow === 'thick' || flow === 'will not fill') faults.push('thick');
  return {
    baseMg,
    sugarMg,
    flavours: flavours.map((f, k) => ({
      id: f.ingredient.id,
      name: f.ingredient.name,
      massMg: flavourMg[k]!,
    })),
    lines,
    figures,
    cacaoPercent: school === 'all' ? figures.cacaoAll : figures.cacaoBeans,
    flow,
    faults,
  };
}
