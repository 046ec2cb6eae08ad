import { z } from 'zod';
import { MATERIALS, STATIONS, type BatchFlow } from '@wunsch/core/ledger';
import type { NextAction } from '@wunsch/core/plan';
import { Lot } from './beans.ts';
import { ObservationData, Place, StepDetails } from './ledger.ts';
import { Person } from './access.ts';
import { Recipe } from './recipe.ts';
import { Tasting } from './taste.ts';
import { Workshop } from './workshop.ts';

const station = z.enum(STATIONS);
const range = z.object({ meanMg: z.number(), lowMg: z.number(), highMg: z.number() });

/** The ribbon of a batch, see core/ledger. */
export const FlowSchema: z.ZodType<BatchFlow> = z.object({
  startMg: z.number(),
  stations: z.array(
    z.object({
      station,
      state: z.enum(['done', 'running', 'waiting', 'skipped', 'ahead']),
      inMg: z.number(),
      additions: z.array(
        z.object({ label: z.string(), massMg: z.number(), ingredientId: z.string().nullable() }),
      ),
      losses: z.array(
        z.object({
          reason: z.string(),
          massMg: z.number(),
          kept: z.boolean(),
          source: z.enum(['weighed', 'estimated', 'counted', 'derived']),
        }),
      ),
      outMg: z.number(),
      inProcessMg: z.number(),
      waitingMg: z.number(),
      progress: z.number(),
      expected: range,
      stepIds: z.array(z.string()),
    }),
  ),
  here: station,
  nowMg: z.number(),
  bars: z.number(),
  barsExpected: z.object({ low: z.number(), high: z.number() }).nullable(),
  cacaoKept: z.number().nullable(),
});

/** What comes next, see core/plan. */
export const NextSchema: z.ZodType<NextAction> = z.object({
  code: z.enum([
    'start',
    'weigh-out',
    'take-reading',
    'draw-off',
    'follow-temper',
    'carry-on',
    'taste',
    'nothing',
  ]),
  station,
  massMg: z.number(),
  dueAt: z.string().nullable(),
});

/** A movement as it is read back; superseded and voided ones carry what became of them. */
export const MovementRecord = z.object({
  id: z.string(),
  stepId: z.string(),
  direction: z.enum(['in', 'out', 'loss']),
  massMg: z.number(),
  source: z.enum(['weighed', 'estimated', 'counted', 'derived']),
  uMg: z.number().nullable(),
  material: z.enum(MATERIALS).nullable(),
  parcelId: z.string().nullable(),
  ingredientId: z.string().nullable(),
  reason: z.string().nullable(),
  label: z.string().nullable(),
  count: z.number().nullable(),
  note: z.string(),
  at: z.string(),
  by: z.string(),
  /** The movement this one replaced, with the reason given. */
  replaces: z.string().nullable(),
  correctionReason: z.string(),
  /** False once it has been replaced or voided. */
  inForce: z.boolean(),
});
/** See {@link MovementRecord}. */
export type MovementRecord = z.infer<typeof MovementRecord>;

/** An observation as it is read back. */
export const ObservationRecord = z.object({
  id: z.string(),
  batchId: z.string().nullable(),
  stepId: z.string().nullable(),
  at: z.string(),
  by: z.string(),
  data: ObservationData,
});
/** See {@link ObservationRecord}. */
export type ObservationRecord = z.infer<typeof ObservationRecord>;

/** A step with everything that hangs on it. */
export const StepRecord = z.object({
  id: z.string(),
  batchId: z.string().nullable(),
  station,
  status: z.enum(['open', 'closed']),
  startedAt: z.string(),
  endedAt: z.string().nullable(),
  machineId: z.string().nullable(),
  handsOnMinutes: z.number().nullable(),
  by: z.string(),
  details: StepDetails,
  version: z.number(),
});
/** See {@link StepRecord}. */
export type StepRecord = z.infer<typeof StepRecord>;

/** A parcel with what is left of it. */
export const ParcelRecord = z.object({
  id: z.string(),
  material: z.enum(MATERIALS),
  label: z.string(),
  lotId: z.string().nullable(),
  batchId: z.string().nullable(),
  batchCode: z.string().nullable(),
  lotCode: z.string().nullable(),
  stepId: z.string().nullable(),
  remainingMg: z.number(),
  count: z.number().nullable(),
  place: z.string(),
  onHold: z.boolean(),
  madeAt: z.string(),
});
/** See {@link ParcelRecord}. */
export type ParcelRecord = z.infer<typeof ParcelRecord>;

