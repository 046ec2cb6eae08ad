import { inArray } from 'drizzle-orm';
import type { LotSheet } from '@wunsch/contract';
import type { BarFacts, BarOrigin } from '@wunsch/core/label';
import {
  allergensBehind,
  madeOf,
  originsBehind,
  reachBack,
  type Constituent,
  type LineageGraph,
  type Material,
} from '@wunsch/core/ledger';
import { nibFatOf } from '@wunsch/core/beans';
import {
  COUNTS_AS,
  MOST_POWDER_FAT,
  nibComposition,
  parts,
  powderComposition,
  type Ingredient,
  type RecipeLine,
} from '@wunsch/core/recipe';
import type { Db } from '../db/database.ts';
import { ingredient, lot } from '../db/schema/index.ts';
import { loadLineage } from './lineage.ts';
import { allergensOf, readSheet } from './stored.ts';

/** Masses of lines are shares of this, mg: only their proportions count. */
const WHOLE_MG = 1e9;

/** Chocolate that was made elsewhere. */
const BOUGHT: ReadonlySet<Material> = new Set<Material>(['couverture', 'chocolate', 'blocks']);

type LotRow = typeof lot.$inferSelect;

/**
 * Chocolate bought as such, by its sheet: a part that is cacao and one that is sugar, under one name. Where the sheet does not say how much of
 * which, it stands on the label all the same, and no figure is stated.
 */
function boughtLines(lotRow: LotRow, sheet: LotSheet | null, massMg: number): RecipeLine[] {
  const known = sheet !== null && sheet.cacao !== null && sheet.fat !== null;
  const cacao = known ? sheet.cacao! : 0;
  const fat = known ? Math.min(sheet.fat!, cacao) : 0;
  const one = (kind: Ingredient['cacao'], composition: Ingredient['composition']): Ingredient => ({
    id: lotRow.id,
    name: lotRow.name,
    cacao: kind,
    composition,
    pricePerKg: 0,
    allergens: allergensOf(sheet),
  });
  const lines: RecipeLine[] = [];
  if (cacao > 0)
    lines.push({
      massMg: (massMg * cacao) / 100,
      ingredient: one(
        'bean',
        parts({ cocoaButter: (100 * fat) / cacao, cocoaSolids: 100 - (100 * fat) / cacao }),
      ),
    });
  if (cacao < 100)
    lines.push({ massMg: (massMg * (100 - cacao)) / 100, ingredient: one('none', parts({ sugar: 100 })) });
  return lines;
}

/** What is read once for all constituents of a bar or a bowl. */
export interface Shelf {
  ingredients: ReadonlyMap<string, typeof ingredient.$inferSelect>;
  lots: ReadonlyMap<string, LotRow>;
  graph: LineageGraph;
}

function lotOf({ graph, lots }: Shelf, parcelId: string | null): LotRow | undefined {
  const lotId = parcelId ? graph.parcels.get(parcelId)?.lotId : null;
  return lotId ? lots.get(lotId) : undefined;
}

/** Cocoa butter of the nibs, or of the bought liquor, behind a parcel, %, where their lots know it. */
function nibFat({ graph, lots }: Shelf, parcelId: string | null): number | null {
  if (!parcelId) return null;
  const fats = originsBehind(graph, [parcelId]).flatMap((o) => {
    const from = lots.get(o.lotId);
    return (from && nibFatOf({ ...from, sheet: readSheet(from.sheet) })) ?? [];
  });
  return fats.length > 0 ? fats.reduce((a, b) => a + b, 0) / fats.length : null;
}

/** The composition of what lies on a parcel where its lot knows the fat; nothing where it is as on the shelf. */
function itsOwn(
  shelved: Ingredient,
  parcelId: string | null,
  shelf: Shelf,
): { composition?: Ingredient['composition'] } {
  if (shelved.cacao === 'bean') {
    const fat = nibFat(shelf, parcelId);
    return fat === null ? {} : { composition: nibComposition(fat) };
  }
  const stated = shelved.cacao === 'powder' ? (readSheet(lotOf(shelf, parcelId)?.sheet)?.fat ?? null) : null;
  const isPowder = stated !== null && stated <= MOST_POWDER_FAT;
  return isPowder ? { composition: powderComposition(stated, shelved.composition) } : {};
}

