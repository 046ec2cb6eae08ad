import { z } from 'zod';
import { Id, MassMg, Text } from '../common.ts';
import { MOST, Pieces } from './limits.ts';

/** Ids of the parcel and lines a part of a parcel becomes. */
const Part = z.object({ parcelId: Id, stepId: Id, takenId: Id, madeId: Id });

/** Moving parcels, or parts of them, to another place. A part becomes a parcel of its own. */
export const ParcelsMove = z.object({
  place: Text(80).min(1),
  parcels: z
    .array(
      z
        .object({
          parcelId: Id,
          massMg: MassMg.nullable().default(null),
          count: Pieces.nullable().default(null),
          /** Needed where a mass or a number is named. */
          part: Part.nullable().default(null),
        })
        .refine((p) => (p.massMg === null && p.count === null) || p.part !== null, {
          path: ['part'],
          message: 'a part of a parcel becomes one of its own: give it an id',
        }),
    )
    .min(1)
    .max(MOST),
  note: Text(400).default(''),
});
/** See {@link ParcelsMove}. */
export type ParcelsMove = z.input<typeof ParcelsMove>;

/** Putting parcels of the same thing together: all of each goes into one new parcel. */
export const ParcelsJoin = z.object({
  parcels: z
    .array(z.object({ parcelId: Id, takenId: Id }))
    .min(2)
    .max(MOST),
  madeId: Id,
  parcelId: Id,
  label: Text(60).default(''),
  place: Text(80).default(''),
});
/** See {@link ParcelsJoin}. */
export type ParcelsJoin = z.input<typeof ParcelsJoin>;

/** Pressing liquor: so much of it comes out as butter and as cake, which is ground to powder; the rest stays in the press. */
export const LiquorPress = z.object({
  parcelId: Id,
  /** All there is where left out. */
  massMg: MassMg.nullable().default(null),
  takenId: Id,
  butter: z.object({ movementId: Id, parcelId: Id, massMg: MassMg }),
  cake: z.object({ movementId: Id, parcelId: Id, massMg: MassMg }),
  lossId: Id,
  place: Text(80).default(''),
  /** Fat of the liquor, %, where somebody knows it. */
  liquorFat: z.number().gt(0).lt(100).nullable().default(null),
  /** The press, how long it ran until now, and how long hands were at it, where anybody says. */
  machineId: Id.nullable().default(null),
  ranMinutes: z.number().gt(0).max(100_000).nullable().default(null),
  handsOnMinutes: z.number().min(0).max(100_000).nullable().default(null),
});
/** See {@link LiquorPress}. */
export type LiquorPress = z.input<typeof LiquorPress>;

/** Setting parcels aside, or letting them go again. */
export const ParcelsHold = z.object({
  parcelIds: z.array(Id).min(1).max(2000),
  onHold: z.boolean(),
  reason: Text(200).min(1),
});
/** See {@link ParcelsHold}. */
export type ParcelsHold = z.input<typeof ParcelsHold>;
