import { z } from 'zod';
import { COST_KINDS, type CostKind } from '@wunsch/core/cost';
import { StationName } from './common.ts';

/** Minor units by kind. */
export const CostsByKind = z.object(
  Object.fromEntries(COST_KINDS.map((k) => [k, z.number()])) as Record<CostKind, z.ZodNumber>,
);

/** What the bars of a batch cost, and what they have fetched. Money in minor units. */
export const BatchCost = z.object({
  batchId: z.string(),
  code: z.string(),
  lotCode: z.string(),
  recipeName: z.string().nullable(),
  startedAt: z.string(),
  barMg: z.number(),
  /** Bars made; their cost is spread over all of them, sold or not. */
  bars: z.number(),
  /** Of one bar. */
  bar: CostsByKind,
  /** Names of beans and ingredients that no price is known of: they count as nothing. */
  unpriced: z.array(z.string()),
  /** What went out of the batch’s bars, by channel; `counter` is what was sold without a name. */
  channels: z.array(
    z.object({
      channel: z.enum(['counter', 'shop', 'market', 'trade', 'private']),
      bars: z.number(),
      fetched: z.number(),
    }),
  ),
  /** Bars that fetched nothing: samples, gifts, broken, missing. */
  unpaid: z.number(),
  onHand: z.number(),
});
/** See {@link BatchCost}. */
export type BatchCost = z.infer<typeof BatchCost>;

/** What has been spent on a batch so far, and what its bars have cost. Money in minor units. */
export const BatchSpending = z.object({
  batchId: z.string(),
  /** On the whole of it, less what it gave to other batches; with what was lost on the way. */
  spent: CostsByKind,
  /** Minutes of work noted on it. */
  minutes: z.number(),
  /** Bars made so far, and how many of them are wrapped off the stock. */
  bars: z.number(),
  massMg: z.number(),
  wrapped: z.number(),
  /** Of one of them; null while there are none. */
  bar: CostsByKind.nullable(),
  /** Names of beans and ingredients that no price is known of: they count as nothing. */
  unpriced: z.array(z.string()),
  /**
   * What stands for wrapping and overheads still to come, and for what the recipe adds to a kg; null without a recipe. Missing in a page kept from
   * a release that did not say it.
   */
  usual: z.object({
    packagingPerBar: z.number(),
    overheadPerKg: z.number(),
    ingredientsPerKg: z.number().nullable().optional(),
  }),
});
/** See {@link BatchSpending}. */
export type BatchSpending = z.infer<typeof BatchSpending>;

/**
 * What hands and machines cost at each station for each kg of bars, over the last finished batches that went through it. Money in minor units, at
 * today’s rates. Machines are missing in a page kept from a release that did not say it.
 */
export const UsualWork = z.object({
  /** Finished batches it is from. */
  batches: z.number(),
  labourPerKg: z.partialRecord(StationName, z.number()),
  energyPerKg: z.partialRecord(StationName, z.number()).optional(),
  machinesPerKg: z.partialRecord(StationName, z.number()).optional(),
});
/** See {@link UsualWork}. */
export type UsualWork = z.infer<typeof UsualWork>;
