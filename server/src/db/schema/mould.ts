import { boolean, doublePrecision, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { massMg } from '../columns.ts';

/** Kinds of moulds the workshop has. */
export const mouldForm = pgTable('mould_form', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  makes: text({ enum: ['bars', 'minis', 'blocks', 'pieces', 'tablets'] }).notNull(),
  cavities: integer().notNull(),
  fillMg: massMg('fill_mg').notNull(),
  count: integer().notNull(),
  places: doublePrecision().notNull(),
  active: boolean().notNull().default(true),
  version: integer().notNull().default(1),
});

/** Designs of labels the workshop keeps. */
export const labelDesign = pgTable('label_design', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  design: jsonb().notNull(),
  active: boolean().notNull().default(true),
  version: integer().notNull().default(1),
});
