import type { Ingredient, RecipeLine } from '@wunsch/core/recipe';
import {
  madeFrom,
  madeOf,
  unitCost,
  unitCosts,
  type Constituent,
  type LineageGraph,
} from '@wunsch/core/ledger';
import type { StepRecord } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { loadLineage } from './lineage.ts';
import { compose, loadShelf } from './made.ts';

/** Steps in which a bowl is put together: where it is weighed, and in the grinder, where more may join. */
export function bowlSteps(steps: readonly Pick<StepRecord, 'id' | 'station'>[]): string[] {
  return steps.filter((s) => s.station === 'recipe' || s.station === 'grind').map((s) => s.id);
}

/** What is in a bowl. */
export interface Bowl {
  lines: RecipeLine[];
  /** Names of bought chocolate in it whose sheet does not say all that it is made of: the lines are without what is not known. */
  unknown: string[];
}

/**
 * What is really in a batch's bowl, as lines of a recipe: every weight in force that went into it, each followed back to what it is made of
 * as a label does. Nibs and bought liquor have the fat of their lots, bought butter and powder are what they are, and chocolate that
 * was melted in again counts as what it holds, each at what was paid for it. Empty where nothing has been weighed in.
 *
 * @param graph with what is behind those steps, as `loadLineage` reads it
 * @param stepIds the steps of the bowl
 */
export async function loadBowl(db: Db, graph: LineageGraph, stepIds: readonly string[]): Promise<Bowl> {
  const here = new Set(stepIds);
  const lines = stepIds
    .flatMap((id) => graph.lines.get(id) ?? [])
    // What goes from the bowl into the grinder is in it already.
    .filter(
      (l) =>
        l.direction === 'in' &&
        (l.parcelId === null || !here.has(graph.parcels.get(l.parcelId)?.stepId ?? '')),
    );
  const wholeMg = lines.reduce((sum, l) => sum + l.massMg, 0);
  return partsOf(db, graph, madeFrom(graph, lines), wholeMg);
}

/** What of a bowl may be missing in a grinder that holds all of it: crumbs. Share of it. */
const CRUMBS = 0.02;

/** What is in each grinder at work with a part of a batch; nothing of one that holds all of the bowl. */
export async function loadBowls(
  db: Db,
  graph: LineageGraph,
  { steps, whole }: { steps: readonly Pick<StepRecord, 'id' | 'kind' | 'status'>[]; whole: Bowl },
): Promise<(Bowl & { stepId: string })[]> {
  const wholeMg = whole.lines.reduce((sum, l) => sum + l.massMg, 0);
  const bowls: (Bowl & { stepId: string })[] = [];
  for (const { id, kind, status } of steps) {
    if (kind !== 'grind' || status !== 'open') continue;
    const lines = (graph.lines.get(id) ?? []).filter((l) => l.direction === 'in');
    const inMg = lines.reduce((sum, l) => sum + l.massMg, 0);
    if (inMg < (1 - CRUMBS) * wholeMg) bowls.push({ stepId: id, ...(await loadBowl(db, graph, [id])) });
  }
  return bowls;
}

/** What a parcel is made of, as lines of a recipe that weigh `wholeMg` together, and what a kg of its material has cost; else as {@link loadBowl}. */
export async function loadComposition(
  db: Db,
  parcelId: string,
  wholeMg: number,
): Promise<Bowl & { pricePerKg: number }> {
  const graph = await loadLineage(db, [parcelId], 'back');
  return {
    ...(await partsOf(db, graph, madeOf(graph, parcelId), wholeMg)),
    pricePerKg: unitCost(graph, parcelId),
  };
}

async function partsOf(
  db: Db,
  graph: LineageGraph,
  parts: readonly Constituent[],
  wholeMg: number,
): Promise<Bowl> {
  if (parts.length === 0) return { lines: [], unknown: [] };
  const shelf = await loadShelf(db, graph);
  const priceOf = pricesIn(graph);
  const bowl: Bowl = { lines: [], unknown: [] };
  for (const part of parts) {
    const { lines: known, complete, bought } = compose([part], shelf, wholeMg);
    if (!complete) bowl.unknown.push(...Object.keys(bought));
    const isFree = part.parcelId !== null && graph.parcels.get(part.parcelId)?.isFree === true;
    // Chocolate whose sheet names no cacao would pass for sugar.
    const isGuess = !complete && known.every((l) => l.ingredient.cacao === 'none');
    for (const { ingredient, massMg } of isGuess ? [] : known)
      bowl.lines.push({
        ingredient: { ...factsOf(ingredient), pricePerKg: priceOf(part), ...(isFree && { isFree }) },
        massMg,
      });
  }
  return bowl;
}

/** What was paid for a kg of what is in a bowl, minor units: of each sack it came out of in proportion, or the shelf's own price. */
function pricesIn(graph: LineageGraph): (part: Constituent) => number {
  const lines = [...graph.lines.values()].flat().filter((l) => l.direction === 'in');
  const unit = unitCosts(
    graph,
    lines.flatMap((l) => l.parcelId ?? []),
  );
  return ({ ingredientId, parcelId }) => {
    const of = lines.filter((l) =>
      ingredientId ? l.ingredientId === ingredientId : l.parcelId === parcelId,
    );
    const [mass, paid] = of.reduce(
      ([m, p], l) => [
        m + l.massMg,
        p + l.massMg * (l.parcelId ? unit.get(l.parcelId)! : (l.pricePerKg ?? 0)),
      ],
      [0, 0],
    );
    return mass > 0 ? paid / mass : 0;
  };
}

/** An ingredient without what a shelf keeps beside it. */
function factsOf({
  id,
  name,
  cacao,
  composition,
  pricePerKg,
  allergens,
  strong,
  labelNames,
  nutrition,
  densityGPerMl,
  crystalUm,
}: Ingredient): Ingredient {
  return {
    id,
    name,
    cacao,
    composition,
    pricePerKg,
    allergens,
    ...(strong && { strong }),
    ...(labelNames && { labelNames }),
    ...(nutrition && { nutrition }),
    ...(densityGPerMl && { densityGPerMl }),
    ...(crystalUm && { crystalUm }),
  };
}
