import {
  bigint,
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { MATERIALS, STATIONS, STEP_KINDS, type WorkKind } from '@wunsch/core/ledger';
import type { StepDetails } from '@wunsch/contract';
import { instant, massMg } from '../columns.ts';

/** A batch: material of one main lot on its way to bars. */
export const batch = pgTable(
  'batch',
  {
    id: uuid().primaryKey(),
    code: text().notNull(),
    lotId: uuid('lot_id').notNull(),
    recipeId: uuid('recipe_id'),
    plannedMg: massMg('planned_mg'),
    barMg: massMg('bar_mg'),
    /** Work it passes through; null while nobody has changed the usual one. */
    route: jsonb().$type<WorkKind[]>(),
    state: text({ enum: ['open', 'finished', 'void', 'abandoned'] })
      .notNull()
      .default('open'),
    stateReason: text('state_reason').notNull().default(''),
    startedAt: instant('started_at').notNull(),
    by: text().notNull(),
    version: integer().notNull().default(1),
  },
  (t) => [
    index('batch_state').on(t.state, t.startedAt),
    index('batch_lot').on(t.lotId, t.startedAt),
    index('batch_started').on(t.startedAt),
    index('batch_code').on(t.code),
  ],
);

/** A weighed quantity of one material. `remaining_mg` follows the movements in the same transaction and may never fall below zero. */
export const parcel = pgTable(
  'parcel',
  {
    id: uuid().primaryKey(),
    material: text({ enum: MATERIALS }).notNull(),
    label: text().notNull().default(''),
    lotId: uuid('lot_id'),
    batchId: uuid('batch_id'),
    stepId: uuid('step_id').notNull(),
    remainingMg: massMg('remaining_mg').notNull(),
    /** Pieces left, where it is counted; follows the movements as the mass does. */
    count: integer(),
    place: text().notNull().default(''),
    /** Set aside: it is neither used nor sold until somebody lets it go. */
    onHold: boolean('on_hold').notNull().default(false),
    holdReason: text('hold_reason').notNull().default(''),
    madeAt: instant('made_at').notNull(),
  },
  (t) => [
    index('parcel_batch').on(t.batchId),
    index('parcel_lot').on(t.lotId),
    index('parcel_step').on(t.stepId),
    index('parcel_in_stock')
      .on(t.material)
      .where(sql`${t.remainingMg} > 0`),
    check('parcel_not_below_zero', sql`${t.remainingMg} >= 0`),
    check('parcel_count_not_below_zero', sql`${t.count} >= 0`),
  ],
);

/** A step at a station. */
export const step = pgTable(
  'step',
  {
    id: uuid().primaryKey(),
    batchId: uuid('batch_id'),
    station: text({ enum: STATIONS }).notNull(),
    kind: text({ enum: STEP_KINDS }).notNull(),
    status: text({ enum: ['open', 'closed'] })
      .notNull()
      .default('open'),
    voided: boolean().notNull().default(false),
    /** The entry that took it out of the books, so that taking that entry back brings back just this. */
    voidedBy: bigint('voided_by', { mode: 'number' }),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
    machineId: uuid('machine_id'),
    handsOnMinutes: doublePrecision('hands_on_minutes'),
    details: jsonb().$type<StepDetails>().notNull().default({}),
    by: text().notNull(),
    /** Initials of who was at it, where somebody has said; else it was whoever entered it. */
    hands: text().array(),
    version: integer().notNull().default(1),
  },
  (t) => [
    index('step_batch').on(t.batchId),
    index('step_station').on(t.station, t.status, t.endedAt),
    index('step_machine').on(t.machineId, t.status),
  ],
);

/** A line of the ledger. Never changed but for being marked as replaced or voided. */
export const movement = pgTable(
  'movement',
  {
    id: uuid().primaryKey(),
    stepId: uuid('step_id').notNull(),
    batchId: uuid('batch_id'),
    direction: text({ enum: ['in', 'out', 'loss'] }).notNull(),
    massMg: massMg('mass_mg').notNull(),
    source: text({ enum: ['weighed', 'estimated', 'counted', 'derived'] }).notNull(),
    uMg: massMg('u_mg'),
    material: text({ enum: MATERIALS }),
    parcelId: uuid('parcel_id'),
    ingredientId: uuid('ingredient_id'),
    label: text(),
    reason: text(),
    count: integer(),
    /** Minor units per kg when it was weighed in, so that old costs never change with today's price. */
    pricePerKg: doublePrecision('price_per_kg'),
    /** The line it was split from, where one weighing drew on several deliveries. */
    splitOf: uuid('split_of'),
    note: text().notNull().default(''),
    /** Why it was taken all the same, where it was on hold. */
    holdOverride: text('hold_override').notNull().default(''),
    at: instant().notNull(),
    by: text().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    replaces: uuid(),
    correctionReason: text('correction_reason').notNull().default(''),
    replacedBy: uuid('replaced_by'),
    voided: boolean().notNull().default(false),
    /** The entry that took it out of the books, so that taking that entry back brings back just this. */
    voidedBy: bigint('voided_by', { mode: 'number' }),
  },
  (t) => [
    index('movement_step').on(t.stepId),
    index('movement_batch').on(t.batchId),
    index('movement_parcel').on(t.parcelId),
    index('movement_off_shelf')
      .on(t.ingredientId)
      .where(sql`${t.parcelId} is null`),
  ],
);

/** What was seen, felt or measured beside weights. */
export const observation = pgTable(
  'observation',
  {
    id: uuid().primaryKey(),
    batchId: uuid('batch_id'),
    stepId: uuid('step_id'),
    lotId: uuid('lot_id'),
    kind: text().notNull(),
    data: jsonb().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    replaces: uuid(),
    replacedBy: uuid('replaced_by'),
    voided: boolean().notNull().default(false),
    /** The entry that took it out of the books, so that taking that entry back brings back just this. */
    voidedBy: bigint('voided_by', { mode: 'number' }),
  },
  (t) => [
    index('observation_batch').on(t.batchId),
    index('observation_step').on(t.stepId),
    index('observation_lot').on(t.lotId),
    index('observation_kind').on(t.kind, t.at),
  ],
);
