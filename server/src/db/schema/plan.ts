import { boolean, doublePrecision, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { StoredOrder } from '@wunsch/contract';
import { instant } from '../columns.ts';

/** Whom bars are sold or promised to. */
export const customer = pgTable('customer', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  channel: text({ enum: ['shop', 'market', 'trade', 'private'] }).notNull(),
  note: text().notNull(),
  version: integer().notNull().default(1),
  /** Came with an old table that was taken back. */
  voided: boolean().notNull().default(false),
});

/** What is promised. */
export const customerOrder = pgTable('customer_order', {
  id: uuid().primaryKey(),
  facts: jsonb().$type<StoredOrder>().notNull(),
  state: text({ enum: ['open', 'delivered', 'withdrawn'] }).notNull(),
  createdAt: instant('created_at').notNull(),
  version: integer().notNull().default(1),
});

/** Bars kept in stock. */
export const stockAim = pgTable('stock_aim', {
  id: uuid().primaryKey(),
  recipeId: uuid('recipe_id').notNull(),
  lotId: uuid('lot_id'),
  floor: doublePrecision().notNull(),
  aim: doublePrecision().notNull(),
  version: integer().notNull().default(1),
});

/** When the workshop works, and who may work where; one row. */
export const workHours = pgTable('work_hours', {
  id: integer().primaryKey(),
  facts: jsonb().notNull(),
  version: integer().notNull().default(1),
});

/** Who or what is away. */
export const absence = pgTable('absence', {
  id: uuid().primaryKey(),
  who: uuid(),
  from: instant('from_at').notNull(),
  to: instant('to_at').notNull(),
  reason: text().notNull(),
  isOff: boolean('is_off').notNull().default(false),
  version: integer().notNull().default(1),
});

/** Plans that were accepted; the newest is in force. */
export const keptPlan = pgTable('kept_plan', {
  id: uuid().primaryKey(),
  facts: jsonb().notNull(),
  at: instant().notNull(),
  by: text().notNull(),
  voided: boolean().notNull().default(false),
});

/** Private addresses calendars subscribe to, by the hash of their token. */
export const calendarAddress = pgTable('calendar_address', {
  id: uuid().primaryKey(),
  personId: uuid('person_id').notNull(),
  tokenHash: text('token_hash').notNull(),
  createdAt: instant('created_at').notNull(),
  ended: boolean().notNull().default(false),
});
