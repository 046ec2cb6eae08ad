import { StationName } from '../common.ts';
import { Attachment, Lot } from '../stations/beans.ts';
import { BatchBrief } from './bench.ts';
import { ObservationRecord } from './records.ts';
import { z } from 'zod';

/** A lot's page. */
export const LotView = z.object({
  lot: Lot,
  batches: z.array(BatchBrief),
  yields: z.array(
    z.object({
      station: StationName,
      batchId: z.string(),
      batchCode: z.string(),
      value: z.number(),
      startedAt: z.string(),
    }),
  ),
  /** Yields of the workshop’s latest batches that are of other lots: what a new lot’s are expected by. */
  elsewhere: z.array(z.object({ station: StationName, lotId: z.string(), value: z.number() })),
  observations: z.array(ObservationRecord),
  attachments: z.array(Attachment),
  /** What was taken from it, in order of time. */
  draws: z.array(z.object({ at: z.string(), massMg: z.number() })),
  /** Juice that was kept of it, mg, wherever it is by now. */
  juiceMg: z.number(),
  /** The lot it was dried from, and lots dried from it. */
  family: z.array(
    z.object({ id: z.string(), code: z.string(), name: z.string(), relation: z.enum(['from', 'into']) }),
  ),
});
/** See {@link LotView}. */
export type LotView = z.infer<typeof LotView>;
