import { StationName } from '../common.ts';
import { Lot } from '../stations/beans.ts';
import { BowlLine, Recipe } from '../stations/recipe.ts';
import { Tasting } from '../stations/taste.ts';
import { BatchBrief } from './bench.ts';
import { Impression } from './tasted.ts';
import { FlowSchema, NextSchema } from './flow.ts';
import { ConcheView, GrindView } from './grind.ts';
import { MovementRecord, ObservationRecord, ParcelRecord, SeriesRecord, StepRecord } from './records.ts';
import { z } from 'zod';

/** Everything about one batch. */
export const BatchView = z.object({
  batch: BatchBrief,
  lot: Lot,
  recipe: Recipe.nullable(),
  steps: z.array(StepRecord),
  movements: z.array(MovementRecord),
  observations: z.array(ObservationRecord),
  parcels: z.array(ParcelRecord),
  series: z.array(SeriesRecord),
  /** Cards of its own page. */
  tastings: z.array(Tasting),
  /** What was said of it in opened sessions. */
  impressions: z.array(Impression),
  flow: FlowSchema,
  next: NextSchema,
  grind: z.array(GrindView),
  conche: z.array(ConcheView),
  /** Lots whose cacao is in the bowl; more than one loses the single-origin claim. */
  origins: z.array(z.string()),
  /** Allergens of everything that went in, rework included. */
  allergens: z.array(z.string()),
  /**
   * What is really in the bowl: every weight that went in at the recipe and the grinder, followed back to what it is made of. Empty before
   * anything is weighed in; missing in a page kept from a release that did not say it.
   */
  bowl: z.array(BowlLine).optional(),
  /** Names of bought chocolate in it whose sheet does not say all that it is made of; the lines are without what is not known. */
  bowlUnknown: z.array(z.string()).optional(),
  /** The same for each grinder that is at work with a part of it: parts may be sweetened apart. */
  bowls: z
    .array(z.object({ stepId: z.string(), lines: z.array(BowlLine), unknown: z.array(z.string()) }))
    .optional(),
  disagreement: z
    .object({
      chiSquare: z.number(),
      degreesOfFreedom: z.number(),
      pValue: z.number(),
      disagrees: z.boolean(),
      likeliestStepId: z.string(),
      likeliestStation: StationName,
      suspects: z.array(
        z.object({
          movementId: z.string().nullable(),
          label: z.string(),
          massMg: z.number(),
          shortByMg: z.number(),
        }),
      ),
    })
    .nullable(),
  /** Yields of this station on this lot, oldest first, this batch's own marked. */
  yields: z.array(
    z.object({
      station: StationName,
      batchId: z.string(),
      batchCode: z.string(),
      value: z.number(),
    }),
  ),
  lastSeq: z.number(),
});
/** See {@link BatchView}. */
export type BatchView = z.infer<typeof BatchView>;

/** Who did what: one accepted entry. */
export const TrailItem = z.object({
  seq: z.number(),
  kind: z.string(),
  at: z.string(),
  by: z.string(),
  personId: z.string().nullable(),
  target: z.string(),
  batchId: z.string().nullable(),
  undone: z.boolean(),
  /** Whether the reader may take it back. */
  undoable: z.boolean(),
  summary: z.record(z.string(), z.unknown()),
});
/** See {@link TrailItem}. */
export type TrailItem = z.infer<typeof TrailItem>;
