import { boolean, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** People of the workshop. The password is kept as a salted scrypt hash. */
export const person = pgTable('person', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  initials: text().notNull(),
  role: text({ enum: ['owner', 'maker', 'taster', 'viewer'] }).notNull(),
  active: boolean().notNull().default(true),
  demo: boolean().notNull().default(false),
  passwordHash: text('password_hash'),
  isNamed: boolean('is_named').notNull().default(false),
  version: integer().notNull().default(1),
});

/** Open sign-ins: the hash of the cookie’s token. */
export const session = pgTable(
  'session',
  {
    tokenHash: text('token_hash').primaryKey(),
    personId: uuid('person_id').notNull(),
    createdAt: instant('created_at').notNull(),
    expiresAt: instant('expires_at').notNull(),
    /** What the person signed in with, e.g. "Firefox, Android". */
    device: text().notNull().default(''),
  },
  (t) => [index('session_person').on(t.personId)],
);
