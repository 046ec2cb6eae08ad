import { date, doublePrecision, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant, massMg } from '../columns.ts';

/** Deliveries of ingredients and packaging: lots of their own, each with its price, allergens, best before and parcel. */
export const supply = pgTable(
  'supply',
  {
    id: uuid().primaryKey(),
    /** Null for packaging. */
    ingredientId: uuid('ingredient_id'),
    name: text().notNull(),
    supplier: text().notNull(),
    supplierLot: text('supplier_lot').notNull(),
    bestBefore: date('best_before'),
    allergens: jsonb().$type<string[]>(),
    place: text().notNull(),
    note: text().notNull(),
    pricePerKg: doublePrecision('price_per_kg').notNull(),
    receivedOn: date('received_on').notNull(),
    arrivedMg: massMg('arrived_mg').notNull(),
    arrivedCount: integer('arrived_count'),
    parcelId: uuid('parcel_id').notNull(),
    stepId: uuid('step_id').notNull(),
    createdAt: instant('created_at').notNull(),
    version: integer().notNull().default(1),
  },
  (t) => [index('supply_ingredient').on(t.ingredientId, t.receivedOn), index('supply_parcel').on(t.parcelId)],
);
