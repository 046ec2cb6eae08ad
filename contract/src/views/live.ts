import { Place } from '../common.ts';
import { Topic } from '../topics.ts';
import { z } from 'zod';

/** One thing that changed, sent to every open page. */
export const ChangeEvent = z.object({
  seq: z.number(),
  kind: z.string(),
  target: z.string(),
  batchId: z.string().nullable(),
  by: z.string().nullable(),
  /** What it touched: whoever shows one of these reads it again. */
  touches: z.array(Topic),
});
/** See {@link ChangeEvent}. */
export type ChangeEvent = z.infer<typeof ChangeEvent>;

/** Readings that have just come in, sent to every open page as an event named `readings`. */
export const LiveReadings = z.object({
  stepId: z.string(),
  place: Place,
  probe: z.string(),
  /** Epoch ms and °C, parallel. */
  at: z.array(z.number()),
  celsius: z.array(z.number()),
});
/** See {@link LiveReadings}. */
export type LiveReadings = z.infer<typeof LiveReadings>;

/** What a scale shows at this moment, sent as an event named `weight`; it becomes an entry only when someone takes it. */
export const LiveWeight = z.object({
  machineId: z.string(),
  name: z.string(),
  massMg: z.number(),
  stable: z.boolean(),
  at: z.string(),
});
/** See {@link LiveWeight}. */
export type LiveWeight = z.infer<typeof LiveWeight>;
