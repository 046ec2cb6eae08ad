import { z } from 'zod';
import { MATERIALS } from '@wunsch/core/ledger';
import { Id, Instant, MassMg, Money, Text } from '../common.ts';
import { Customer } from '../plan/orders.ts';
import { MOST, Pieces } from './limits.ts';

/** Where bars go that leave without an order, beside what is sold over the counter. */
export const LEAVE_FOR = ['sold', 'gift', 'sample', 'broken', 'waste'] as const;

/** Delivering bars, nibs or anything else to a customer; the target is the delivery. One line a parcel. */
export const DeliveryMake = z.object({
  customerId: Id,
  /** The order it serves, whole or in part. */
  orderId: Id.nullable().default(null),
  lines: z
    .array(
      z.object({
        parcelId: Id,
        massMg: MassMg.nullable().default(null),
        count: Pieces.nullable().default(null),
        /** Minor units for a piece, or for a kg of what is not counted. */
        price: Money.nullable().default(null),
        stepId: Id,
        takenId: Id,
        lossId: Id,
      }),
    )
    .min(1)
    .max(MOST),
  note: Text(400).default(''),
  at: Instant.optional(),
});
/** See {@link DeliveryMake}. */
export type DeliveryMake = z.input<typeof DeliveryMake>;

/** What comes back of a delivery: so much of one of its lines, as a parcel of its own. */
export const DeliveryReturn = z.object({
  deliveryId: Id,
  lines: z
    .array(
      z.object({
        /** The delivery’s line. */
        stepId: Id,
        massMg: MassMg.nullable().default(null),
        count: Pieces.nullable().default(null),
        parcelId: Id,
        madeId: Id,
        /** Id of the line that says what of it stays delivered. */
        lossId: Id,
      }),
    )
    .min(1)
    .max(MOST),
  place: Text(80).default(''),
  reason: Text(400).default(''),
  /** It is not sold again until somebody has looked at it. */
  onHold: z.boolean().default(true),
});
/** See {@link DeliveryReturn}. */
export type DeliveryReturn = z.input<typeof DeliveryReturn>;

/** A delivery as it is shown. */
export const Delivery = z.object({
  id: Id,
  number: z.int(),
  customerId: z.string(),
  customer: z.string(),
  orderId: z.string().nullable(),
  orderTitle: z.string(),
  note: z.string(),
  at: z.string(),
  by: z.string(),
  lines: z.array(
    z.object({
      stepId: z.string(),
      parcelId: z.string(),
      material: z.enum(MATERIALS),
      label: z.string(),
      batchId: z.string().nullable(),
      batchCode: z.string().nullable(),
      barCode: z.string().nullable(),
      recipeName: z.string().nullable(),
      lotName: z.string().nullable(),
      /** Of what was never in a batch. */
      lotId: z.string().nullable().optional(),
      lotCode: z.string().nullable().optional(),
      bestBefore: z.string().nullable(),
      /** What has stayed with the customer. */
      massMg: z.number(),
      count: z.number().nullable(),
      /** What came back of it. */
      returnedMg: z.number(),
      returnedCount: z.number(),
      price: z.number().nullable(),
    }),
  ),
});
/** See {@link Delivery}. */
export type Delivery = z.infer<typeof Delivery>;

/** Whom bars go to, and what is still promised to them. */
export const CustomerBook = z.object({
  customers: z.array(Customer),
  orders: z.array(
    z.object({
      id: Id,
      number: z.number(),
      title: z.string(),
      customerId: z.string().nullable(),
      due: z.string(),
      lines: z.array(
        z.object({
          /** The version that is made now of the recipe that was ordered. */
          recipeId: z.string(),
          recipeName: z.string(),
          lotId: z.string().nullable(),
          /** Bars still to be delivered. */
          bars: z.number(),
          price: z.number().nullable(),
        }),
      ),
    }),
  ),
});
/** See {@link CustomerBook}. */
export type CustomerBook = z.infer<typeof CustomerBook>;
