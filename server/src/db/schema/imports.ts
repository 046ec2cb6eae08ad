import { bigint, boolean, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** One thing an old table brought into the books, as taking it back needs to know it. */
export interface Brought {
  what: 'lot' | 'batch' | 'customer' | 'delivery' | 'tasting';
  id: string;
  /** The step that brought it, where undoing goes by that. */
  stepId?: string;
  /** Of a batch: it was still being made, so that work done here since is not taken back with its table. */
  goesOn?: true;
}

/** Old tables that were taken over. */
export const importRun = pgTable('import_run', {
  id: uuid().primaryKey(),
  of: text({ enum: ['lots', 'batches', 'sales', 'tastings'] }).notNull(),
  file: text().notNull(),
  rows: integer().notNull(),
  /** What it brought, in order. */
  brought: jsonb().$type<Brought[]>().notNull(),
  at: instant().notNull(),
  by: text().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
  voided: boolean().notNull().default(false),
});
