import { boolean, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** Faults that were found, and complaints. */
export const faultCase = pgTable(
  'fault_case',
  {
    id: uuid().primaryKey(),
    number: integer().notNull(),
    origin: text({ enum: ['maker', 'customer', 'public'] }).notNull(),
    batchId: uuid('batch_id'),
    facts: jsonb().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    version: integer().notNull().default(1),
    /** What it was and what is done about it; null while it is open. */
    closing: jsonb(),
    closedAt: instant('closed_at'),
    closedBy: text('closed_by'),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('fault_case_batch').on(t.batchId)],
);

/** What a station is reminded of at the next batches it fits. */
export const reminder = pgTable('reminder', {
  id: uuid().primaryKey(),
  station: text().notNull(),
  text: text().notNull(),
  lotId: uuid('lot_id'),
  recipeId: uuid('recipe_id'),
  caseId: uuid('case_id'),
  at: instant().notNull(),
  by: text().notNull(),
  doneAt: instant('done_at'),
  doneBy: text('done_by'),
  voided: boolean().notNull().default(false),
});

/** What the workshop thinks of causes instead of what is written: the last of a cause that was not taken back counts. */
export const causeEstimate = pgTable('cause_estimate', {
  id: uuid().primaryKey(),
  seq: integer().notNull(),
  cause: text().notNull(),
  /** Null where it is as written again. */
  estimate: jsonb(),
  at: instant().notNull(),
  by: text().notNull(),
  voided: boolean().notNull().default(false),
});

/** Recipes and batches whose bars have, or have not, a page for anyone. */
export const publicPage = pgTable('public_page', {
  /** The recipe’s or the batch’s id. */
  id: uuid().primaryKey(),
  facts: jsonb().notNull(),
  at: instant().notNull(),
  by: text().notNull(),
});
