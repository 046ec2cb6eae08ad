import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';
import { CAUSES, CHANCE_BETWEEN, CLUES, PRIOR_BETWEEN, SIGNS } from '@wunsch/core/faults';

const Chance = z.number().min(CHANCE_BETWEEN.least).max(CHANCE_BETWEEN.most);

/** What the workshop thinks of a cause of faults instead of what is written. */
export const CauseEstimate = z.object({
  /** How common it is beside the others; what is written runs from 1 to 10. */
  prior: z.number().min(PRIOR_BETWEEN.least).max(PRIOR_BETWEEN.most),
  /** Chance that it shows so. */
  signs: z
    .partialRecord(z.enum(SIGNS), Chance)
    .refine((signs) => Object.keys(signs).length > 0, 'one sign at least by which it shows'),
  /** Chance that a clue is there. */
  clues: z.partialRecord(z.enum(CLUES), Chance),
});
/** See {@link CauseEstimate}. */
export type CauseEstimate = z.infer<typeof CauseEstimate>;

/** Saying what the workshop thinks of a cause; null takes it back to what is written. */
export const CauseEstimatePut = z.object({ cause: z.enum(CAUSES), estimate: CauseEstimate.nullable() });
/** See {@link CauseEstimatePut}. */
export type CauseEstimatePut = z.infer<typeof CauseEstimatePut>;

/** A figure of the causal table: as written (null where nothing is), as the workshop said (null where it did not), and as it now counts. */
const Estimated = z.object({
  written: z.number().nullable(),
  own: z.number().nullable(),
  now: z.number(),
});

/** The causal table as the workshop’s own estimates and closed cases have moved it, commonest cause first. */
export const FaultTableView = z.object({
  /** Closed cases it has learned from. */
  learnedFrom: z.int(),
  /** Share of faults that come from what is in no table, 0–1. */
  unknownShare: z.number(),
  causes: z.array(
    z.object({
      cause: z.enum(CAUSES),
      station: z.enum(STATIONS),
      /** Closed cases that came of it. */
      cases: z.int(),
      /** Share of faults that come of it before anything is known of one, 0–1; and as it is written. */
      share: z.number(),
      writtenShare: z.number(),
      prior: Estimated,
      signs: z.array(Estimated.extend({ name: z.enum(SIGNS) })),
      clues: z.array(Estimated.extend({ name: z.enum(CLUES) })),
      /** Who said otherwise than what is written, and when; null where nobody has. */
      by: z.string().nullable(),
      at: z.string().nullable(),
    }),
  ),
});
/** See {@link FaultTableView}. */
export type FaultTableView = z.infer<typeof FaultTableView>;
