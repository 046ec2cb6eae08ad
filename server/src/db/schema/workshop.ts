import { boolean, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { Workshop } from '@wunsch/contract';
import { STATIONS } from '@wunsch/core/ledger';
import { instant, massMg } from '../columns.ts';

/** The one workshop of this database. */
export const workshop = pgTable('workshop', {
  id: integer().primaryKey(),
  settings: jsonb().$type<Omit<Workshop, 'version' | 'createdAt'>>().notNull(),
  version: integer().notNull().default(1),
  createdAt: instant('created_at').notNull(),
});

/** Machines with their usable charge; a device token lets a board post readings. */
export const machine = pgTable('machine', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  station: text({ enum: STATIONS }).notNull(),
  kind: text().notNull(),
  minMg: massMg('min_mg'),
  maxMg: massMg('max_mg'),
  uMg: massMg('u_mg'),
  active: boolean().notNull().default(true),
  tokenHash: text('token_hash'),
  version: integer().notNull().default(1),
});
