import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';

/** Yields of a year, step by step of the line, and where its mass went. */
export const YieldBook = z.object({
  /** Years in which something was made, newest first. */
  years: z.array(z.int()),
  year: z.int(),
  /** What came to the line out of lots, wherever it entered, and of how many; what batches had made before is not in it. */
  came: z.object({ massMg: z.number(), lots: z.int() }),
  yields: z.array(
    z.object({
      batchId: z.string(),
      batchCode: z.string(),
      station: z.enum(STATIONS),
      lotId: z.string(),
      lotName: z.string(),
      /** The machine it was done on last, and who closed it. */
      machine: z.string().nullable(),
      by: z.string(),
      at: z.string(),
      inMg: z.number(),
      outMg: z.number(),
    }),
  ),
  /** By station: what came in and went on, what was added, what came off beside, and what was lost under which name. */
  flow: z.array(
    z.object({
      station: z.enum(STATIONS),
      inMg: z.number(),
      outMg: z.number(),
      besideMg: z.number(),
      losses: z.array(z.object({ reason: z.string(), massMg: z.number() })),
    }),
  ),
});
/** See {@link YieldBook}. */
export type YieldBook = z.infer<typeof YieldBook>;
