import { bigint, boolean, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { Topic } from '@wunsch/contract';
import { instant } from '../columns.ts';

/** Every accepted entry in order: the trail of who did what, and the mark up to which the journal is applied. */
export const trail = pgTable(
  'trail',
  {
    seq: bigint({ mode: 'number' }).primaryKey(),
    kind: text().notNull(),
    /** Version of the body below. */
    version: integer().notNull().default(1),
    target: text().notNull(),
    batchId: uuid('batch_id'),
    personId: uuid('person_id'),
    by: text().notNull(),
    at: instant().notNull(),
    /** The request as accepted; null for long series of readings, which are kept in their own table. */
    body: jsonb(),
    /** Fingerprint of the body, by which a repeated entry is told from another one; null on entries of older releases. */
    bodyHash: text('body_hash'),
    /** What it touched. */
    touches: jsonb().$type<Topic[]>().notNull().default([]),
    undoneBy: bigint('undone_by', { mode: 'number' }),
    undoable: boolean().notNull().default(false),
  },
  (t) => [
    index('trail_target').on(t.target, t.kind),
    index('trail_batch').on(t.batchId, t.seq),
    index('trail_person').on(t.personId, t.seq),
  ],
);

/** Journalled entries that could not be applied. They stop nothing; the owner is shown them with the reason. */
export const setAside = pgTable('set_aside', {
  seq: bigint({ mode: 'number' }).primaryKey(),
  kind: text().notNull(),
  version: integer().notNull(),
  target: text().notNull(),
  by: text().notNull(),
  at: text().notNull(),
  /** The entry's body as JSON text, since it may hold what a JSON column cannot. */
  body: text().notNull(),
  reason: text().notNull(),
  /** When the owner has put it away. */
  seenAt: instant('seen_at'),
});