/** What something was made of, as lines of a recipe. */
export interface Composed {
  lines: RecipeLine[];
  bought: Record<string, string>;
  complete: boolean;
  boughtKind: BarFacts['boughtKind'];
}

/**
 * What the constituents are as lines of a recipe.
 *
 * @param wholeMg what they weigh together; where only their proportions count, left out
 */
export function compose(
  constituents: readonly Constituent[],
  shelf: Shelf,
  wholeMg: number = WHOLE_MG,
): Composed {
  const byKey = (key: string) => [...shelf.ingredients.values()].find((i) => i.key === key);
  const composed: Composed = { lines: [], bought: {}, complete: true, boughtKind: null };
  for (const { ingredientId, parcelId, material, share } of constituents) {
    const massMg = Math.round(share * wholeMg);
    if (massMg === 0) continue;
    const known = ingredientId ? shelf.ingredients.get(ingredientId) : undefined;
    if (known) {
      composed.lines.push({ ingredient: known, massMg });
      continue;
    }
    const bought = lotOf(shelf, parcelId);
    if (BOUGHT.has(material)) {
      const name = bought?.name ?? material;
      const sheet = readSheet(bought?.sheet);
      composed.bought[name] = sheet?.ingredients ?? '';
      if (share >= 0.5) composed.boughtKind = sheet?.kind ?? null;
      if (bought) composed.lines.push(...boughtLines(bought, sheet, massMg));
      if (!bought || sheet === null || sheet.cacao === null || sheet.fat === null) composed.complete = false;
      // Milk is in it, and its sheet does not say how much of what.
      if (sheet?.kind === 'milk' || sheet?.kind === 'white') composed.complete = false;
      continue;
    }
    const shelved =
      byKey(COUNTS_AS[material] ?? 'nibs') ?? [...shelf.ingredients.values()].find((i) => i.cacao === 'bean');
    if (!shelved) {
      composed.complete = false;
      continue;
    }
    composed.lines.push({ ingredient: { ...shelved, ...itsOwn(shelved, parcelId, shelf) }, massMg });
  }
  return composed;
}

/** What a parcel was made of, with where its cacao grew and what else came in with it. */
export interface MadeFacts extends Composed {
  graph: LineageGraph;
  origins: BarOrigin[];
  broughtAllergens: string[];
}

/** The ingredients, and the lots among some parcels of a graph. */
export async function loadShelf(
  db: Db,
  graph: LineageGraph,
  parcelIds: Iterable<string> = graph.parcels.keys(),
): Promise<Shelf> {
  const lotIds = [...parcelIds].flatMap((id) => graph.parcels.get(id)?.lotId ?? []);
  const lots = lotIds.length > 0 ? await db.select().from(lot).where(inArray(lot.id, lotIds)) : [];
  return {
    graph,
    lots: new Map(lots.map((l) => [l.id, l])),
    ingredients: new Map((await db.select().from(ingredient)).map((i) => [i.id, i])),
  };
}

/** A parcel as it was really made, by the weights behind it, through rework and mixed batches. */
export async function loadMade(db: Db, parcelId: string): Promise<MadeFacts> {
  const graph = await loadLineage(db, [parcelId], 'back');
  const shelf = await loadShelf(db, graph, reachBack(graph, [parcelId]).parcelIds);
  return {
    ...compose(madeOf(graph, parcelId), shelf),
    graph,
    origins: originsBehind(graph, [parcelId]).flatMap((o) => {
      const known = shelf.lots.get(o.lotId);
      // Chocolate bought as such is an ingredient; its origin is its maker's to name.
      if (known && BOUGHT.has(known.material) && !known.country) return [];
      return [{ name: o.name, country: known?.country ?? '', harvest: known?.harvest ?? '' }];
    }),
    broughtAllergens: allergensBehind(graph, [parcelId]),
  };
}
