import { z } from 'zod';
import { MATERIALS } from '@wunsch/core/ledger';
import { ObservationData } from './observations.ts';
import { MOULD_DETAILS, WRAP_DETAILS } from './stations/mould.ts';
import { Day, Id, Instant, MassMg, Text } from './common.ts';

const count = z.int().positive().max(10_000_000);

/** What of a closing is the same whatever comes out. */
const closing = {
  /** Name of what is not weighed (`hold-up`, `trim`, `unexplained` …); null where nothing may remain. */
  remainder: Text(60).min(1).nullable().default(null),
  remainderId: Id,
  handsOnMinutes: z.number().min(0).max(100_000).nullable().default(null),
  endedAt: Instant.optional(),
};

/**
 * A step ends with all that comes of it: drawn off, beans out, the charge weighed. What is noted with it is part of the act. One act, one entry, one
 * undo. The target is the step.
 */
export const StepFinish = z.object({
  made: z
    .array(
      z.object({
        material: z.enum(MATERIALS),
        /** All that is left in it where null. */
        massMg: MassMg.nullable().default(null),
        count: count.nullable().default(null),
        place: Text(80).default(''),
        movementId: Id,
        parcelId: Id,
      }),
    )
    .max(5)
    .default([]),
  /** Losses that were weighed, each under its name. */
  lost: z
    .array(z.object({ massMg: MassMg, reason: Text(60).min(1), movementId: Id }))
    .max(5)
    .default([]),
  /** What was seen as it ended, and timers it sets for what follows. */
  notes: z
    .array(z.object({ id: Id, data: ObservationData, at: Instant.optional() }))
    .max(5)
    .default([]),
  ...closing,
});
/** See {@link StepFinish}. */
export type StepFinish = z.input<typeof StepFinish>;

/**
 * Tempering ends: what goes to the moulds is weighed (or is all there is), what is drained back is weighed too, and the bowl's
 * hold-up is named. One act, one entry, one undo. The target is the step.
 */
export const TemperOut = z.object({
  /** All that is left in the bowl where null. */
  massMg: MassMg.nullable().default(null),
  movementId: Id,
  parcelId: Id,
  /** Where it is poured at once: a moulding that is opened with all of it in. */
  pour: z.object({ stepId: Id, movementId: Id }).nullable().default(null),
  /** What is drained back to be melted again. */
  rework: z.object({ massMg: MassMg, movementId: Id, parcelId: Id }).nullable().default(null),
  ...closing,
});
/** See {@link TemperOut}. */
export type TemperOut = z.input<typeof TemperOut>;

/**
 * Moulding ends: bars and blocks are counted, what is left over is weighed, the hold-up named, and the label's facts kept. One
 * act, one entry, one undo. The target is the step.
 */
export const MouldDone = z.object({
  made: z
    .array(
      z.object({
        material: z.enum(['bars', 'blocks', 'shells'] satisfies (typeof MATERIALS)[number][]),
        count,
        massMg: MassMg,
        source: z.enum(['weighed', 'estimated', 'counted']).default('counted'),
        place: Text(80).default(''),
        movementId: Id,
        parcelId: Id,
      }),
    )
    .max(12)
    .default([]),
  rework: z.object({ massMg: MassMg, movementId: Id, parcelId: Id }).nullable().default(null),
  /** What stays in bowl, machine and on tools, estimated. */
  holdUp: z.object({ massMg: MassMg, movementId: Id }).nullable().default(null),
  details: z
    .object({
      fillMg: MassMg.optional(),
      cavities: z.int().positive().max(1000).optional(),
      labelName: Text(120).optional(),
      madeOn: Day.optional(),
      bestBefore: Day.optional(),
      barCode: Text(40).optional(),
      mouldId: Id.optional(),
      inclusionPercent: z.number().min(0).max(90).optional(),
      waterActivity: z.number().min(0).max(1).optional(),
      setPlace: MOULD_DETAILS.setPlace.optional(),
    })
    .default({}),
  ...closing,
});
/** See {@link MouldDone}. */
export type MouldDone = z.input<typeof MouldDone>;

/**
 * Bars are wrapped: so many of a parcel, with so many pieces of packaging, into boxes and loose; broken ones go to rework. One act, one
 * entry, one undo. The target is the closed step that says so.
 */
export const BarsWrapped = z.object({
  parcelId: Id,
  takenId: Id,
  /** Wrapping, foils, boxes: pieces used, from which delivery. */
  packaging: z
    .array(z.object({ parcelId: Id, count, takenId: Id, lossId: Id }))
    .max(12)
    .default([]),
  /** Boxes and what stays loose: parcels of bars, each with a name. */
  made: z
    .array(
      z.object({
        count,
        label: Text(60).default(''),
        place: Text(80).default(''),
        movementId: Id,
        parcelId: Id,
      }),
    )
    .min(1)
    .max(200),
  /** Bars that did not pass the last look, kept for rework. */
  broken: z.object({ count, movementId: Id, parcelId: Id }).nullable().default(null),
  details: z.object(WRAP_DETAILS).partial().default({}),
  handsOnMinutes: z.number().min(0).max(100_000).nullable().default(null),
  at: Instant.optional(),
});
/** See {@link BarsWrapped}. */
export type BarsWrapped = z.input<typeof BarsWrapped>;
