import { requireFinite, requireNotBelow0, requireNumbers } from '../numerics/index.ts';
import { solve, type Constraint } from 'yalps';
import type { Ingredient } from './composition.ts';
import { recipeFigures, type RecipeFigures, type RecipeLine } from './figures.ts';

/** A figure that may be wished for: a share of the bowl in %, its mass in mg, its cost per kg, or the mass of one ingredient in mg. */
export type WishFigure =
  | 'cacaoAll'
  | 'cacaoBeans'
  | 'fat'
  | 'cocoaButter'
  | 'milkFat'
  | 'sugar'
  | 'massMg'
  | 'costPerKg'
  | { ingredientId: string };

/** A wish: a figure fixed (min = max), bounded on one side or both. What nobody wishes for is free. */
export interface Wish {
  figure: WishFigure;
  min?: number;
  max?: number;
}

/** What {@link solveRecipe} works from. */
export interface SolveProblem {
  /** The ingredients that may be used, with their masses as written; 0 for one not used so far. */
  lines: readonly RecipeLine[];
  wishes: readonly Wish[];
  /** Stay near the recipe as written (default), or be as cheap as the wishes allow. */
  towards?: 'written' | 'cheapest';
}

/** A wish among those that cannot all be had. */
export interface Conflict {
  wish: Wish;
  /** Index in the wishes asked for. */
  index: number;
  /** Which side of it cannot be kept. */
  side: 'min' | 'max';
  wanted: number;
  /** What this figure can come to at best while every other wish holds; null where giving way here alone does not help. */
  possible: number | null;
  /** What it comes to in the nearest recipe, where all give way together as little as they can. */
  nearest: number;
}

/** The recipe that meets the wishes, or why none does and the nearest that can be had. */
export type SolveAnswer =
  | { ok: true; lines: RecipeLine[]; figures: RecipeFigures }
  | { ok: false; conflicts: Conflict[]; lines: RecipeLine[]; figures: RecipeFigures };

/** Largest bowl considered, kg. */
const LARGEST_KG = 100_000;

/** Slack under which a bound counts as kept, in its own unit (percentage points, or % of a mass or cost). */
const KEPT = 1e-6;

/** A bound as the programme sees it: Σ share·yᵢ + mass·t ≥ bound (min) or ≤ bound (max), in points of 1 %. */
interface Row {
  index: number;
  side: 'min' | 'max';
  shares: number[];
  mass: number;
  bound: number;
}

/**
 * Solves a recipe as a linear programme. With shares yᵢ of the bowl (Σ yᵢ = 1) and t = 1/mass every wish is linear, whether it
 * speaks of shares, masses or cost (Charnes and Cooper 1962). Where the wishes conflict, an irreducible set of them is
 * found by leaving out one after the other (Chinneck 2008, deletion filter), each is relaxed alone and all together.
 *
 * Without a wish for the mass it stays as written, unless masses of ingredients are wished for. Masses come back whole
 * mg. Simplex by the `yalps` package.
 *
 * @throws RangeError for an empty list, a bound that is not a number, min above max, or an unknown ingredient
 */
export function solveRecipe({ lines, wishes, towards = 'written' }: SolveProblem): SolveAnswer {
  check(lines, wishes);
  const programme = new Programme(lines, wishes, towards);
  const hard = programme.run(programme.rows, []);
  if (hard) {
    const exact = settleRounding(hard, wishes);
    return { ok: true, lines: exact, figures: recipeFigures(exact) };
  }
  const clashing = irreducible(programme);
  const nearest = programme.run([], programme.rows) ?? [...lines];
  const figures = recipeFigures(nearest);
  const conflicts = clashing.map((row): Conflict => {
    const alone = programme.run(
      programme.rows.filter((r) => r !== row),
      [row],
    );
    const wish = wishes[row.index]!;
    return {
      wish,
      index: row.index,
      side: row.side,
      wanted: row.side === 'min' ? wish.min! : wish.max!,
      possible: alone ? figureOf(wish.figure, alone) : null,
      nearest: figureOf(wish.figure, nearest),
    };
  });
  return { ok: false, conflicts, lines: nearest, figures };
}

/** A wished figure of a recipe: % of the bowl, mg, or minor units per kg. */
export function figureOf(figure: WishFigure, lines: readonly RecipeLine[]): number {
  if (typeof figure === 'object')
    return lines.reduce((s, l) => s + (l.ingredient.id === figure.ingredientId ? l.massMg : 0), 0);
  const f = recipeFigures(lines);
  if (figure === 'massMg') return f.totalMg;
  if (figure === 'costPerKg') return f.totalMg > 0 ? (f.cost / f.totalMg) * 1e6 : 0;
  return f[figure];
}

