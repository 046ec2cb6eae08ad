import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';
import { ParcelRecord } from '../views/records.ts';

/** Most parcels the book of what is on hand shows at once; the table to take away has them all. */
export const STOCK_SHOWN = 5000;

/** Something on hand, with what a shop asks of it. */
export const StockItem = ParcelRecord.extend({
  /** The version that is made now of the recipe it was made by, as in {@link CustomerBook}. */
  recipeId: z.string().nullable(),
  /** What the recipe was called when it was made. */
  recipeName: z.string().nullable(),
  lotName: z.string().nullable(),
  /** Lot of the batch it was made in. */
  batchLotId: z.string().nullable(),
  /** Names of the lots whose cacao is in it, where it is of no lot or batch itself: butter and powder from the press. */
  madeOf: z.array(z.string()),
  /** Best before, of bars as printed, of a delivery as declared. */
  bestBefore: z.string().nullable(),
  /** Code printed on bars and blocks; null of anything else. */
  barCode: z.string().nullable(),
  holdReason: z.string(),
});
/** See {@link StockItem}. */
export type StockItem = z.infer<typeof StockItem>;

/** Within so many days of its best before a thing on hand is pointed out. */
export const KEEPS_SHORTLY_DAYS = 45;

/** The same of a filling, which keeps for weeks at best. */
export const FILLING_SHORTLY_DAYS = 3;

const Dated = z.object({
  /** Bars, deliveries of ingredients with something left, and fillings. */
  bars: z.int(),
  deliveries: z.int(),
  fillings: z.int(),
  /** What they are, those that keep shortest first, each once; some of them where there are many. */
  names: z.array(z.string()),
});

/** What on hand is past its best before, and what will be within {@link KEEPS_SHORTLY_DAYS}, a filling within {@link FILLING_SHORTLY_DAYS}; what is set aside is in neither. */
export const DatedStock = z.object({ past: Dated, shortly: Dated });
/** See {@link DatedStock}. */
export type DatedStock = z.infer<typeof DatedStock>;

const Valued = z.object({
  /** What it has cost so far, with work, energy, machines and overheads. */
  value: z.number(),
  /** Of it: cacao, ingredients and wrapping, less what by-products fetched. */
  materials: z.number(),
  /** Whether something without a price is in it, which counts as nothing. */
  unpriced: z.boolean(),
});

/** What everything on hand and in the machines has cost. Money in minor units. */
export const StockValues = z.object({
  items: z.array(Valued.extend({ parcelId: z.string() })),
  /** What is in the machines, step by step, oldest first. */
  inside: z.array(
    Valued.extend({
      stepId: z.string(),
      station: z.enum(STATIONS),
      machine: z.string().nullable(),
      batchId: z.string(),
      batchCode: z.string(),
      massMg: z.number(),
      since: z.string(),
    }),
  ),
});
/** See {@link StockValues}. */
export type StockValues = z.infer<typeof StockValues>;

/** Whether the books come out even, over everything that ever was. */
export const StockProof = z.object({
  mass: z.object({
    /** Everything that came: lots and deliveries as they arrived, and what was weighed in off the shelf without one. */
    receivedMg: z.number(),
    offShelfMg: z.number(),
    /** More was there than the books said, by counting. */
    foundMg: z.number(),
    onHandMg: z.number(),
    inProcessMg: z.number(),
    /** Left the workshop: sold, delivered, given away. */
    leftMg: z.number(),
    /** Losses by name, largest first. */
    losses: z.array(z.object({ reason: z.string(), massMg: z.number() })),
    /** What is left over; 0 where the books come out even. */
    differenceMg: z.number(),
  }),
  bars: z.object({
    made: z.number(),
    found: z.number(),
    onHand: z.number(),
    left: z.number(),
    /** Missing, broken or eaten, by counting. */
    lost: z.number(),
    /** Broken at wrapping, or melted again. */
    melted: z.number(),
    difference: z.number(),
  }),
});
/** See {@link StockProof}. */
export type StockProof = z.infer<typeof StockProof>;
