import { bigint, boolean, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { bytes, instant } from '../columns.ts';

/**
 * Temperatures as they came in: one row a delivery, so that 5 million readings are some thousand rows.
 * `ms` holds 32-bit offsets from `started_at`, `celsius` 32-bit floats, both little-endian.
 */
export const readings = pgTable(
  'readings',
  {
    id: uuid().primaryKey(),
    stepId: uuid('step_id').notNull(),
    place: text({ enum: ['bean', 'oven', 'bowl', 'grinder', 'room'] }).notNull(),
    probe: text().notNull().default(''),
    startedAt: instant('started_at').notNull(),
    count: integer().notNull(),
    ms: bytes().notNull(),
    celsius: bytes().notNull(),
    source: text().notNull(),
    /** Sent by a board; such deliveries are joined into one when their step is closed. */
    live: boolean().notNull().default(false),
    by: text().notNull(),
    /** Taken back: kept, but drawn nowhere. */
    voided: boolean().notNull().default(false),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index('readings_step').on(t.stepId, t.place)],
);
