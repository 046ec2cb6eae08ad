import { z } from 'zod';
import { MATERIALS } from '@wunsch/core/ledger';
import { MOST_IN_POT, POT_LOSSES } from '@wunsch/core/mould';
import { Day, Id, MassMg, Name, Text } from '../common.ts';
import { MovementRecord, StepRecord } from '../views/records.ts';
import { MOULD_DETAILS } from './mould.ts';
import { BowlLine } from './recipe.ts';

/**
 * A filling made in a pot, in one act: what went in, off the shelf or out of parcels, and what it weighs in the end. It is a parcel of its own,
 * which goes into shells by weight. The target is its step.
 */
export const FillingMake = z.object({
  name: Name,
  lines: z
    .array(
      z
        .object({
          movementId: Id,
          parcelId: Id.nullable().default(null),
          ingredientId: Id.nullable().default(null),
          massMg: MassMg,
        })
        .refine((l) => (l.parcelId === null) !== (l.ingredientId === null), {
          path: ['parcelId'],
          message: 'say which parcel or which ingredient went in, one of the two',
        }),
    )
    .min(1)
    .max(MOST_IN_POT),
  made: z.object({ movementId: Id, parcelId: Id, massMg: MassMg }),
  /** What the rest is, where less came out than went in. */
  lossId: Id,
  lost: z.enum(POT_LOSSES).default('hold-up'),
  /** As a meter or a laboratory found it. */
  waterActivity: MOULD_DETAILS.waterActivity.nullable().default(null),
  bestBefore: Day.nullable().default(null),
  place: Text(80).default(''),
  handsOnMinutes: z.number().min(0).max(100_000).nullable().default(null),
});
/** See {@link FillingMake}. */
export type FillingMake = z.input<typeof FillingMake>;

/** A filling that was made; of one that was parted each part. Masses in mg. */
export const FillingRecord = z.object({
  /** Its step. */
  id: z.string(),
  parcelId: z.string(),
  name: z.string(),
  madeAt: z.string(),
  by: z.string(),
  /** What came out of the pot in all, and what is left of this parcel. */
  madeMg: z.number(),
  leftMg: z.number(),
  boiledOffMg: z.number(),
  waterActivity: z.number().nullable(),
  bestBefore: z.string().nullable(),
  onHold: z.boolean(),
  /** What went in, greatest first; deliveries of one ingredient together. */
  lines: z.array(
    z.object({
      parcelId: z.string().nullable(),
      ingredientId: z.string().nullable(),
      material: z.enum(MATERIALS),
      label: z.string(),
      /** Batch or lot of what came out of a parcel. */
      code: z.string().nullable(),
      massMg: z.number(),
    }),
  ),
});
/** See {@link FillingRecord}. */
export type FillingRecord = z.infer<typeof FillingRecord>;

/** A filling's step and all its lines, those that were corrected too. */
export const FillingLines = z.object({ step: StepRecord, movements: z.array(MovementRecord) });
/** See {@link FillingLines}. */
export type FillingLines = z.infer<typeof FillingLines>;

/** What a kilogram of a parcel is made of. */
export const ParcelComposition = z.object({
  parcelId: z.string(),
  /** What a kg of its material has cost, minor units, with what was lost on the way. */
  pricePerKg: z.number(),
  lines: z.array(BowlLine),
  /** Bought chocolate in it whose sheet does not say all that it is made of: the lines are without what is not known. */
  unknown: z.array(z.string()),
});
/** See {@link ParcelComposition}. */
export type ParcelComposition = z.infer<typeof ParcelComposition>;
