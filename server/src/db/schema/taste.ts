import { bigint, boolean, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { Tasting } from '@wunsch/contract';
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
