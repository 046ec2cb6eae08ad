import { z } from 'zod';
import { MATERIALS, STATIONS, WORK_KINDS } from '@wunsch/core/ledger';
import { SET_UPS } from '@wunsch/core/grind';
import { PLAN_STAGES } from '@wunsch/core/plan';
import { Id, Instant, Money, Name, StationName, Text, TimeZone } from './common.ts';

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

const MinuteOfDay = z.int().min(0).max(1440);

/** Hours of a week, Monday first: beginnings and ends in minutes of the day, in order. */
export const WeekHours = z
  .array(z.array(z.tuple([MinuteOfDay, MinuteOfDay])).max(6))
  .length(7)
  .refine(
    (week) => week.every((day) => day.every(([a, b], k) => b > a && (k === 0 || a >= day[k - 1]![1]))),
    'hours run forward and do not overlap',
  );

/** When the workshop works, and who may work where. */
export const WorkHoursPut = z.object({
  timeZone: TimeZone,
  week: WeekHours,
  /** Between which loud machines may run; always where null. */
  loudHours: z.tuple([MinuteOfDay, MinuteOfDay]).nullable().default(null),
  /** Whose public holidays are kept, e.g. `DE` and `BY`; none where null. */
  country: z
    .string()
    .regex(/^[A-Z]{2}$/, 'two capital letters, e.g. DE')
    .nullable()
    .default(null),
  region: z.string().max(10).nullable().default(null),
  /** Days chocolate rests before it is tempered, and what the rest shelves hold, kg; any amount where null. */
  restDays: z.number().min(0).max(365).default(1),
  restKg: z.number().min(0.1).max(100_000).nullable().default(null),
  /** Days from an order until what is bought is there. */
  deliveryDays: z.number().min(0).max(365).default(7),
  /** The same of beans, which often come by ship; as all else where null. */
  beanDeliveryDays: z.number().min(0).max(730).nullable().default(null),
  people: z
    .array(
      z.object({
        personId: Id,
        /** Their own hours; the workshop’s where null. */
        week: WeekHours.nullable().default(null),
        /** Stations they may work; all of them where null. */
        stations: z.array(StationName).nullable().default(null),
      }),
    )
    .max(200)
    .default([]),
});
/** See {@link WorkHoursPut}. */
export type WorkHoursPut = z.input<typeof WorkHoursPut>;

/** Somebody or something that is away. */
export const AbsencePut = z
  .object({
    /** Person or machine; the whole workshop where null. */
    who: Id.nullable().default(null),
    from: Instant,
    to: Instant,
    reason: Text(120).default(''),
    /** Called off. */
    isOff: z.boolean().default(false),
  })
  .refine((a) => Date.parse(a.to) > Date.parse(a.from), {
    path: ['to'],
    message: 'it ends after it begins',
  });
/** See {@link AbsencePut}. */
export type AbsencePut = z.input<typeof AbsencePut>;

/** A step of a plan, as core has it. */
export const PlannedStepSchema = z.object({
  key: z.string().max(200),
  batch: z.string().max(160),
  code: z.string().max(60),
  batchId: z.string().nullable(),
  recipeId: z.string().nullable(),
  lotId: z.string().nullable(),
  stage: z.enum(PLAN_STAGES),
  station: StationName,
  part: z.int(),
  parts: z.int(),
  start: Instant,
  end: Instant,
  latest: Instant.nullable(),
  personId: z.string().nullable(),
  machineId: z.string().nullable(),
  begun: z.boolean(),
  massMg: z.number(),
  /** What its machine wants before it; plans kept by older releases say nothing of that. */
  setUp: z
    .object({
      kind: z.enum(SET_UPS),
      minutes: z.number(),
      after: z.string().max(60).nullable(),
      /** Who does it when; null where nobody is free, left out in plans kept by older releases. */
      hands: z.object({ personId: z.string(), start: Instant, end: Instant }).nullable().optional(),
    })
    .nullable()
    .default(null),
});

