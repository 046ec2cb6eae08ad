import { z } from 'zod';
import { SET_UPS } from '@wunsch/core/grind';
import { PLAN_STAGES } from '@wunsch/core/plan';
import { Id, Instant, StationName, Text } from '../common.ts';

/** A step of a plan, as core has it. */
export const PlannedStepSchema = z.object({
  key: z.string().max(200),
  batch: z.string().max(160),
  code: z.string().max(60),
  batchId: z.string().nullable(),
  recipeId: z.string().nullable(),
  lotId: z.string().nullable(),
  stage: z.enum(PLAN_STAGES),
  station: StationName,
  part: z.int(),
  parts: z.int(),
  start: Instant,
  end: Instant,
  latest: Instant.nullable(),
  personId: z.string().nullable(),
  machineId: z.string().nullable(),
  begun: z.boolean(),
  massMg: z.number(),
  /** Bars that are knocked out or wrapped. */
  bars: z.int().min(0).optional(),
  /** What its machine wants before it; plans kept by older releases say nothing of that. */
  setUp: z
    .object({
      kind: z.enum(SET_UPS),
      minutes: z.number(),
      after: z.string().max(60).nullable(),
      /** Who does it when; null where nobody is free, left out in plans kept by older releases. */
      hands: z.object({ personId: z.string(), start: Instant, end: Instant }).nullable().optional(),
    })
    .nullable()
    .default(null),
});

/** What the maker has fixed by hand. */
export const PlanPinSchema = z.object({
  step: z.string().max(200),
  at: Instant,
  how: z.enum(['at', 'not before']),
});

/** Accepting a plan: from now on it is in force, on the board, in lists and calendars. */
export const PlanKeep = z.object({
  steps: z.array(PlannedStepSchema).max(5000),
  pins: z.array(PlanPinSchema).max(500).default([]),
  /** Orders with when they are ready and how surely. */
  orders: z
    .array(
      z.object({
        orderId: z.string().max(120),
        due: Instant,
        ready: Instant.nullable(),
        chance: z.number().min(0).max(1).nullable(),
        codes: z.array(z.string().max(60)).max(100),
        /** Bars of it that nothing could be made from; plans of older releases did not say. */
        unmade: z.int().min(0).default(0),
      }),
    )
    .max(1000)
    .default([]),
  /** What it changes, in words, as the maker was shown it. */
  note: Text(2000).default(''),
});
/** See {@link PlanKeep}. */
export type PlanKeep = z.input<typeof PlanKeep>;

/** The plan that is in force. */
export const KeptPlan = PlanKeep.extend({ id: Id, at: z.string(), by: z.string() });
/** See {@link KeptPlan}. */
export type KeptPlan = z.infer<typeof KeptPlan>;

/** A step of somebody’s day that is still to be done. */
export const DayStep = PlannedStepSchema.pick({
  key: true,
  code: true,
  batchId: true,
  stage: true,
  station: true,
  part: true,
  parts: true,
  start: true,
  end: true,
  latest: true,
  personId: true,
  begun: true,
  massMg: true,
  bars: true,
  setUp: true,
}).extend({
  machineId: z.string().nullable(),
  machine: z.string().nullable(),
  /** It is no step itself: the machine is made ready for this one, as `setUp` says. */
  isReady: z.boolean(),
});
/** See {@link DayStep}. */
export type DayStep = z.infer<typeof DayStep>;
