import { z } from 'zod';
import { Text } from '../common.ts';

/** What is used up and bought or made again. */
export const USED_UP = ['ingredient', 'packaging', 'bars'] as const;

/** From when on something is to be ordered, or made, again: on hand at or below so much, mg or pieces; and how long it then takes to come. */
export const ReorderPoint = z.object({
  kind: z.enum(USED_UP),
  /** See {@link StockPace}. */
  key: Text(120).min(1),
  /** null where it is no longer watched. */
  atLeast: z.int().positive().max(1_000_000_000_000).nullable(),
  /** Days from an order until it is there; as long as the workshop says of all where null or left out. */
  deliveryDays: z.number().min(0).max(365).nullable().optional(),
});
/** See {@link ReorderPoint}. */
export type ReorderPoint = z.input<typeof ReorderPoint>;

/** How fast something is used, and when it runs out at that pace. */
export const StockPace = z.object({
  kind: z.enum(USED_UP),
  /** What it is named by when a reorder point is set: an ingredient's or a recipe's id, a wrapping's name. */
  key: z.string(),
  name: z.string(),
  /** mg of ingredients, pieces of wrapping and bars. */
  onHand: z.number(),
  used: z.number(),
  /** Days looked at. */
  days: z.number(),
  /** null where none was used. */
  daysLeft: z.number().nullable(),
  /** On hand at or below this it is to be ordered or made again, in the same unit; null where nobody has said. */
  reorderAt: z.number().nullable(),
  /** Days from an order until it is there; null where nobody has said of this. */
  deliveryDays: z.number().nullable(),
});
/** See {@link StockPace}. */
export type StockPace = z.infer<typeof StockPace>;
