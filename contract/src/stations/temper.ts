import { z } from 'zod';
import { Id, MassMg, Name, Text } from '../common.ts';
import { CHOCOLATE_TYPES, STIRRED, TEMPER_METHODS, type Stirring } from '@wunsch/core/temper';

/** What a tempering keeps beside its weights. */
export const TEMPER_DETAILS = {
  method: z.enum(TEMPER_METHODS),
  chocolateType: z.enum(CHOCOLATE_TYPES),
};

/** What is noted at the bowl. */
export const TEMPER_OBSERVATIONS = [
  z.object({
    kind: z.literal('setTest'),
    minutes: z.number().min(0).max(120),
    gloss: z.enum(['even', 'patchy', 'dull']),
    streaks: z.boolean(),
  }),
  /** How hard the bowl is stirred from here on. */
  z.object({ kind: z.literal('stirring'), level: z.enum(Object.keys(STIRRED) as [Stirring, ...Stirring[]]) }),
  /** A small sample cooled in a cold block: seconds of its clock and °C, in order of time. */
  z.object({
    kind: z.literal('coolingCurve'),
    points: z
      .array(z.tuple([z.number().min(0).max(7200), z.number().min(-30).max(80)]))
      .min(20)
      .max(600),
  }),
] as const;

/** A poured bowl looked back on: what it reached, °C, and whether its bars were good; null where nobody has looked. */
export const PouredBowl = z.object({
  stepId: z.string(),
  batchCode: z.string(),
  recipeId: z.string().nullable(),
  startedAt: z.string(),
  machineId: z.string().nullable(),
  chocolateType: z.enum(CHOCOLATE_TYPES),
  method: z.enum(TEMPER_METHODS),
  /** Null where the method has no cool step. */
  coolC: z.number().nullable(),
  workC: z.number(),
  good: z.boolean().nullable(),
});
/** See {@link PouredBowl}. */
export type PouredBowl = z.infer<typeof PouredBowl>;

/** How long a bowl runs on after it is lifted off water or ice, s, as its own logs tell, and from how many; null until three have told. */
export const BowlRunOn = z.object({ seconds: z.number(), bowls: z.int() }).nullable();
/** See {@link BowlRunOn}. */
export type BowlRunOn = z.infer<typeof BowlRunOn>;

/**
 * Making stable-butter seed: so much cocoa butter is melted and held warm until all of its crystals are stable ones. It is a parcel of its own from
 * then on, and rings when it should be a cream. The target is the step that says so.
 */
export const ButterSeedMake = z.object({
  /** The butter: a delivery of it, or some that was pressed here. */
  parcelId: Id,
  massMg: MassMg,
  /** How long it is held, h. */
  hours: z.number().min(1).max(72),
  /** What the new parcel is called, and what rings. */
  label: Name,
  ring: Name,
  place: Text(80).default(''),
  takenId: Id,
  madeId: Id,
  seedId: Id,
  timerId: Id,
});
/** See {@link ButterSeedMake}. */
export type ButterSeedMake = z.input<typeof ButterSeedMake>;
