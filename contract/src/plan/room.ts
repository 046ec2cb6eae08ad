import { z } from 'zod';
import { MATERIALS, STATIONS, WORK_KINDS } from '@wunsch/core/ledger';
import { PLAN_STAGES } from '@wunsch/core/plan';
import { SKILLS } from '@wunsch/core/skills';
import { Id, StationName } from '../common.ts';
import { KeptPlan } from './kept.ts';
import { Customer, Order, StockAimRecord } from './orders.ts';

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
      onHandMg: z.number().nullable(),
    }),
  ),
  lotId: nullableString,
  material: z.enum(MATERIALS),
});

/** Work of a batch that is under way. */
const PlanRunningRecord = z.object({
  kind: z.enum(WORK_KINDS),
  machineId: nullableString,
  startedAt: z.string(),
  endsAt: nullableString,
  /** Between which it is over with a chance of 80 %; missing where only the stage’s usual time says. */
  endsWithin: z.object({ low: z.string(), high: nullableString }).nullable().optional(),
  /** What is in it, mg; missing in a page kept from a release that did not say it. */
  massMg: z.number().optional(),
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
      stations: z.array(z.enum(SKILLS)).nullable(),
      week: z.array(z.array(z.tuple([z.number(), z.number()]))).nullable(),
    }),
  ),
  /** Who is signed off where, and who needs no sign-off. */
  signed: z.array(z.object({ personId: z.string(), station: z.enum(SKILLS) })),
  free: z.array(z.string()),
  /** Where the plan follows sign-offs, the stations at which there is nobody to follow. */
  openStations: z.array(z.enum(SKILLS)),
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
      spare: z.boolean().optional(),
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
      massAt: z.partialRecord(StationName, z.number()).optional(),
      stage: z.enum(PLAN_STAGES),
      running: PlanRunningRecord.nullable(),
      /** Other machines it is ground or conched in at the same time; missing in a page kept from a release that did not say it. */
      beside: z.array(PlanRunningRecord).optional(),
      bars: z.number(),
      /** Between how many come in four of five cases; missing in a page kept from a release that did not say it. */
      barsWithin: z.object({ low: z.number(), high: z.number() }).nullable().optional(),
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
