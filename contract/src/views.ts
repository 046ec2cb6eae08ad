import { z } from 'zod';
import { MATERIALS, STATIONS, type BatchFlow } from '@wunsch/core/ledger';
import type { NextAction } from '@wunsch/core/plan';
import { Attachment, Lot } from './beans.ts';
import { ObservationData, Place, StepDetails } from './ledger.ts';
import { Person } from './access.ts';
import { Recipe } from './recipe.ts';
import { Tasting } from './taste.ts';
import { Machine, Workshop } from './workshop.ts';

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
    'taste-sourness',
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
  lotId: z.string().nullable(),
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
  probe: z.string(),
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
    z.object({ id: z.string(), hours: z.number(), um: z.number(), uUm: z.number(), at: z.string() }),
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
      /** Grit expected at the next 07:00 of the server's clock, µm. */
      morning: z.object({ at: z.string(), median: z.number(), low: z.number(), high: z.number() }).nullable(),
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
  ingredients: z.array(z.string()),
});
/** See {@link MachineRun}. */
export type MachineRun = z.infer<typeof MachineRun>;

/** A machine's page. */
export const MachineView = z.object({
  machine: Machine,
  /** Newest first. */
  runs: z.array(MachineRun),
  events: z.array(
    z.object({
      id: z.string(),
      kind: z.enum(['cleaned', 'serviced', 'rebuilt']),
      note: z.string(),
      at: z.string(),
      by: z.string(),
    }),
  ),
  /** Over all its runs. */
  totals: z.object({ runs: z.number(), hours: z.number(), kg: z.number() }),
  /** Batches on their way to a grinder, with what is in them by their recipe. */
  waiting: z.array(
    z.object({
      batchId: z.string(),
      batchCode: z.string(),
      allergens: z.array(z.string()),
      ingredients: z.array(z.string()),
    }),
  ),
});
/** See {@link MachineView}. */
export type MachineView = z.infer<typeof MachineView>;

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
  conche: z.array(ConcheView),
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

/** A lot's page. */
export const LotView = z.object({
  lot: Lot,
  batches: z.array(BatchBrief),
  yields: z.array(
    z.object({
      station,
      batchId: z.string(),
      batchCode: z.string(),
      value: z.number(),
      startedAt: z.string(),
    }),
  ),
  observations: z.array(ObservationRecord),
  attachments: z.array(Attachment),
  /** What was taken from it, in order of time. */
  draws: z.array(z.object({ at: z.string(), massMg: z.number() })),
  /** The lot it was dried from, and lots dried from it. */
  family: z.array(
    z.object({ id: z.string(), code: z.string(), name: z.string(), relation: z.enum(['from', 'into']) }),
  ),
});
/** See {@link LotView}. */
export type LotView = z.infer<typeof LotView>;

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
