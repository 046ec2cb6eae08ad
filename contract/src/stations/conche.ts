import { z } from 'zod';
import { AIR_WAYS } from '@wunsch/core/conche';
import { Id, Instant, MassMg, Text } from '../common.ts';

/** What a conche keeps beside its weights. */
export const CONCHE_DETAILS = {
  /** Sourness it is to come to, 0–10. */
  sourAim: z.number().min(0).max(10),
};

/** What is noted at the conche: how it is set, and how sour it tastes. */
export const CONCHE_OBSERVATIONS = [
  z.object({
    kind: z.literal('concheSetting'),
    celsius: z.number().min(20).max(110),
    air: z.enum(AIR_WAYS),
  }),
  z.object({ kind: z.literal('sourness'), score: z.number().min(0).max(10), note: Text(200).default('') }),
] as const;

/**
 * A conche begins with how it is set. Where it goes on in the grinder, pressure off, the grinding ends and all that is in it stays: nothing is
 * weighed in between. One act, one entry, one undo. The target is the conche’s step.
 */
export const ConcheBegin = z.object({
  batchId: Id,
  /** Machine it runs on; that of the grinding where it goes on there. */
  machineId: Id.nullable().default(null),
  celsius: z.number().min(20).max(110),
  air: z.enum(AIR_WAYS),
  settingId: Id,
  sourAim: CONCHE_DETAILS.sourAim.nullable().default(null),
  /** The grinding that goes on as this conche: its step, what comes out of that and goes into this. */
  from: z
    .object({ stepId: Id, movementId: Id, parcelId: Id, takenId: Id, remainderId: Id })
    .nullable()
    .default(null),
  /** The first weight into it, all of the parcel where no mass is named. */
  take: z
    .object({
      movementId: Id,
      parcelId: Id,
      massMg: MassMg.nullable().default(null),
      holdOverride: Text(200).default(''),
    })
    .optional(),
  at: Instant.optional(),
});
/** See {@link ConcheBegin}. */
export type ConcheBegin = z.input<typeof ConcheBegin>;
