import { z } from 'zod';
import { MATERIALS } from '@wunsch/core/ledger';
import { TimeZone } from './common.ts';

/** A month, e.g. `2026-10`. */
export const Month = z.string().regex(/^(19|20|21)\d{2}-(0[1-9]|1[0-2])$/, 'must be a month like 2026-10');

/** What a month came to; money in minor units. */
export const MonthFigures = z.object({
  /** Beans and other lots that came in, and what they cost with freight. */
  receivedMg: z.number(),
  receivedValue: z.number(),
  /** What ingredients and packaging cost that came in; null in months signed before that was counted. */
  suppliesValue: z.number().nullable().default(null),
  /** Bars counted out of moulds, and bars that left: delivered, sold at the counter, given away. */
  barsMade: z.number(),
  barsOut: z.number(),
  /** What all that left fetched, by-products too. */
  fetched: z.number(),
  /** What guests paid who came to classes held in it; null in months signed before that was counted. */
  classIncome: z.number().nullable().default(null),
  /** Cost of the bars made in it, by today’s reckoning. */
  costOfBars: z.number(),
  /** Mass lost that nobody can account for. */
  unexplainedMg: z.number(),
});
/** See {@link MonthFigures}. */
export type MonthFigures = z.infer<typeof MonthFigures>;

/**
 * Signing a month off. Who signs sends the figures they have seen: they are part of the entry, so that no later release reckons them anew, and
 * ones that are not those of the books show at once as changed.
 */
export const MonthSign = z.object({
  month: Month,
  /** On whose calendar it was reckoned; entries of releases that knew none went by Greenwich. */
  timeZone: TimeZone.default('UTC'),
  figures: MonthFigures,
  note: z.string().trim().max(400).default(''),
});
/** See {@link MonthSign}. */
export type MonthSign = z.input<typeof MonthSign>;

/** The months of the books, newest first. */
export const MonthBook = z.array(
  z.object({
    month: Month,
    /** On whose calendar it is reckoned: of a signed month the one it was signed by, otherwise the workshop’s. */
    timeZone: z.string(),
    now: MonthFigures,
    signed: z
      .object({
        id: z.string(),
        at: z.string(),
        by: z.string(),
        note: z.string(),
        figures: MonthFigures,
      })
      .nullable(),
    /** Corrections of its weights made since it was signed. */
    corrections: z.array(
      z.object({
        at: z.string(),
        by: z.string(),
        batchCode: z.string().nullable(),
        /** What the line is called: an ingredient, a lot; empty where its material says enough. */
        label: z.string(),
        material: z.enum(MATERIALS).nullable(),
        /** The loss, where it is one. */
        loss: z.string().nullable(),
        fromMg: z.number(),
        toMg: z.number(),
        reason: z.string(),
      }),
    ),
  }),
);
/** See {@link MonthBook}. */
export type MonthBook = z.infer<typeof MonthBook>;
