import { isConche } from '../conche/index.ts';
import { YIELD_PRIORS } from '../ledger/index.ts';
import type { PlanLot, PlanRecipe, PlanRoom } from './room.ts';

/** Stations between the beans of a lot and the nibs of a charge. */
const FROM_LOT = ['sort', 'roast', 'winnow'] as const;

/** Stations between a charge and its bars. */
const INTO_BARS = ['grind', 'temper', 'mould'] as const;

/** Share of the chocolate that becomes bars where a lot has no shares of its own; the rest stays in machines and bowls. */
export const IN_BARS = 0.95;

/** A charge where no grinder says what it holds, mg. */
const USUAL_CHARGE = 4_000_000;

/** Whole bars expected of a charge in mg. */
export const barsOf = (chargeMg: number, recipe: PlanRecipe, lot: PlanLot | null) =>
  Math.floor((chargeMg * inBars(recipe, lot)) / recipe.barMg);

/** Share of a charge that becomes bars, by what the lot’s batches gave; what is bought ready is not ground. */
export function inBars(recipe: PlanRecipe, lot: PlanLot | null): number {
  const stations = isBought(recipe) ? INTO_BARS.slice(1) : INTO_BARS;
  const known = stations.flatMap((s) => lot?.yields[s] ?? []);
  if (known.length < stations.length) return IN_BARS;
  return Math.min(
    1,
    Math.max(
      0.05,
      known.reduce((product, share) => product * share, 1),
    ),
  );
}

/** How far the bars of a charge are off, as a share of them, by how far a lot’s batches differ at each station they pass. */
export function spreadOfBars(recipe: PlanRecipe, lot: PlanLot | null): number {
  const before = isBought(recipe) || recipe.material === 'nibs' ? [] : FROM_LOT;
  const after = isBought(recipe) ? INTO_BARS.slice(1) : INTO_BARS;
  return Math.hypot(
    ...[...before, ...after].map((station) => {
      const usual = YIELD_PRIORS[station];
      return (lot?.yieldSds?.[station]?.sd ?? usual.sd) / Math.max(0.05, lot?.yields[station] ?? usual.mean);
    }),
  );
}

/** Whether a recipe begins with chocolate that is bought. */
export const isBought = ({ material }: PlanRecipe) => material === 'couverture' || material === 'chocolate';

/** Least and most chocolate of one batch, by the grinders’ usable charge, mg. */
export function chargeRange({ machines }: PlanRoom, recipe: PlanRecipe): { least: number; most: number } {
  const grinders = machines.filter((m) => m.station === 'grind' && m.maxMg !== null && !isConche(m));
  const most = Math.max(
    recipe.barMg,
    ...(grinders.length > 0 ? grinders.map((m) => m.maxMg!) : [USUAL_CHARGE]),
  );
  const least = Math.min(
    most,
    ...(grinders.length > 0 ? grinders.map((m) => m.minMg ?? m.maxMg! / 4) : [USUAL_CHARGE / 4]),
  );
  return { least: Math.max(least, recipe.barMg / IN_BARS), most };
}

/** What is taken from the lot for a charge, mg. */
export function startOf(chargeMg: number, recipe: PlanRecipe, lot: PlanLot | null): number {
  if (isBought(recipe)) return chargeMg;
  const nibs = chargeMg * recipe.beansShare;
  if (recipe.material === 'nibs') return Math.ceil(nibs);
  const share = FROM_LOT.reduce((s, station) => s * (lot?.yields[station] ?? YIELD_PRIORS[station].mean), 1);
  return Math.ceil(nibs / Math.max(0.05, share));
}

/** How far what is taken of a lot for a charge is off, as shares of it: for each charge by itself, and for all of the lot alike. */
export function spreadOfTaken(lot: PlanLot): { own: number; shared: number } {
  const own: number[] = [];
  const shared: number[] = [];
  for (const station of FROM_LOT) {
    const mean = Math.max(0.05, lot.yields[station] ?? YIELD_PRIORS[station].mean);
    const { sd, ofMean } = lot.yieldSds?.[station] ?? { sd: 0, ofMean: 0 };
    own.push(Math.sqrt(Math.max(0, sd ** 2 - ofMean ** 2)) / mean);
    shared.push(ofMean / mean);
  }
  return { own: Math.hypot(...own), shared: Math.hypot(...shared) };
}
