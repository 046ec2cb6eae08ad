import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** Classes held for guests. */
export const classEvent = pgTable(
  'class_event',
  {
    id: uuid().primaryKey(),
    startsAt: instant('starts_at').notNull(),
    facts: jsonb().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    version: integer().notNull().default(1),
    /** What was noted when it had been; null until then. */
    heldAt: instant('held_at'),
    heldBy: text('held_by'),
    heldNote: text('held_note'),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('class_event_starts').on(t.startsAt)],
);

/** Guests of classes, with what they choose and how they like what they made. */
export const classGuest = pgTable(
  'class_guest',
  {
    id: uuid().primaryKey(),
    classId: uuid('class_id').notNull(),
    /** The guest’s own address. */
    code: text().notNull(),
    facts: jsonb().notNull(),
    came: boolean(),
    score: jsonb(),
    at: instant().notNull(),
    version: integer().notNull().default(1),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('class_guest_class').on(t.classId), uniqueIndex('class_guest_code').on(t.code)],
);
