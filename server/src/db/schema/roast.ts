import { bigint, customType, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** Raw bytes. */
const bytes = customType<{ data: Uint8Array; driverData: Uint8Array }>({
  dataType: () => 'bytea',
  toDriver: (v) => Buffer.from(v.buffer, v.byteOffset, v.byteLength),
  fromDriver: (v) => new Uint8Array(v),
});

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
    startedAt: instant('started_at').notNull(),
    count: integer().notNull(),
    ms: bytes().notNull(),
    celsius: bytes().notNull(),
    source: text().notNull(),
    by: text().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index('readings_step').on(t.stepId, t.place)],
);