/** What the maker has fixed by hand. */
export const PlanPinSchema = z.object({
  step: z.string().max(200),
  at: Instant,
  how: z.enum(['at', 'not before']),
});

/** Accepting a plan: from now on it is in force, on the board, in lists and calendars. */
export const PlanKeep = z.object({
  steps: z.array(PlannedStepSchema).max(5000),
  pins: z.array(PlanPinSchema).max(500).default([]),
  /** Orders with when they are ready and how surely. */
  orders: z
    .array(
      z.object({
        orderId: z.string().max(120),
        due: Instant,
        ready: Instant.nullable(),
        chance: z.number().min(0).max(1).nullable(),
        codes: z.array(z.string().max(60)).max(100),
        /** Bars of it that nothing could be made from; plans of older releases did not say. */
        unmade: z.int().min(0).default(0),
      }),
    )
    .max(1000)
    .default([]),
  /** What it changes, in words, as the maker was shown it. */
  note: Text(2000).default(''),
});
/** See {@link PlanKeep}. */
export type PlanKeep = z.input<typeof PlanKeep>;

/** The plan that is in force. */
export const KeptPlan = PlanKeep.extend({ id: Id, at: z.string(), by: z.string() });
/** See {@link KeptPlan}. */
export type KeptPlan = z.infer<typeof KeptPlan>;

/** A private address a calendar may subscribe to; the token itself is made by the browser and shown once. */
export const CalendarAddressPut = z.object({
  personId: Id,
  tokenHash: z.string().regex(/^[0-9a-f]{64}$/),
});
/** See {@link CalendarAddressPut}. */
export type CalendarAddressPut = z.input<typeof CalendarAddressPut>;

/** Revoking such an address. */
export const CalendarAddressEnd = z.object({ addressId: Id });

const nullableString = z.string().nullable();

/** A recipe as the plan needs it. */
const PlanRecipeRecord = z.object({
  id: z.string(),
  name: z.string(),
  barMg: z.number(),
  beansShare: z.number(),
  tempered: z.boolean(),
  conched: z.boolean(),
  allergens: z.array(z.string()),
  strong: z.array(z.string()),
  packaging: z.array(z.object({ name: z.string(), perBar: z.number(), onHand: z.number() })),
  lines: z.array(
    z.object({
      ingredientId: z.string(),
      name: z.string(),
      share: z.number(),
      isBean: z.boolean(),
      onHandMg: z.number(),
    }),
  ),
  lotId: nullableString,
  material: z.enum(MATERIALS),
});

