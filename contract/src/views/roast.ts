import { SeriesRecord, StepRecord } from './records.ts';
import { z } from 'zod';

/** A roast for comparing and for learning the oven: one load with its plan, hands, readings and what became of it. */
export const RoastRecord = z.object({
  step: StepRecord,
  batchCode: z.string(),
  lot: z.object({
    id: z.string(),
    code: z.string(),
    name: z.string(),
    beansPer100g: z.number().nullable(),
    moisture: z.number().nullable(),
  }),
  inMg: z.number(),
  /** What most of that was; null before anything is in. */
  inMaterial: z.string().nullable().optional(),
  outMg: z.number(),
  events: z.array(z.object({ name: z.string(), at: z.string(), value: z.number().nullable() })),
  series: z.array(SeriesRecord),
  /** Mean liking of the batch's tastings, 0–10, and how many. */
  liking: z.number().nullable(),
  sourness: z.number().nullable(),
  tastings: z.number(),
});
/** See {@link RoastRecord}. */
export type RoastRecord = z.infer<typeof RoastRecord>;
