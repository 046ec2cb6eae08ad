import { z } from 'zod';

/** Rejects of one sorting, for comparing lots. */
export const SortRecord = z.object({
  stepId: z.string(),
  batchId: z.string(),
  batchCode: z.string(),
  lotId: z.string(),
  lotCode: z.string(),
  startedAt: z.string(),
  endedAt: z.string().nullable(),
  inMg: z.number(),
  minutes: z.number().nullable(),
  rejects: z.array(z.object({ reason: z.string(), massMg: z.number() })),
});
/** See {@link SortRecord}. */
export type SortRecord = z.infer<typeof SortRecord>;
