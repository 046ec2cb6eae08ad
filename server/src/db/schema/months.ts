import { bigint, boolean, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { MonthFigures } from '@wunsch/contract';
import { instant } from '../columns.ts';

/** Months that were signed off, with what they came to then. */
export const monthSign = pgTable(
  'month_sign',
  {
    id: uuid().primaryKey(),
    month: text().notNull(),
    /** On whose calendar. */
    timeZone: text('time_zone').notNull().default('UTC'),
    figures: jsonb().$type<MonthFigures>().notNull(),
    note: text().notNull(),
    at: instant().notNull(),
    by: text().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    voided: boolean().notNull().default(false),
  },
  (t) => [index('month_sign_month').on(t.month)],
);
