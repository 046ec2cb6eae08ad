import { and, asc, eq, inArray, isNull, or, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { readDetails, readObservation } from '@wunsch/contract';
import type {
  BatchBrief,
  MovementRecord,
  ObservationRecord,
  ParcelRecord,
  StepRecord,
  Tasting,
} from '@wunsch/contract';
import {
  allergensBehind,
  originsBehind,
  routeOf,
  type LineageGraph,
  type Material,
  type Movement,
  type WorkKind,
} from '@wunsch/core/ledger';
import type { Ingredient } from '@wunsch/core/recipe';
import type { Db } from '../db/database.ts';
import { bowlSteps } from './bowl.ts';
import { loadLineage } from './lineage.ts';
import { allergensOf, readCard, readSettings, readSheet } from './stored.ts';
import { lotLeft } from './lotShelf.ts';
import {
  batch,
  ingredient,
  lot,
  machine,
  movement,
  observation,
  parcel,
  recipe,
  step,
  supply,
  tasting,
  workshop,
} from '../db/schema/index.ts';

/** What a movement brought along from the parcel or ingredient it names. */
export interface MovementSourceFacts {
  /** Lot the cacao came from, directly or through another batch. */
  originLotId: string | null;
  originName: string | null;
  ingredient: (Pick<Ingredient, 'id' | 'name' | 'allergens'> & { fat: number }) | null;
  /** Allergens a delivery, or a parcel of another batch, brings with it. */
  parcelAllergens: string[];
  /** Names of the lots whose cacao is in a parcel of another batch. */
  parcelOrigins: string[];
  madeByBatchId: string | null;
}

/** Everything of some batches that the pages are drawn from. */
export interface Bundle {
  steps: (StepRecord & { machineName: string | null })[];
  movements: (MovementRecord & { batchId: string | null; facts: MovementSourceFacts })[];
  parcels: Map<string, ParcelRecord>;
  /** What is behind what came from elsewhere, and behind the steps of a bowl; where somebody asked. */
  graph: LineageGraph | null;
}

const madeBy = alias(batch, 'made_by');

/**
 * Steps of batches, and their movements and parcels, in two queries: a step's plan would otherwise come once more with each of its lines.
 * Foreign parcels are followed back to their allergens and origins, and bowls to what is in them, by a third one, left out where nobody asks
 * or there are none.
 */
export async function loadBundle(
  db: Db,
  batchIds: readonly string[],
  { withLineage }: { withLineage: boolean },
): Promise<Bundle> {
  const bundle: Bundle = { steps: [], movements: [], parcels: new Map(), graph: null };
  if (batchIds.length === 0) return bundle;
  const these = and(inArray(step.batchId, [...batchIds]), eq(step.voided, false));
  for (const row of await stepsWhere(db, these)) {
    const { voided: _, details, ...facts } = row.step;
    bundle.steps.push({ ...facts, details: readDetails(details), machineName: row.machineName });
  }
  for (const row of await movementsWhere(db, these)) {
    if (row.parcel && row.movement.direction === 'out')
      bundle.parcels.set(row.parcel.id, parcelRecord(row.parcel, row.madeByCode));
    const { seq: _, replacedBy, voided, ...facts } = row.movement;
    bundle.movements.push({
      ...facts,
      inForce: !replacedBy && !voided,
      facts: {
        originLotId: row.origin?.id ?? null,
        originName: row.origin?.name ?? null,
        ingredient: row.ingredient,
        // Bought chocolate declares on its sheet what is in it.
        parcelAllergens:
          row.delivery?.allergens ?? (row.parcel?.lotId ? allergensOf(readSheet(row.origin?.sheet)) : []),
        parcelOrigins: [],
        madeByBatchId: row.parcel?.batchId ?? null,
      },
    });
  }
  if (withLineage) await followBack(db, bundle);
  return bundle;
}

const stepsWhere = (db: Db, where: SQL | undefined) =>
  db
    .select({ step, machineName: machine.name })
    .from(step)
    .leftJoin(machine, eq(machine.id, step.machineId))
    .where(where)
    .orderBy(asc(step.startedAt), asc(step.id));

/** Movements of steps with what they brought along, step by step in order of time. */
const movementsWhere = (db: Db, where: SQL | undefined) =>
  db
    .select({
      movement,
      parcel,
      ingredient: {
        id: ingredient.id,
        name: ingredient.name,
        allergens: ingredient.allergens,
        fat: sql<number>`((${ingredient.composition}->>'cocoaButter')::float8 + (${ingredient.composition}->>'otherFat')::float8 + (${ingredient.composition}->>'milkFat')::float8)`,
      },
      origin: {
        id: lot.id,
        name: lot.name,
        sheet: lot.sheet,
      },
      madeByCode: madeBy.code,
      delivery: { allergens: supply.allergens },
    })
    .from(step)
    .innerJoin(movement, eq(movement.stepId, step.id))
    .leftJoin(parcel, eq(parcel.id, movement.parcelId))
    .leftJoin(ingredient, eq(ingredient.id, movement.ingredientId))
    .leftJoin(supply, eq(supply.parcelId, movement.parcelId))
    .leftJoin(madeBy, eq(madeBy.id, parcel.batchId))
    .leftJoin(lot, eq(lot.id, sql`coalesce(${parcel.lotId}, ${madeBy.lotId})`))
    .where(where)
    .orderBy(asc(step.startedAt), asc(step.id), asc(movement.seq), asc(movement.id));

/** Follows what came from other batches back to its allergens and origins, and reads what is behind a bowl. */
async function followBack(db: Db, bundle: Bundle): Promise<void> {
  const batchOf = new Map(bundle.steps.map((s) => [s.id, s.batchId]));
  // Of another batch, or of no batch and no lot: a filling, butter from the press.
  const isForeign = ({ stepId, material, parcelId, facts }: Bundle['movements'][number]) =>
    facts.madeByBatchId === null
      ? parcelId !== null &&
        facts.originLotId === null &&
        material !== 'ingredient' &&
        material !== 'packaging'
      : facts.madeByBatchId !== batchOf.get(stepId);
  const foreign = bundle.movements.filter((m) => m.inForce && m.direction === 'in' && isForeign(m));
  const bowl = bowlSteps(bundle.steps);
  if (foreign.length === 0 && bowl.length === 0) return;
  const graph = await loadLineage(db, [...new Set(foreign.map((m) => m.parcelId!))], 'back', bowl);
  bundle.graph = graph;
  for (const { parcelId, facts } of foreign) {
    facts.parcelAllergens = allergensBehind(graph, [parcelId!]);
    facts.parcelOrigins = originsBehind(graph, [parcelId!]).map((o) => o.name);
  }
}

function parcelRecord(row: typeof parcel.$inferSelect, batchCode: string | null): ParcelRecord {
  return { ...row, batchCode, lotCode: null, onHold: false };
}

/** The lines that count, as the core's ledger reads them. */
export function linesInForce(bundle: Bundle): Movement[] {
  return bundle.movements.filter((m) => m.inForce);
}

/** Columns of a batch in a list, with its lot and recipe. */
const briefColumns = {
  id: batch.id,
  code: batch.code,
  lotId: batch.lotId,
  lotCode: lot.code,
  lotName: lot.name,
  country: lot.country,
  harvest: lot.harvest,
  state: batch.state,
  stateReason: batch.stateReason,
  recipeId: batch.recipeId,
  recipeName: recipe.name,
  plannedMg: batch.plannedMg,
  barMg: batch.barMg,
  chosenRoute: batch.route,
  startedAt: batch.startedAt,
  by: batch.by,
  version: batch.version,
};

/** Batches with their lot, recipe and the workshop's settings. */
export async function loadBriefs(db: Db, where: SQL | undefined, limit: number) {
  const rows = await db
    .select({
      brief: briefColumns,
      lot,
      recipe,
      settings: workshop.settings,
      lotRemaining: lotLeft(lot.id, lot.parcelId),
      lastSeq: sql<string>`(select coalesce(max(seq), 0) from trail)`,
    })
    .from(batch)
    .innerJoin(lot, eq(lot.id, batch.lotId))
    .innerJoin(workshop, eq(workshop.id, 1))
    .leftJoin(recipe, eq(recipe.id, batch.recipeId))
    .where(where)
    .orderBy(sql`${batch.startedAt} desc, ${batch.id} desc`)
    .limit(limit);
  return rows.map(({ settings: stored, ...row }) => {
    const settings = readSettings(stored);
    const { chosenRoute, ...brief } = row.brief;
    return {
      ...row,
      settings,
      lastSeq: Number(row.lastSeq),
      brief: {
        ...brief,
        barMg: brief.barMg ?? settings.barMg,
        route: chosenRoute ?? usualRoute(row.lot.material, row.recipe, settings.route),
        routeChosen: chosenRoute !== null,
      } satisfies BatchBrief,
    };
  });
}

/** Batches as a list tells them, newest first, and nothing else about them. */
export async function listBriefs(db: Db, where: SQL | undefined, limit: number): Promise<BatchBrief[]> {
  const [kept] = await db.select({ settings: workshop.settings }).from(workshop).where(eq(workshop.id, 1));
  if (!kept) return [];
  const settings = readSettings(kept.settings);
  const rows = await db
    .select({
      ...briefColumns,
      material: lot.material,
      tempered: recipe.tempered,
      conched: recipe.conched,
    })
    .from(batch)
    .innerJoin(lot, eq(lot.id, batch.lotId))
    .leftJoin(recipe, eq(recipe.id, batch.recipeId))
    .where(where)
    .orderBy(sql`${batch.startedAt} desc, ${batch.id} desc`)
    .limit(limit);
  return rows.map(({ chosenRoute, material, tempered, conched, ...brief }) => ({
    ...brief,
    barMg: brief.barMg ?? settings.barMg,
    route: chosenRoute ?? usualRoute(material, { tempered, conched }, settings.route),
    routeChosen: chosenRoute !== null,
  }));
}

/** The route drawn up from arrival, recipe and the workshop's habit. */
function usualRoute(
  material: Material,
  recipe: { tempered: boolean | null; conched: boolean | null } | null,
  habit: { roasted: boolean; conched: boolean; tempered: boolean },
): WorkKind[] {
  return routeOf({
    material,
    roasted: habit.roasted,
    conched: recipe?.conched ?? habit.conched,
    tempered: recipe?.tempered ?? habit.tempered,
  });
}

/** Observations in force of some batches, and the workshop's own timers that nobody has quietened, in order of time. */
export async function loadForBench(db: Db, batchIds: readonly string[]): Promise<ObservationRecord[]> {
  const done = alias(observation, 'done');
  // Of ten years of timers all but a few have been; which ones is asked once, not for each.
  const quietened = db
    .select({ timerId: sql`${done.data}->>'timerId'` })
    .from(done)
    .where(
      and(
        eq(done.kind, 'timerDone'),
        sql`${done.data}->>'timerId' is not null`,
        isNull(done.replacedBy),
        eq(done.voided, false),
      ),
    );
  const waiting = and(
    isNull(observation.batchId),
    eq(observation.kind, 'timer'),
    sql`${observation.id}::text not in ${quietened}`,
  );
  const mine = batchIds.length > 0 ? inArray(observation.batchId, [...batchIds]) : sql`false`;
  return loadWhere(db, or(mine, waiting));
}

/** Observations of one kind in force over the whole workshop, oldest first. */
export async function loadKind(
  db: Db,
  kind: ObservationRecord['data']['kind'],
): Promise<ObservationRecord[]> {
  return loadWhere(db, eq(observation.kind, kind));
}

/** Observations in force that meet a condition, oldest first. */
export async function loadWhere(db: Db, where: SQL | undefined): Promise<ObservationRecord[]> {
  const rows = await db
    .select({
      id: observation.id,
      batchId: observation.batchId,
      stepId: observation.stepId,
      lotId: observation.lotId,
      at: observation.at,
      by: observation.by,
      data: observation.data,
    })
    .from(observation)
    .where(and(where, isNull(observation.replacedBy), eq(observation.voided, false)))
    .orderBy(asc(observation.at), asc(observation.seq));
  return rows.map(({ data, ...row }) => ({ ...row, data: readObservation(data) }));
}

/** Observations and tastings of one batch, in one query. */
export async function loadNotes(
  db: Db,
  batchId: string,
): Promise<{ observations: ObservationRecord[]; tastings: Tasting[] }> {
  const rows = await db
    .select({
      id: observation.id,
      stepId: observation.stepId,
      lotId: observation.lotId,
      personId: sql<string | null>`null::uuid`.as('person_id'),
      at: observation.at,
      by: observation.by,
      data: sql<unknown>`${observation.data}`.as('data'),
      what: sql<string>`'observation'`.as('what'),
    })
    .from(observation)
    .where(
      and(eq(observation.batchId, batchId), isNull(observation.replacedBy), eq(observation.voided, false)),
    )
    .unionAll(
      db
        .select({
          id: tasting.id,
          stepId: sql<string | null>`null::uuid`.as('step_id'),
          lotId: sql<string | null>`null::uuid`.as('lot_id'),
          personId: sql<string | null>`${tasting.personId}`.as('person_id'),
          at: tasting.at,
          by: tasting.by,
          data: sql<unknown>`${tasting.card}`.as('data'),
          what: sql<string>`'tasting'`.as('what'),
        })
        .from(tasting)
        .where(and(eq(tasting.batchId, batchId), eq(tasting.voided, false))),
    )
    .orderBy(sql`5`);
  const parsed = rows.map((r) => ({
    ...r,
    data: typeof r.data === 'string' ? (JSON.parse(r.data) as unknown) : r.data,
  }));
  return {
    observations: parsed
      .filter((r) => r.what === 'observation')
      .map((r) => ({
        id: r.id,
        batchId,
        stepId: r.stepId,
        lotId: r.lotId,
        at: r.at,
        by: r.by,
        data: readObservation(r.data),
      })),
    tastings: parsed
      .filter((r) => r.what === 'tasting')
      .flatMap((r) => {
        const card = readCard(r.data);
        return card ? [{ id: r.id, batchId, personId: r.personId, by: r.by, at: r.at, card }] : [];
      }),
  };
}
