import { boolean, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** What practices came to; nothing else of them is kept. */
export const practised = pgTable(
  'practised',
  {
    id: text().primaryKey(),
    personId: uuid('person_id').notNull(),
    lesson: text().notNull(),
    level: integer().notNull(),
    points: integer().notNull(),
    at: instant().notNull(),
  },
  (t) => [index('practised_person').on(t.personId)],
);

/** Who has been signed off at which station, and by whom. */
export const signOff = pgTable('sign_off', {
  id: uuid().primaryKey(),
  personId: uuid('person_id').notNull(),
  station: text().notNull(),
  signedBy: uuid('signed_by'),
  at: instant().notNull(),
  by: text().notNull(),
  voided: boolean().notNull().default(false),
});

/** Who has read the caution of a station. */
export const cautionRead = pgTable('caution_read', {
  id: uuid().primaryKey(),
  personId: uuid('person_id').notNull(),
  station: text().notNull(),
  at: instant().notNull(),
});
