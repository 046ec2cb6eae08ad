import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';

/** Kinds of forecast that are looked back on. */
export const FORETOLD = ['yield', 'grit', 'sourness', 'drying', 'roast'] as const;

/** Forecasts of one kind, looked back on, oldest first; each as it would have been made from what was known before. */
export const ForecastBook = z.array(
  z.object({
    /**
     * Share of the mass that stays, at a station; grit of a grind at its last reading, µm; sourness of a conche at its last tasting, 0–10;
     * moisture of drying beans at their last weighing, % wet basis; a roast’s beans ten minutes after they were foretold, °C.
     */
    kind: z.enum(FORETOLD),
    station: z.enum(STATIONS),
    forecasts: z.array(
      z.object({
        /** Of what was foretold: a batch’s or a lot’s code, and what tells it from others. */
        id: z.string(),
        code: z.string(),
        at: z.string(),
        /** In the unit of its kind. */
        mean: z.number(),
        sd: z.number(),
        actual: z.number(),
      }),
    ),
  }),
);
/** See {@link ForecastBook}. */
export type ForecastBook = z.infer<typeof ForecastBook>;

/** Warnings that are looked back on. */
export const WARNED = ['bowl-window', 'drying-mould'] as const;

/** How warnings have done here, each as a page that followed the work would have given it. */
export const WarningBook = z.array(
  z.object({
    /** A bowl about to leave its window; beans about to stand two days above 20 % of water. */
    kind: z.enum(WARNED),
    station: z.enum(STATIONS),
    /** How often what is warned of happened, how often of these it was said beforehand, and how long before in the middle, s. */
    happened: z.int(),
    inTime: z.int(),
    leadSeconds: z.number().nullable(),
    /** How often it did not happen, and how often of these it was warned of for nothing. */
    quiet: z.int(),
    false: z.int(),
  }),
);
/** See {@link WarningBook}. */
export type WarningBook = z.infer<typeof WarningBook>;
