import { z } from 'zod';
import { MATERIALS, STATIONS } from '@wunsch/core/ledger';
import { Id, Instant, MassMg, Money, Text } from './common.ts';
import { Customer } from './plan.ts';
import { ParcelRecord } from './views/records.ts';

/** Pieces of something counted. */
const Pieces = z.int().positive().max(10_000_000);

/** Most parcels one act may name. */
const MOST = 200;

/** Why a count came out different. */
export const COUNT_REASONS = [
  'miscounted',
  'broken',
  'eaten',
  'stolen',
  'dried out',
  'mislaid',
  'found',
  'other',
] as const;

/** Where bars go that leave without an order, beside what is sold over the counter. */
export const LEAVE_FOR = ['sold', 'gift', 'sample', 'broken', 'waste'] as const;

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

/** Taking stock of a place: what was found of each parcel, against what the books said when it was counted. */
export const StockCount = z.object({
  place: Text(80).default(''),
  lines: z
    .array(
      z
        .object({
          parcelId: Id,
          /** What the books said; where that has changed since, the count is refused. */
          expectedMg: z.int().nonnegative(),
          expectedCount: z.int().nonnegative().nullable().default(null),
          /** What was found: pieces of what is counted, mass of what is not. */
          foundMg: z.int().nonnegative().max(100_000_000_000).nullable().default(null),
          foundCount: z.int().nonnegative().max(10_000_000).nullable().default(null),
          reason: z.enum(COUNT_REASONS).nullable().default(null),
          stepId: Id,
          takenId: Id,
          lossId: Id,
        })
        .refine((l) => (l.foundMg === null) !== (l.foundCount === null), {
          path: ['foundCount'],
          message: 'say what was found: pieces of what is counted, or the weight of what is not',
        }),
    )
    .min(1)
    .max(500),
  note: Text(400).default(''),
});
/** See {@link StockCount}. */
export type StockCount = z.input<typeof StockCount>;

/** Setting parcels aside, or letting them go again. */
export const ParcelsHold = z.object({
  parcelIds: z.array(Id).min(1).max(2000),
  onHold: z.boolean(),
  reason: Text(200).min(1),
});
/** See {@link ParcelsHold}. */
export type ParcelsHold = z.input<typeof ParcelsHold>;

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

const Dated = z.object({
  /** Bars, and deliveries of ingredients with something left. */
  bars: z.int(),
  deliveries: z.int(),
  /** What they are, those that keep shortest first, each once; some of them where there are many. */
  names: z.array(z.string()),
});

/** What on hand is past its best before, and what will be within {@link KEEPS_SHORTLY_DAYS}; what is set aside is in neither. */
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

/** Tables a way of looking at can be kept of. */
export const KEPT_TABLES = ['stock', 'batches', 'trail', 'cases'] as const;

/** A way of looking at a table that was given a name: what is sought, how it is sorted and which part is shown. */
export const TableLook = z.object({
  table: z.enum(KEPT_TABLES),
  name: Text(60).min(1),
  /** As it stands behind the ? of the page's address. */
  query: Text(600),
});
/** See {@link TableLook}. */
export type TableLook = z.input<typeof TableLook>;

/** A {@link TableLook} as it is read. */
export const KeptLook = z.object({
  id: Id,
  table: z.string(),
  name: z.string(),
  query: z.string(),
  by: z.string(),
});
/** See {@link KeptLook}. */
export type KeptLook = z.infer<typeof KeptLook>;

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
