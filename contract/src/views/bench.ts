import { WORK_KINDS } from '@wunsch/core/ledger';
import { StationName } from '../common.ts';
import { FlowSchema, NextSchema } from './flow.ts';
import { z } from 'zod';

/** A batch in a list. */
export const BatchBrief = z.object({
  id: z.string(),
  code: z.string(),
  lotId: z.string(),
  lotCode: z.string(),
  lotName: z.string(),
  country: z.string(),
  harvest: z.string(),
  state: z.enum(['open', 'finished', 'void', 'abandoned']),
  stateReason: z.string(),
  recipeId: z.string().nullable(),
  recipeName: z.string().nullable(),
  plannedMg: z.number().nullable(),
  barMg: z.number(),
  /** Work it passes through. */
  route: z.array(z.enum(WORK_KINDS)),
  /** Whether somebody has chosen the route; else it follows arrival, recipe and habit. */
  routeChosen: z.boolean(),
  startedAt: z.string(),
  by: z.string(),
  version: z.number(),
});
/** See {@link BatchBrief}. */
export type BatchBrief = z.infer<typeof BatchBrief>;

/** A batch in flight on the Bench. */
export const BenchBatch = BatchBrief.extend({
  flow: FlowSchema,
  next: NextSchema,
  machine: z.string().nullable(),
  openStepId: z.string().nullable(),
  disagrees: z.boolean(),
});
/** See {@link BenchBatch}. */
export type BenchBatch = z.infer<typeof BenchBatch>;

/** Something with a time to it. */
export const DueItem = z.object({
  id: z.string(),
  at: z.string().nullable(),
  kind: z.enum(['action', 'timer']),
  label: z.string(),
  /** Which round of its moulding it is that is to be knocked out; null for other timers. */
  round: z.int().nullable(),
  batchId: z.string().nullable(),
  batchCode: z.string().nullable(),
  next: NextSchema.nullable(),
});
/** See {@link DueItem}. */
export type DueItem = z.infer<typeof DueItem>;

/** A machine at work. */
export const RunningItem = z.object({
  stepId: z.string(),
  batchId: z.string(),
  batchCode: z.string(),
  station: StationName,
  machineId: z.string().nullable(),
  machine: z.string().nullable(),
  startedAt: z.string(),
  /** Expected end with its range, where it can be told; no latest where it may be much later, or never. */
  endsAt: z.object({ at: z.string(), low: z.string(), high: z.string().nullable() }).nullable(),
  massMg: z.number(),
  /** The last reading in words of numbers: grit in µm or temperature in °C. */
  reading: z.object({ kind: z.enum(['grit', 'temperature']), value: z.number(), at: z.string() }).nullable(),
});
/** See {@link RunningItem}. */
export type RunningItem = z.infer<typeof RunningItem>;

/** The Bench and the line. */
export const BenchView = z.object({
  at: z.string(),
  line: z.array(
    z.object({
      station: StationName,
      running: z.number(),
      waiting: z.number(),
      onHold: z.number(),
      due: z.boolean(),
    }),
  ),
  batches: z.array(BenchBatch),
  running: z.array(RunningItem),
  due: z.array(DueItem),
});
/** See {@link BenchView}. */
export type BenchView = z.infer<typeof BenchView>;
