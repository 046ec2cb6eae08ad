import {
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import type { LotSheet, Plots, Sample } from '@wunsch/contract';
import { MATERIALS } from '@wunsch/core/ledger';
import { bytes, instant, massMg } from '../columns.ts';

/** A lot as it was bought or harvested; its mass is in the ledger. */
export const lot = pgTable(
  'lot',
  {
    id: uuid().primaryKey(),
    code: text().notNull(),
    name: text().notNull(),
    material: text({ enum: MATERIALS }).notNull(),
    country: text().notNull(),
    region: text().notNull(),
    grower: text().notNull(),
    variety: text().notNull(),
    harvest: text().notNull(),
    notes: text().notNull(),
    pricePerKg: doublePrecision('price_per_kg').notNull(),
    freight: doublePrecision().notNull(),
    isFree: boolean('is_free').notNull().default(false),
    moisture: doublePrecision(),
    beansPer100g: doublePrecision('beans_per_100g'),
    nibFat: doublePrecision('nib_fat'),
    place: text().notNull(),
    onHold: boolean('on_hold').notNull().default(false),
    holdReason: text('hold_reason').notNull().default(''),
    certificates: text().notNull().default(''),
    growerNotes: text('grower_notes').notNull().default(''),
    ceilingC: doublePrecision('ceiling_c'),
    leadWeeks: doublePrecision('lead_weeks'),
    plots: jsonb().$type<Plots>(),
    /** What the maker of bought chocolate, butter or powder prints on its sheet. */
    sheet: jsonb().$type<LotSheet>(),
    /** The wet lot it was dried from. */
    fromLotId: uuid('from_lot_id'),
    bags: integer(),
    receivedOn: date('received_on').notNull(),
    arrivedMg: massMg('arrived_mg').notNull(),
    parcelId: uuid('parcel_id').notNull(),
    stepId: uuid('step_id').notNull(),
    voided: boolean().notNull().default(false),
    createdAt: instant('created_at').notNull(),
    version: integer().notNull().default(1),
  },
  (t) => [index('lot_received').on(t.receivedOn)],
);

/** Pods picked on a day in a plot, and the lot they went into. */
export const picking = pgTable(
  'picking',
  {
    id: uuid().primaryKey(),
    on: date('picked_on').notNull(),
    plot: text().notNull(),
    trees: integer(),
    pods: integer().notNull(),
    wetMg: massMg('wet_mg'),
    paid: doublePrecision().notNull(),
    from: text('bought_from').notNull(),
    note: text().notNull(),
    by: text().notNull(),
    lotId: uuid('lot_id'),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('picking_on').on(t.on)],
);

/** Samples of beans and bars, tasted before buying. */
export const sample = pgTable('sample', {
  id: uuid().primaryKey(),
  facts: jsonb().$type<Omit<Sample, 'id' | 'createdAt' | 'version'>>().notNull(),
  createdAt: instant('created_at').notNull(),
  version: integer().notNull().default(1),
});

/** Photographs and documents. */
export const attachment = pgTable(
  'attachment',
  {
    id: uuid().primaryKey(),
    lotId: uuid('lot_id'),
    batchId: uuid('batch_id'),
    stepId: uuid('step_id'),
    caseId: uuid('case_id'),
    name: text().notNull(),
    type: text().notNull(),
    size: integer().notNull(),
    content: bytes().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [
    index('attachment_lot').on(t.lotId),
    index('attachment_batch').on(t.batchId),
    index('attachment_case').on(t.caseId),
  ],
);
