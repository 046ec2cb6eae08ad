import { Machine } from '../workshop.ts';
import { z } from 'zod';

/** A time with its range; `high` null where it may never come. */
const forecastAt = z.object({ at: z.string(), low: z.string(), high: z.string().nullable() });

const bandPoint = z.object({ hours: z.number(), median: z.number(), low: z.number(), high: z.number() });

/** The grind's forecast for a running or finished step. Hours count from the last solid addition, pauses left out. */
export const GrindView = z.object({
  stepId: z.string(),
  aimUm: z.number(),
  needs: z.number(),
  segmentStart: z.string(),
  /** Hours of the running segment, and of the whole step. */
  hours: z.number(),
  allHours: z.number(),
  paused: z.boolean(),
  /** Readings of the running segment. */
  readings: z.array(
    z.object({
      id: z.string(),
      hours: z.number(),
      um: z.number(),
      uUm: z.number(),
      at: z.string(),
      /** Stones cannot have done it: the forecast leaves it out. */
      isMisread: z.boolean().default(false),
    }),
  ),
  /** Passes noted, where a tool without stones is used. */
  passes: z.number(),
  forecast: z
    .object({
      curve: z.object({ rate: z.number(), finest: z.number(), coarse: z.number() }),
      hoursToAim: z.object({
        median: z.number().nullable(),
        low: z.number().nullable(),
        high: z.number().nullable(),
      }),
      aimAt: forecastAt.nullable(),
      chanceReached: z.number(),
      /** Where the next reading tells most, and the share of the range it should leave. */
      nextReading: z.object({ at: z.string(), rangeLeft: z.number() }).nullable(),
      /** Grit expected at the workshop's next 07:00, µm. */
      morning: z.object({ at: z.string(), median: z.number(), low: z.number(), high: z.number() }).nullable(),
      /** Where it no longer keeps its pace: since which hour of the segment, and to what share of it. */
      slowed: z.object({ sinceHours: z.number(), pace: z.number() }).nullable(),
      band: z.array(bandPoint),
      runs: z.number(),
    })
    .nullable(),
});
/** See {@link GrindView}. */
export type GrindView = z.infer<typeof GrindView>;

/** A conche's acid fall for a running or finished step. */
export const ConcheView = z.object({
  stepId: z.string(),
  aim: z.number(),
  hours: z.number(),
  paused: z.boolean(),
  celsius: z.number(),
  air: z.enum(['sealed', 'open lid', 'fan']),
  tastings: z.array(z.object({ id: z.string(), hours: z.number(), score: z.number(), at: z.string() })),
  aimAt: forecastAt.nullable(),
  chanceMet: z.number(),
  band: z.array(bandPoint),
  /** Earlier conches of this lot the rate rests on. */
  runs: z.number(),
});
/** See {@link ConcheView}. */
export type ConcheView = z.infer<typeof ConcheView>;

/** A tasted batch with its hours in grinder and conche. */
export const ConchedBatchRecord = z.object({
  batchId: z.string(),
  batchCode: z.string(),
  hours: z.number(),
  liking: z.number(),
});
/** See {@link ConchedBatchRecord}. */
export type ConchedBatchRecord = z.infer<typeof ConchedBatchRecord>;

/** A run a machine has made. */
export const MachineRun = z.object({
  stepId: z.string(),
  batchId: z.string(),
  batchCode: z.string(),
  work: z.enum(['grind', 'conche']),
  startedAt: z.string(),
  endedAt: z.string(),
  hours: z.number(),
  chargeMg: z.number(),
  outMg: z.number(),
  /** Learned rate 1/h and finest grit µm; null where it had too few readings. */
  rate: z.number().nullable(),
  finest: z.number().nullable(),
  allergens: z.array(z.string()),
  /** Ingredients in it whose flavour clings. */
  strong: z.array(z.string()),
});
/** See {@link MachineRun}. */
export type MachineRun = z.infer<typeof MachineRun>;

/** What went through a machine at one time: a load of an oven, a pass of a winnower, a bowl. */
export const MachineCharge = z.object({
  stepId: z.string(),
  /** None where it was of no batch. */
  batchId: z.string().nullable(),
  batchCode: z.string().nullable(),
  startedAt: z.string(),
  /** Hours the machine ran for it. */
  hours: z.number(),
  inMg: z.number(),
  outMg: z.number(),
});
/** See {@link MachineCharge}. */
export type MachineCharge = z.infer<typeof MachineCharge>;

/** What was in a machine before a moment, since it was last cleaned. */
export const MachineBefore = z.object({
  machine: z.string(),
  cleanedAt: z.string().nullable(),
  cleanedBy: z.string().nullable(),
  /** Newest first; the last few. */
  runs: z.array(
    z.object({ batchCode: z.string().nullable(), at: z.string(), allergens: z.array(z.string()) }),
  ),
});
/** See {@link MachineBefore}. */
export type MachineBefore = z.infer<typeof MachineBefore>;

/** A machine's page. */
export const MachineView = z.object({
  machine: Machine,
  /** What it ground or conched, newest first. */
  runs: z.array(MachineRun),
  /** What went through it last, newest first; two dozen at most. */
  charges: z.array(MachineCharge),
  events: z.array(
    z.object({
      id: z.string(),
      kind: z.enum(['cleaned', 'serviced', 'rebuilt']),
      note: z.string(),
      at: z.string(),
      by: z.string(),
    }),
  ),
  /** Over its whole life; hours it stood are not among them. */
  totals: z.object({
    runs: z.number(),
    hours: z.number(),
    /** Hours of what has begun since it was last serviced or rebuilt. */
    sinceServiceHours: z.number(),
    kg: z.number(),
  }),
  /** Batches on their way to a grinder, with what clings of their recipe. */
  waiting: z.array(
    z.object({
      batchId: z.string(),
      batchCode: z.string(),
      allergens: z.array(z.string()),
      strong: z.array(z.string()),
    }),
  ),
});
/** See {@link MachineView}. */
export type MachineView = z.infer<typeof MachineView>;