/** A thinned series of temperatures: seconds from `startedAt`. */
export const SeriesRecord = z.object({
  stepId: z.string(),
  place: Place,
  startedAt: z.string(),
  points: z.array(z.tuple([z.number(), z.number()])),
  /** Readings stored, before thinning. */
  count: z.number(),
});
/** See {@link SeriesRecord}. */
export type SeriesRecord = z.infer<typeof SeriesRecord>;

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
  station,
  machine: z.string().nullable(),
  startedAt: z.string(),
  /** Expected end, with its earliest and latest, where it can be told. */
  endsAt: z.object({ at: z.string(), low: z.string(), high: z.string() }).nullable(),
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
    z.object({ station, running: z.number(), waiting: z.number(), onHold: z.number(), due: z.boolean() }),
  ),
  batches: z.array(BenchBatch),
  running: z.array(RunningItem),
  due: z.array(DueItem),
});
/** See {@link BenchView}. */
export type BenchView = z.infer<typeof BenchView>;

/** The grind's forecast for a running or finished step. */
export const GrindView = z.object({
  stepId: z.string(),
  aimUm: z.number(),
  needs: z.number(),
  segmentStart: z.string(),
  hours: z.number(),
  paused: z.boolean(),
  readings: z.array(z.object({ id: z.string(), hours: z.number(), um: z.number(), at: z.string() })),
  forecast: z
    .object({
      curve: z.object({ rate: z.number(), finest: z.number(), coarse: z.number() }),
      hoursToAim: z.object({
        median: z.number().nullable(),
        low: z.number().nullable(),
        high: z.number().nullable(),
      }),
      aimAt: z.object({ at: z.string(), low: z.string(), high: z.string().nullable() }).nullable(),
      chanceReached: z.number(),
      band: z.array(z.object({ hours: z.number(), median: z.number(), low: z.number(), high: z.number() })),
      runs: z.number(),
    })
    .nullable(),
});
/** See {@link GrindView}. */
export type GrindView = z.infer<typeof GrindView>;

/** Everything about one batch. */
export const BatchView = z.object({
  batch: BatchBrief,
  lot: Lot,
  recipe: Recipe.nullable(),
  steps: z.array(StepRecord),
  movements: z.array(MovementRecord),
  observations: z.array(ObservationRecord),
  parcels: z.array(ParcelRecord),
  series: z.array(SeriesRecord),
  tastings: z.array(Tasting),
  flow: FlowSchema,
  next: NextSchema,
  grind: z.array(GrindView),
  /** Lots whose cacao is in the bowl; more than one loses the single-origin claim. */
  origins: z.array(z.string()),
  /** Allergens of everything that went in, rework included. */
  allergens: z.array(z.string()),
  disagreement: z
    .object({
      chiSquare: z.number(),
      degreesOfFreedom: z.number(),
      pValue: z.number(),
      disagrees: z.boolean(),
      likeliestStepId: z.string(),
      likeliestStation: station,
      suspects: z.array(
        z.object({
          movementId: z.string().nullable(),
          label: z.string(),
          massMg: z.number(),
          shortByMg: z.number(),
        }),
      ),
    })
    .nullable(),
  cost: z.object({
    total: z.number(),
    perBar: z.number().nullable(),
    bars: z.number(),
    forecast: z.boolean(),
    parts: z.array(z.object({ label: z.string(), cost: z.number() })),
    labourMinutes: z.number(),
  }),
  /** Yields of this station on this lot, oldest first, this batch's own marked. */
  yields: z.array(
    z.object({
      station,
      batchId: z.string(),
      batchCode: z.string(),
      value: z.number(),
      sameLot: z.boolean(),
    }),
  ),
  lastSeq: z.number(),
});
/** See {@link BatchView}. */
export type BatchView = z.infer<typeof BatchView>;

/** Who did what: one accepted entry. */
export const TrailItem = z.object({
  seq: z.number(),
  kind: z.string(),
  at: z.string(),
  by: z.string(),
  personId: z.string().nullable(),
  target: z.string(),
  batchId: z.string().nullable(),
  undone: z.boolean(),
  summary: z.record(z.string(), z.unknown()),
});
/** See {@link TrailItem}. */
export type TrailItem = z.infer<typeof TrailItem>;

/** What the page needs before anything else. */
export const SessionView = z.object({
  state: z.enum(['opening', 'first-run', 'signed-out', 'signed-in']),
  person: Person.nullable(),
  workshop: Workshop.nullable(),
  /** Demo accounts, offered only to this machine. */
  demoPeople: z.array(Person),
});
/** See {@link SessionView}. */
export type SessionView = z.infer<typeof SessionView>;

/** One thing that changed, sent to every open page. */
export const ChangeEvent = z.object({
  seq: z.number(),
  kind: z.string(),
  target: z.string(),
  batchId: z.string().nullable(),
  by: z.string().nullable(),
});
/** See {@link ChangeEvent}. */
export type ChangeEvent = z.infer<typeof ChangeEvent>;

/** A hit of the find box. */
export const FindHit = z.object({
  kind: z.enum(['batch', 'lot', 'recipe', 'note', 'bars']),
  id: z.string(),
  title: z.string(),
  detail: z.string(),
  path: z.string(),
});
/** See {@link FindHit}. */
export type FindHit = z.infer<typeof FindHit>;
