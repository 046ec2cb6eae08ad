import { boolean, date, index, integer, pgTable, doublePrecision, text, uuid } from 'drizzle-orm/pg-core';
import { MATERIALS } from '@wunsch/core/ledger';
import { instant, massMg } from '../columns.ts';

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
    moisture: doublePrecision(),
    beansPer100g: doublePrecision('beans_per_100g'),
    nibFat: doublePrecision('nib_fat'),
    place: text().notNull(),
    onHold: boolean('on_hold').notNull().default(false),
    holdReason: text('hold_reason').notNull().default(''),
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
