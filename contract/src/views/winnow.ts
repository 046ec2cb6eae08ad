import { z } from 'zod';

/** One winnowing, for fitting the winnower and comparing. */
export const WinnowRecord = z.object({
  stepId: z.string(),
  batchId: z.string(),
  batchCode: z.string(),
  lotId: z.string(),
  machineId: z.string().nullable(),
  startedAt: z.string(),
  endedAt: z.string().nullable(),
  inMg: z.number(),
  nibMg: z.number(),
  huskMg: z.number(),
  passes: z.array(
    z.object({
      id: z.string(),
      at: z.string(),
      setting: z.number().nullable(),
      minutes: z.number().nullable(),
    }),
  ),
  /** Samples picked over by hand, with the setting and number of passes before them. */
  picked: z.array(
    z.object({
      id: z.string(),
      at: z.string(),
      of: z.enum(['husk', 'nib']),
      foundMg: z.number(),
      sampleMg: z.number(),
      pieces: z.number().nullable(),
      setting: z.number().nullable(),
      passes: z.number(),
    }),
  ),
});
/** See {@link WinnowRecord}. */
export type WinnowRecord = z.infer<typeof WinnowRecord>;