function check(lines: readonly RecipeLine[], wishes: readonly Wish[]): void {
  if (lines.length === 0) throw new RangeError('a recipe needs at least one ingredient to choose from');
  for (const { ingredient, massMg } of lines) {
    requireNotBelow0(massMg, `the mass of ${ingredient.name}`);
    requireNumbers(ingredient.composition, ingredient.name);
    requireFinite(ingredient.pricePerKg, `the price of ${ingredient.name}`);
  }
  for (const { figure, min, max } of wishes) {
    for (const bound of [min, max])
      if (bound !== undefined && !(Number.isFinite(bound) && bound >= 0))
        throw new RangeError(`a wish of ${bound} is not a number of 0 or more`);
    if (min !== undefined && max !== undefined && min > max)
      throw new RangeError(`at least ${min} and at most ${max} cannot both hold`);
    if (typeof figure === 'object' && !lines.some((l) => l.ingredient.id === figure.ingredientId))
      throw new RangeError('a wish speaks of an ingredient that the recipe does not have');
  }
}

/** % of an ingredient that counts towards a share figure. */
function shareOf(figure: WishFigure, { composition: c, cacao }: Ingredient): number {
  switch (figure) {
    case 'cacaoAll':
      return cacao === 'none' ? 0 : 100;
    case 'cacaoBeans':
      return cacao === 'bean' ? 100 : 0;
    case 'fat':
      return c.cocoaButter + c.milkFat + c.otherFat;
    case 'cocoaButter':
      return c.cocoaButter;
    case 'milkFat':
      return c.milkFat;
    case 'sugar':
      return c.sugar;
    default:
      return 0;
  }
}

class Programme {
  readonly rows: Row[];
  private readonly shares: number[];
  private readonly writtenKg: number;
  private readonly massIsFree: boolean;

  constructor(
    private readonly lines: readonly RecipeLine[],
    wishes: readonly Wish[],
    private readonly towards: 'written' | 'cheapest',
  ) {
    const total = lines.reduce((s, l) => s + l.massMg, 0);
    this.writtenKg = total > 0 ? total / 1e6 : 1;
    this.shares = lines.map((l) => (total > 0 ? l.massMg / total : 0));
    this.massIsFree = wishes.some((w) => w.figure === 'massMg' || typeof w.figure === 'object');
    this.rows = wishes.flatMap((wish, index) =>
      (['min', 'max'] as const).flatMap((side) => {
        const wanted = wish[side];
        return wanted === undefined ? [] : [this.row(wish.figure, side, wanted, index)];
      }),
    );
  }

  private row(figure: WishFigure, side: 'min' | 'max', wanted: number, index: number): Row {
    const shares = (value: (i: Ingredient) => number) => this.lines.map((l) => value(l.ingredient));
    if (figure === 'massMg') {
      // mass ≥ m is −m·t ≥ −1.
      const kg = wanted / 1e6;
      return { index, side, shares: shares(() => 0), mass: -100 * kg, bound: -100 };
    }
    if (typeof figure === 'object')
      return {
        index,
        side,
        shares: shares((i) => (i.id === figure.ingredientId ? 100 : 0)),
        mass: (-100 * wanted) / 1e6,
        bound: 0,
      };
    if (figure === 'costPerKg') {
      const scale = 100 / Math.max(wanted, 1);
      return { index, side, shares: shares((i) => i.pricePerKg * scale), mass: 0, bound: wanted * scale };
    }
    return { index, side, shares: shares((i) => shareOf(figure, i)), mass: 0, bound: wanted };
  }

