import { Place, StationName } from '../common.ts';
import { ObservationData } from '../observations.ts';
import { StepDetails, StepKindName } from '../steps.ts';
import { MATERIALS } from '@wunsch/core/ledger';
import { z } from 'zod';

/** A movement as it is read back; superseded and voided ones carry what became of them. */
export const MovementRecord = z.object({
  id: z.string(),
  stepId: z.string(),
  direction: z.enum(['in', 'out', 'loss']),
  massMg: z.number(),
  source: z.enum(['weighed', 'estimated', 'counted', 'derived']),
  uMg: z.number().nullable(),
  material: z.enum(MATERIALS).nullable(),
  parcelId: z.string().nullable(),
  ingredientId: z.string().nullable(),
  reason: z.string().nullable(),
  label: z.string().nullable(),
  count: z.number().nullable(),
  /** Minor units per kg when it was weighed in; null where it has no price of its own. */
  pricePerKg: z.number().nullable(),
  note: z.string(),
  /** Why it was taken all the same, where it was on hold; empty where it was not. */
  holdOverride: z.string(),
  at: z.string(),
  by: z.string(),
  /** The movement this one replaced, with the reason given. */
  replaces: z.string().nullable(),
  correctionReason: z.string(),
  /** False once it has been replaced or voided. */
  inForce: z.boolean(),
});
/** See {@link MovementRecord}. */
export type MovementRecord = z.infer<typeof MovementRecord>;

/** An observation as it is read back. */
export const ObservationRecord = z.object({
  id: z.string(),
  batchId: z.string().nullable(),
  stepId: z.string().nullable(),
  lotId: z.string().nullable(),
  at: z.string(),
  by: z.string(),
  data: ObservationData,
});
/** See {@link ObservationRecord}. */
export type ObservationRecord = z.infer<typeof ObservationRecord>;

/** A step with everything that hangs on it. */
export const StepRecord = z.object({
  id: z.string(),
  batchId: z.string().nullable(),
  station: StationName,
  kind: StepKindName,
  status: z.enum(['open', 'closed']),
  startedAt: z.string(),
  endedAt: z.string().nullable(),
  machineId: z.string().nullable(),
  handsOnMinutes: z.number().nullable(),
  by: z.string(),
  /** Initials of who was at it, where somebody has said; else it was whoever entered it. */
  hands: z.array(z.string()).nullable().optional(),
  details: StepDetails,
  version: z.number(),
});
/** See {@link StepRecord}. */
export type StepRecord = z.infer<typeof StepRecord>;

/** A parcel with what is left of it. */
export const ParcelRecord = z.object({
  id: z.string(),
  material: z.enum(MATERIALS),
  label: z.string(),
  lotId: z.string().nullable(),
  batchId: z.string().nullable(),
  batchCode: z.string().nullable(),
  lotCode: z.string().nullable(),
  stepId: z.string().nullable(),
  remainingMg: z.number(),
  /** Pieces left, where it is counted. */
  count: z.number().nullable(),
  place: z.string(),
  onHold: z.boolean(),
  /** When it was made; the day alone of what came on a day. */
  madeAt: z.string(),
});
/** See {@link ParcelRecord}. */
export type ParcelRecord = z.infer<typeof ParcelRecord>;

/** A thinned series of temperatures: seconds from `startedAt`. */
export const SeriesRecord = z.object({
  stepId: z.string(),
  place: Place,
  probe: z.string(),
  startedAt: z.string(),
  points: z.array(z.tuple([z.number(), z.number()])),
  /** Readings stored, before thinning. */
  count: z.number(),
});
/** See {@link SeriesRecord}. */
export type SeriesRecord = z.infer<typeof SeriesRecord>;
