import { z } from 'zod';
import { Day, Id, MassMg, Money, Name, Text } from './common.ts';

/** Facts of a delivery of an ingredient or of packaging that may be edited later. */
export const SupplyFacts = z.object({
  supplier: Text(120).default(''),
  /** The supplier's own lot number, as printed on the sack. */
  supplierLot: Text(80).default(''),
  bestBefore: Day.nullable().default(null),
  /** Allergens as declared on this delivery; the ingredient's own where null. */
  allergens: z.array(Text(40)).max(14).nullable().default(null),
  place: Text(80).default(''),
  note: Text(1000).default(''),
});
/** See {@link SupplyFacts}. */
export type SupplyFacts = z.input<typeof SupplyFacts>;

/** Receiving a delivery: it is a lot of its own, with its price, and its stock falls as it is weighed in. */
export const SupplyPut = SupplyFacts.extend({
  /** The ingredient it is; null for packaging. */
  ingredientId: Id.nullable().default(null),
  name: Name,
  massMg: MassMg,
  /** Pieces, for packaging. */
  count: z.int().positive().max(10_000_000).nullable().default(null),
  /** Minor units per kg as paid for this delivery. */
  pricePerKg: Money.default(0),
  receivedOn: Day,
  stepId: Id,
  movementId: Id,
  parcelId: Id,
}).superRefine((supply, context) => {
  if (supply.ingredientId === null && supply.count === null)
    context.addIssue({
      code: 'custom',
      path: ['count'],
      message: 'packaging is counted: say how many pieces came',
    });
});
/** See {@link SupplyPut}. */
export type SupplyPut = z.input<typeof SupplyPut>;

/** A delivery as stored, with what is left of it. */
export const Supply = z.object({
  id: Id,
  ingredientId: Id.nullable(),
  name: z.string(),
  supplier: z.string(),
  supplierLot: z.string(),
  bestBefore: z.string().nullable(),
  allergens: z.array(z.string()).nullable(),
  place: z.string(),
  note: z.string(),
  pricePerKg: z.number(),
  receivedOn: z.string(),
  arrivedMg: z.number(),
  remainingMg: z.number(),
  arrivedCount: z.number().nullable(),
  remainingCount: z.number().nullable(),
  parcelId: Id,
  version: z.int(),
});
/** See {@link Supply}. */
export type Supply = z.infer<typeof Supply>;