/** Everything a plan is made from, and the one in force. */
export const PlanRoomView = z.object({
  now: z.string(),
  timeZone: z.string(),
  week: z.array(z.array(z.tuple([z.number(), z.number()]))),
  loudHours: z.tuple([z.number(), z.number()]).nullable(),
  holidays: z.array(z.string()),
  people: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      initials: z.string(),
      stations: z.array(z.enum(STATIONS)).nullable(),
      week: z.array(z.array(z.tuple([z.number(), z.number()]))).nullable(),
    }),
  ),
  /** Who is signed off where, and who needs no sign-off. */
  signed: z.array(z.object({ personId: z.string(), station: z.enum(STATIONS) })),
  free: z.array(z.string()),
  /** Where the plan follows sign-offs, the stations at which there is nobody to follow. */
  openStations: z.array(z.enum(STATIONS)),
  machines: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      station: z.enum(STATIONS),
      kind: z.string(),
      minMg: z.number().nullable(),
      maxMg: z.number().nullable(),
      loud: z.boolean(),
      places: z.number().nullable(),
      ranLast: z.object({ allergens: z.array(z.string()), strong: z.array(z.string()) }).nullable(),
      /** Is out of use, and holds what was begun on it. */
      retired: z.boolean(),
    }),
  ),
  moulds: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      barMg: z.number(),
      cavities: z.number(),
      count: z.number(),
    }),
  ),
  absences: z.array(
    z.object({
      id: z.string(),
      version: z.int(),
      who: nullableString,
      from: z.string(),
      to: z.string(),
      reason: z.string(),
    }),
  ),
  orders: z.array(
    z.object({
      id: z.string(),
      orderId: z.string(),
      customer: z.string(),
      due: z.string(),
      weight: z.number(),
      recipeId: z.string(),
      lotId: nullableString,
      bars: z.number(),
      kind: z.enum(['order', 'sample', 'class', 'stock']),
    }),
  ),
  aims: z.array(StockAimRecord),
  recipes: z.array(PlanRecipeRecord),
  lots: z.array(
    z.object({
      id: z.string(),
      code: z.string(),
      name: z.string(),
      onHandMg: z.number(),
      onHold: z.boolean(),
      material: z.enum(MATERIALS),
      yields: z.partialRecord(z.enum(STATIONS), z.number()),
      yieldSds: z.partialRecord(z.enum(STATIONS), z.object({ sd: z.number(), ofMean: z.number() })),
      nextNumber: z.number(),
    }),
  ),
  batches: z.array(
    z.object({
      id: z.string(),
      code: z.string(),
      lotId: z.string(),
      recipeId: nullableString,
      barMg: z.number(),
      route: z.array(z.enum(WORK_KINDS)),
      massMg: z.number(),
      stage: z.enum(PLAN_STAGES),
      running: z
        .object({
          kind: z.enum(WORK_KINDS),
          machineId: nullableString,
          startedAt: z.string(),
          endsAt: nullableString,
        })
        .nullable(),
      bars: z.number(),
      startedAt: z.string(),
      /** The version it is made by, where a newer one of its recipe is made now. */
      madeBy: PlanRecipeRecord.nullable(),
    }),
  ),
  stock: z.array(
    z.object({
      recipeId: nullableString,
      lotId: nullableString,
      bars: z.number(),
      /** Day, see {@link StockItem}. */
      bestBefore: nullableString,
    }),
  ),
  learned: z.array(
    z.object({
      stage: z.enum(PLAN_STAGES),
      machineId: nullableString,
      factor: z.number(),
      factor80: z.number(),
      batches: z.number(),
    }),
  ),
  restHours: z.number(),
  restDays: z.number(),
  restKg: z.number().nullable(),
  deliveryDays: z.number(),
  beanDeliveryDays: z.number().nullable(),
  /** Of what something else was said. */
  deliveries: z.array(z.object({ kind: z.string(), key: z.string(), days: z.number() })),
  customers: z.array(Customer),
  /** Classes still to come whose chocolate is to be made, as bars of its recipe; among the orders as well. */
  classes: z.array(
    z.object({ id: Id, title: z.string(), startsAt: z.string(), recipeId: Id, bars: z.int().positive() }),
  ),
  allOrders: z.array(Order),
  hours: z.object({
    country: nullableString,
    region: nullableString,
    version: z.int(),
  }),
  kept: KeptPlan.nullable(),
});
/** See {@link PlanRoomView}. */
export type PlanRoomView = z.infer<typeof PlanRoomView>;

/** A step of somebody’s day that is still to be done. */
export const DayStep = PlannedStepSchema.pick({
  key: true,
  code: true,
  batchId: true,
  stage: true,
  station: true,
  part: true,
  parts: true,
  start: true,
  end: true,
  latest: true,
  personId: true,
  begun: true,
  massMg: true,
  setUp: true,
}).extend({
  machineId: z.string().nullable(),
  machine: nullableString,
  /** It is no step itself: the machine is made ready for this one, as `setUp` says. */
  isReady: z.boolean(),
});
/** See {@link DayStep}. */
export type DayStep = z.infer<typeof DayStep>;

/** A calendar address of somebody, without its token. */
export const CalendarAddress = z.object({ id: Id, personId: Id, createdAt: z.string() });

/** A country or region whose holidays can be kept. */
export const HolidayPlace = z.object({ code: z.string(), name: z.string() });
