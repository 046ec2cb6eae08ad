import { bigint, boolean, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { OpenedCard, StoredSession, Tasting } from '@wunsch/contract';
import { instant } from '../columns.ts';

/** One person's tasting of one batch. */
export const tasting = pgTable(
  'tasting',
  {
    id: uuid().primaryKey(),
    batchId: uuid('batch_id').notNull(),
    personId: uuid('person_id'),
    by: text().notNull(),
    at: instant().notNull(),
    card: jsonb().$type<Tasting['card']>().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('tasting_batch').on(t.batchId)],
);

/** Sessions of a panel. */
export const tastingSession = pgTable('tasting_session', {
  id: uuid().primaryKey(),
  facts: jsonb().$type<StoredSession>().notNull(),
  createdAt: instant('created_at').notNull(),
  version: integer().notNull().default(1),
});

/** Cards of a session: each is one person's word on one glass; who goes back adds another. */
export const sessionCard = pgTable(
  'session_card',
  {
    id: uuid().primaryKey(),
    sessionId: uuid('session_id').notNull(),
    seatId: uuid('seat_id').notNull(),
    round: integer().notNull(),
    place: integer().notNull(),
    card: jsonb().$type<OpenedCard['card']>().notNull(),
    fromPaper: boolean('from_paper').notNull(),
    by: text().notNull(),
    at: instant().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('session_card_session').on(t.sessionId)],
);

/** The workshop’s words for notes; one row. */
export const noteList = pgTable('note_list', {
  id: integer().primaryKey(),
  facts: jsonb().notNull(),
  version: integer().notNull().default(1),
});
