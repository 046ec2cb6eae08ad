import { z } from 'zod';
import { Id, Instant, Money, Name, Text } from '../common.ts';

/** Most bars of one line of an order. */
const MOST_BARS = 100_000;

/** Whom bars are sold or promised to. */
export const CustomerPut = z.object({
  name: Name,
  channel: z.enum(['shop', 'market', 'trade', 'private']).default('private'),
  note: Text(400).default(''),
});
/** See {@link CustomerPut}. */
export type CustomerPut = z.input<typeof CustomerPut>;

/** A customer as stored. */
export const Customer = CustomerPut.extend({ id: Id, version: z.int() });
/** See {@link Customer}. */
export type Customer = z.infer<typeof Customer>;

/** Bars of a recipe that are promised. */
export const OrderLinePut = z.object({
  id: Id,
  recipeId: Id,
  /** Lot they are to be of; any where null. */
  lotId: Id.nullable().default(null),
  bars: z.int().positive().max(MOST_BARS),
  /** Price of a bar, minor units. */
  price: Money.nullable().default(null),
});

/** What is promised to somebody, or wanted for a class or as samples. */
export const OrderPut = z
  .object({
    kind: z.enum(['order', 'sample', 'class']).default('order'),
    customerId: Id.nullable().default(null),
    /** What it is for. */
    title: Text(120).default(''),
    /** By when. */
    due: Instant,
    /** How much a late day weighs against others’. */
    weight: z.number().min(0.1).max(10).default(1),
    lines: z.array(OrderLinePut).min(1).max(20),
    note: Text(400).default(''),
    /** Whether bars are made to spare until they are enough in 19 of 20 cases, even where that takes another batch. */
    spare: z.boolean().optional(),
    state: z.enum(['open', 'delivered', 'withdrawn']).default('open'),
  })
  .refine((o) => new Set(o.lines.map((l) => l.id)).size === o.lines.length, {
    path: ['lines'],
    message: 'each line needs an id of its own',
  });
/** See {@link OrderPut}. */
export type OrderPut = z.input<typeof OrderPut>;

/** An order as stored; tolerant of what an older release left out. */
export const StoredOrder = z.object({
  number: z.number().default(0),
  kind: z.enum(['order', 'sample', 'class']).default('order'),
  customerId: z.string().nullable().default(null),
  title: z.string().default(''),
  due: z.string(),
  weight: z.number().default(1),
  lines: z.array(
    z.object({
      id: z.string(),
      recipeId: z.string(),
      lotId: z.string().nullable().default(null),
      bars: z.number(),
      price: z.number().nullable().default(null),
    }),
  ),
  note: z.string().default(''),
  spare: z.boolean().optional(),
  state: z.enum(['open', 'delivered', 'withdrawn']).default('open'),
});
/** See {@link StoredOrder}. */
export type StoredOrder = z.infer<typeof StoredOrder>;

/** An order as it is shown. */
export const Order = StoredOrder.extend({ id: Id, version: z.int(), createdAt: z.string() });
/** See {@link Order}. */
export type Order = z.infer<typeof Order>;

/** A bar kept in stock: never below the floor, made up to the aim; both 0 where it is no longer kept. */
export const StockAimPut = z
  .object({
    recipeId: Id,
    lotId: Id.nullable().default(null),
    floor: z.int().nonnegative().max(MOST_BARS),
    aim: z.int().nonnegative().max(MOST_BARS),
  })
  .refine((a) => a.aim >= a.floor, { path: ['aim'], message: 'the aim is no less than the floor' });
/** See {@link StockAimPut}. */
export type StockAimPut = z.input<typeof StockAimPut>;

/** A stock aim as stored. */
export const StockAimRecord = z.object({
  id: Id,
  version: z.int(),
  recipeId: z.string(),
  lotId: z.string().nullable(),
  floor: z.number(),
  aim: z.number(),
});
