import { BASICS } from '@wunsch/core/taste';
import { z } from 'zod';

/** What one person said of a batch: on a card of its page, or in an opened session. */
export const TastedCard = z.object({
  at: z.string(),
  by: z.string(),
  liking: z.number(),
  sour: z.number().nullable(),
  grit: z.number().nullable(),
  /** How basics sat, where a full card says: too little −1, right 0, too much 1. */
  fits: z.partialRecord(z.enum(BASICS), z.number()),
  /** Number of the session; null for a card of the batch’s own page. */
  session: z.number().nullable(),
});
/** See {@link TastedCard}. */
export type TastedCard = z.infer<typeof TastedCard>;

/** A card and where its session is found. */
export const Impression = TastedCard.extend({ sessionId: z.string().nullable() });
/** See {@link Impression}. */
export type Impression = z.infer<typeof Impression>;

/** A tasted batch: how it was made, and everything that was said of it, blind or not. */
export const TastedBatch = z.object({
  batchId: z.string(),
  code: z.string(),
  lotId: z.string(),
  lotName: z.string(),
  /** The bar it is a batch of: what its recipe is called, and its lot. */
  bar: z.object({ recipe: z.string(), lotId: z.string() }).nullable(),
  kind: z.string(),
  /** Day its bars were made. */
  madeAt: z.string().nullable(),
  /** The last day printed on its bars; null where none was. */
  bestBefore: z.string().nullable(),
  bars: z.number(),
  /** Minutes at the reference temperature its beans are worth; null where no roast was read. */
  roastDose: z.number().nullable(),
  /** Share of the sharp acid the roast left, 0–1, by its readings. */
  acidLeft: z.number().nullable(),
  /** Sugar of its recipe, % of the whole. */
  sugar: z.number().nullable(),
  /** Hours in grinder and conche. */
  hours: z.number().nullable(),
  /** Last grit reading, µm. */
  gritUm: z.number().nullable(),
  cards: z.array(TastedCard),
});
/** See {@link TastedBatch}. */
export type TastedBatch = z.infer<typeof TastedBatch>;