  /** The best recipe that keeps `hard`, giving way in `soft` as little as can be; null where `hard` alone cannot be kept. */
  run(hard: readonly Row[], soft: readonly Row[]): RecipeLine[] | null {
    const constraints = new Map<string, Constraint>([['whole', { equal: 1 }]]);
    const variables = new Map<string, Map<string, number>>();
    const column = (name: string) => {
      const there = variables.get(name) ?? new Map<string, number>();
      variables.set(name, there);
      return there;
    };
    const prices = this.lines.map((l) => l.ingredient.pricePerKg);
    const dearest = Math.max(1, ...prices);
    this.lines.forEach((_, i) => {
      const y = column(`y${i}`);
      y.set('whole', 1);
      y.set('cost', (this.towards === 'cheapest' ? 10 : 1e-4) * (prices[i]! / dearest));
      // |yᵢ − written| as up + down.
      constraints.set(`d${i}`, { equal: this.shares[i]! });
      y.set(`d${i}`, 1);
      column(`up${i}`)
        .set(`d${i}`, -1)
        .set('cost', this.towards === 'cheapest' ? 1e-4 : 1);
      column(`down${i}`)
        .set(`d${i}`, 1)
        .set('cost', this.towards === 'cheapest' ? 1e-4 : 1);
    });
    // t in units of 1/written mass, so that it is about 1.
    const t = column('t');
    t.set('mass', 1);
    constraints.set('mass', this.massIsFree ? { min: this.writtenKg / LARGEST_KG } : { equal: 1 });
    if (this.massIsFree) {
      constraints.set('dt', { equal: 1 });
      t.set('dt', 1);
      column('tup').set('dt', -1).set('cost', 1e-2);
      column('tdown').set('dt', 1).set('cost', 1e-2);
    }
    [...hard, ...soft].forEach((row, k) => {
      const name = `w${k}`;
      constraints.set(
        name,
        row.side === 'min' ? { min: row.bound - KEPT * 1e-2 } : { max: row.bound + KEPT * 1e-2 },
      );
      row.shares.forEach((value, i) => value !== 0 && column(`y${i}`).set(name, value));
      if (row.mass !== 0) t.set(name, row.mass / this.writtenKg);
      if (soft.includes(row))
        column(`s${k}`)
          .set(name, row.side === 'min' ? 1 : -1)
          .set('cost', 1000);
    });
    const solution = solve(
      { direction: 'minimize', objective: 'cost', constraints, variables },
      { precision: 1e-9, maxPivots: 20_000 },
    );
    if (solution.status !== 'optimal') return null;
    const value = new Map(solution.variables);
    const shares = this.lines.map((_, i) => value.get(`y${i}`) ?? 0);
    const massKg = this.writtenKg / Math.max(value.get('t') ?? 1, this.writtenKg / LARGEST_KG);
    return whole(this.lines, shares, Math.round(massKg * 1e6));
  }
}

/** Masses in whole mg that add up to the total; the difference of rounding goes into the largest. */
function whole(lines: readonly RecipeLine[], shares: readonly number[], totalMg: number): RecipeLine[] {
  const made = lines.map((l, i) => ({ ...l, massMg: Math.round(Math.max(0, shares[i]!) * totalMg) }));
  const largest = made.reduce((best, l) => (l.massMg > best.massMg ? l : best));
  largest.massMg += totalMg - made.reduce((s, l) => s + l.massMg, 0);
  return made;
}

/** Bounds that cannot all be kept, none of which could be left out (deletion filter). */
function irreducible(programme: Programme): Row[] {
  let kept = [...programme.rows];
  for (const row of programme.rows) {
    const without = kept.filter((r) => r !== row);
    if (programme.run(without, []) === null) kept = without;
  }
  return kept;
}

/** How much graver it is to stay below a wish by rounding than to go over it. */
const MISSED = 100;

/** How far whole milligrams leave the wishes unkept: percentage points of shares, masses weighing far more. */
function shortfall(lines: readonly RecipeLine[], wishes: readonly Wish[]): number {
  return wishes.reduce((sum, { figure, min, max }) => {
    const value = figureOf(figure, lines);
    // Where whole milligrams cannot hit a figure exactly, a claim is rather kept by a hair too much than missed by one.
    const by = Math.max(0, MISSED * ((min ?? -Infinity) - value), value - (max ?? Infinity));
    return sum + (figure === 'costPerKg' ? 0 : by);
  }, 0);
}

/** Moves single milligrams until no share is missed by rounding, or nothing more helps: a claim of 75 % must not come out at 74.9999 %. */
function settleRounding(lines: readonly RecipeLine[], wishes: readonly Wish[]): RecipeLine[] {
  let now = [...lines];
  let short = shortfall(now, wishes);
  for (let round = 0; round < 8 && short > 1e-12; round += 1) {
    let best = now;
    let least = short;
    const used = now.flatMap((l, i) => (l.massMg > 1 ? [i] : []));
    const moves = used.flatMap((i) => [[i, -1] as const, [i, 1] as const]);
    for (const [i, by] of moves)
      for (const [k, other] of [[i, 0] as const, ...moves.filter(([k]) => k > i)]) {
        const tried = now.map((l, n) =>
          n === i ? { ...l, massMg: l.massMg + by } : n === k ? { ...l, massMg: l.massMg + other } : l,
        );
        const left = shortfall(tried, wishes);
        if (left < least - 1e-15) [best, least] = [tried, left];
      }
    if (best === now) break;
    [now, short] = [best, least];
  }
  return now;
}
