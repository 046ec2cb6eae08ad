import {
  bigint,
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** Where a parcel has been: every time it was moved whole. */
export const parcelMove = pgTable(
  'parcel_move',
  {
    id: uuid().primaryKey(),
    /** The entry that moved it. */
    moveId: uuid('move_id').notNull(),
    parcelId: uuid('parcel_id').notNull(),
    fromPlace: text('from_place').notNull(),
    toPlace: text('to_place').notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('parcel_move_parcel').on(t.parcelId), index('parcel_move_move').on(t.moveId)],
);

/** Setting aside and letting go, so that either can be taken back. */
export const parcelHold = pgTable(
  'parcel_hold',
  {
    id: uuid().primaryKey(),
    holdId: uuid('hold_id').notNull(),
    parcelId: uuid('parcel_id').notNull(),
    wasOnHold: boolean('was_on_hold').notNull(),
    wasReason: text('was_reason').notNull(),
    at: instant().notNull(),
    by: text().notNull(),
  },
  (t) => [index('parcel_hold_hold').on(t.holdId)],
);

/** Deliveries to customers; their lines are closed steps of the ledger that name them. */
export const delivery = pgTable(
  'delivery',
  {
    id: uuid().primaryKey(),
    number: integer().notNull(),
    customerId: uuid('customer_id').notNull(),
    orderId: uuid('order_id'),
    note: text().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('delivery_order').on(t.orderId), index('delivery_customer').on(t.customerId, t.at)],
);

/** Lines of deliveries: each a closed step that took from one parcel. */
export const deliveryLine = pgTable(
  'delivery_line',
  {
    stepId: uuid('step_id').primaryKey(),
    deliveryId: uuid('delivery_id').notNull(),
    parcelId: uuid('parcel_id').notNull(),
    /** Minor units for a piece, or for a kg of what is not counted. */
    price: doublePrecision(),
  },
  (t) => [index('delivery_line_delivery').on(t.deliveryId), index('delivery_line_parcel').on(t.parcelId)],
);

/** Stock as it was taken, with what agreed too. */
export const stockCount = pgTable('stock_count', {
  id: uuid().primaryKey(),
  place: text().notNull(),
  lines: jsonb().notNull(),
  note: text().notNull(),
  at: instant().notNull(),
  by: text().notNull(),
  voided: boolean().notNull().default(false),
});

/** Recalls, for practice or in earnest, as they stood when they were kept. */
export const recall = pgTable('recall', {
  id: uuid().primaryKey(),
  number: integer().notNull(),
  facts: jsonb().notNull(),
  at: instant().notNull(),
  by: text().notNull(),
  voided: boolean().notNull().default(false),
});

/** From when on things are to be had again, and how long they take to come. */
export const reorderPoint = pgTable(
  'reorder_point',
  {
    kind: text({ enum: ['ingredient', 'packaging', 'bars'] }).notNull(),
    key: text().notNull(),
    atLeast: bigint('at_least', { mode: 'number' }),
    deliveryDays: doublePrecision('delivery_days'),
    at: instant().notNull(),
    by: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.key] })],
);

/** Ways of looking at tables that were given a name. */
export const tableLook = pgTable('table_look', {
  id: uuid().primaryKey(),
  table: text().notNull(),
  name: text().notNull(),
  query: text().notNull(),
  at: instant().notNull(),
  by: text().notNull(),
  voided: boolean().notNull().default(false),
});
