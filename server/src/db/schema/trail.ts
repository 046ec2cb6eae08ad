import { bigint, boolean, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { instant } from '../columns.ts';

/** Every accepted entry in order: the trail of who did what, and the mark up to which the journal is applied. */
export const trail = pgTable(
  'trail',
  {
    seq: bigint({ mode: 'number' }).primaryKey(),
    kind: text().notNull(),
    target: text().notNull(),
    batchId: uuid('batch_id'),
    personId: uuid('person_id'),
    by: text().notNull(),
    at: instant().notNull(),
    /** The request as accepted; null for long series of readings, which are kept in their own table. */
    body: jsonb(),
    undoneBy: bigint('undone_by', { mode: 'number' }),
    undoable: boolean().notNull().default(false),
  },
  (t) => [
    index('trail_target').on(t.target, t.kind),
    index('trail_batch').on(t.batchId, t.seq),
    index('trail_person').on(t.personId, t.seq),
  ],
);
