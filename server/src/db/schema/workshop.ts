import { boolean, doublePrecision, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { Workshop } from '@wunsch/contract';
import { GRINDING_TOOLS } from '@wunsch/core/grind';
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
  price: doublePrecision(),
  resale: doublePrecision(),
  lifeKg: doublePrecision('life_kg'),
  watts: doublePrecision(),
  loud: boolean().notNull().default(false),
  serviceHours: doublePrecision('service_hours'),
  tool: text({ enum: GRINDING_TOOLS }),
  places: integer(),
  version: integer().notNull().default(1),
});

/** Cleaning, service and rebuilding of machines. */
export const machineEvent = pgTable(
  'machine_event',
  {
    id: uuid().primaryKey(),
    machineId: uuid('machine_id').notNull(),
    kind: text({ enum: ['cleaned', 'serviced', 'rebuilt'] }).notNull(),
    note: text().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('machine_event_machine').on(t.machineId, t.at)],
);
