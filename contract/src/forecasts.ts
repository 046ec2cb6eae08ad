import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';

/** Forecasts of one kind, looked back on, oldest first; each as it would have been made from what was known before. */
export const ForecastBook = z.array(
  z.object({
    /** Share of the mass that stays, at a station; or the grit of a grind at its last reading. */
    kind: z.enum(['yield', 'grit']),
    station: z.enum(STATIONS),
    forecasts: z.array(
      z.object({
        batchId: z.string(),
        batchCode: z.string(),
        at: z.string(),
        /** A share of 1, or µm. */
        mean: z.number(),
        sd: z.number(),
        actual: z.number(),
      }),
    ),
  }),
);
/** See {@link ForecastBook}. */
export type ForecastBook = z.infer<typeof ForecastBook>;
