import { z } from 'zod';
import { MATERIALS, STATIONS } from '@wunsch/core/ledger';
import { CHOCOLATE_TYPES, TEMPER_METHODS } from '@wunsch/core/temper';
import { Day, Id, Instant, LARGEST_MASS_MG, MassMg, Name, Text } from './common.ts';

/** One stage of a roast plan as it is stored. */
export const RoastStage = z.object({
  name: Name,
  setC: z.number().min(20).max(400),
  minutes: z.number().positive().max(600),
  fan: z.boolean().default(false),
  until: Text(200).nullable().default(null),
});

/** Station details that hang on a step; each station uses its own few. */
export const StepDetails = z
  .object({
    plan: z.object({ name: Name, stages: z.array(RoastStage).min(1).max(20) }),
    byHand: z.boolean(),
    load: z.int().positive(),
    loads: z.int().positive(),
    ceilingC: z.number().min(40).max(300),
    passes: z.int().positive().max(50),
    setting: Text(80),
    recipeId: Id,
    aimUm: z.number().min(8).max(200),
    method: z.enum(TEMPER_METHODS),
    chocolateType: z.enum(CHOCOLATE_TYPES),
    fillMg: MassMg,
    cavities: z.int().positive().max(1000),
    labelName: Text(120),
    madeOn: Day,
    bestBefore: Day,
    barCode: Text(40),
  })
  .partial()
  .strict();
/** See {@link StepDetails}. */
export type StepDetails = z.infer<typeof StepDetails>;

/** Starting a batch from a lot. */
export const BatchPut = z.object({
  code: z.string().trim().min(1).max(24),
  lotId: Id,
  plannedMg: MassMg.nullable().default(null),
  recipeId: Id.nullable().default(null),
  barMg: z.int().positive().max(5_000_000).nullable().default(null),
  startedAt: Instant.optional(),
});
/** See {@link BatchPut}. */
export type BatchPut = z.input<typeof BatchPut>;

/** What may be changed on a batch afterwards; guarded by If-Match. */
export const BatchUpdate = BatchPut.pick({ code: true, plannedMg: true, recipeId: true, barMg: true });

/** Ending a batch: finished, voided (a mistake: all weights go back) or abandoned (the material is lost, its cost stays). */
export const BatchState = z.object({
  state: z.enum(['open', 'finished', 'void', 'abandoned']),
  reason: Text(400).default(''),
});
/** See {@link BatchState}. */
export type BatchState = z.input<typeof BatchState>;

/** Opening a step at a station. */
export const StepPut = z.object({
  batchId: Id,
  station: z.enum(STATIONS),
  machineId: Id.nullable().default(null),
  startedAt: Instant.optional(),
  details: StepDetails.default({}),
});
/** See {@link StepPut}. */
export type StepPut = z.input<typeof StepPut>;

/** Changing an open or closed step's details; guarded by If-Match. */
export const StepUpdate = z.object({
  details: StepDetails,
  machineId: Id.nullable().optional(),
  startedAt: Instant.optional(),
});

/** Closing a step: what is not weighed is named, or the weights must come out even. */
export const StepClose = z.object({
  endedAt: Instant.optional(),
  /** Name the balance's remainder goes under (`moisture`, `dust`, `hold-up`, `unexplained` …); null when nothing may remain. */
  remainder: Text(60).min(1).nullable().default(null),
  remainderId: Id,
  handsOnMinutes: z.number().min(0).max(100_000).nullable().default(null),
});
/** See {@link StepClose}. */
export type StepClose = z.input<typeof StepClose>;

/**
 * A line of the ledger. In: from a parcel (mass left out: all that is there) or an ingredient off the shelf.
 * Out: into a new parcel, or a further weighing into one this step has made. Loss: under a name.
 */
export const MovementPut = z
  .object({
    stepId: Id,
    direction: z.enum(['in', 'out', 'loss']),
    /** Left out for "all that is there" (in) or "what the balance leaves" (out). */
    massMg: MassMg.nullable().default(null),
    parcelId: Id.nullable().default(null),
    ingredientId: Id.nullable().default(null),
    material: z.enum(MATERIALS).nullable().default(null),
    label: Text(120).nullable().default(null),
    reason: Text(60).nullable().default(null),
    count: z.int().positive().max(10_000_000).nullable().default(null),
    source: z.enum(['weighed', 'estimated', 'counted']).default('weighed'),
    uMg: z.int().positive().max(LARGEST_MASS_MG).nullable().default(null),
    place: Text(80).default(''),
    note: Text(400).default(''),
    /** A named person's word for using material on hold. */
    holdOverride: Text(200).default(''),
    at: Instant.optional(),
  })
  .superRefine((m, context) => {
    const need = (path: string, message: string) =>
      context.addIssue({ code: 'custom', path: [path], message });
    if (m.direction === 'in' && !m.parcelId && !m.ingredientId)
      need('parcelId', 'say which parcel or ingredient the mass comes from');
    if (m.direction === 'in' && m.ingredientId && m.massMg === null)
      need('massMg', 'an ingredient off the shelf needs its weight');
    if (m.direction === 'out' && (!m.parcelId || !m.material))
      need('parcelId', 'say which parcel the mass goes into and its material');
    if (m.direction === 'loss' && !m.reason) need('reason', 'a loss needs a name');
    if (m.direction === 'loss' && m.massMg === null)
      need('massMg', 'a loss needs its mass; what is left over is named when the step is closed');
  });
/** See {@link MovementPut}. */
export type MovementPut = z.input<typeof MovementPut>;

/** Correcting a weight: a new line that names the old one. */
export const CorrectionPut = z.object({
  movementId: Id.describe('the movement in force that is wrong'),
  massMg: MassMg,
  count: z.int().positive().nullable().default(null),
  reason: Text(400).default(''),
});
/** See {@link CorrectionPut}. */
export type CorrectionPut = z.input<typeof CorrectionPut>;

/** Where a temperature was taken. */
export const Place = z.enum(['bean', 'oven', 'bowl', 'grinder', 'room']);
/** See {@link Place}. */
export type Place = z.infer<typeof Place>;

/** What was seen, felt or measured, beside weights. */
export const ObservationData = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('note'), text: Text(4000).min(1) }),
  z.object({ kind: z.literal('event'), name: Text(80).min(1), note: Text(400).default('') }),
  z.object({ kind: z.literal('temperature'), place: Place, celsius: z.number().min(-60).max(500) }),
  z.object({
    kind: z.literal('grit'),
    method: z.enum(['micrometer', 'grindometer', 'tongue']),
    /** Micrometer reading or grindometer's dense band, µm. */
    um: z.number().positive().max(3000).nullable().default(null),
    /** Grindometer's last scratch, µm. */
    scratchUm: z.number().positive().max(3000).nullable().default(null),
    tongue: z.enum(['none', 'hint', 'gritty']).nullable().default(null),
  }),
  z.object({ kind: z.literal('pause') }),
  z.object({ kind: z.literal('resume') }),
  z.object({ kind: z.literal('moisture'), percent: z.number().min(0).max(70) }),
  z.object({
    kind: z.literal('room'),
    celsius: z.number().min(-30).max(60),
    humidity: z.number().gt(0).max(100),
  }),
  z.object({
    kind: z.literal('setTest'),
    minutes: z.number().min(0).max(120),
    gloss: z.enum(['even', 'patchy', 'dull']),
    streaks: z.boolean(),
  }),
  z.object({
    kind: z.literal('result'),
    gloss: z.int().min(0).max(5),
    snap: z.int().min(0).max(5),
    release: z.int().min(0).max(5),
    bloom: z.boolean(),
    note: Text(400).default(''),
  }),
  z.object({ kind: z.literal('timer'), label: Name, dueAt: Instant }),
  z.object({ kind: z.literal('timerDone'), timerId: Id }),
]);
/** See {@link ObservationData}. */
export type ObservationData = z.infer<typeof ObservationData>;

/** An observation on a step, a batch, or the workshop as a whole. */
export const ObservationPut = z.object({
  batchId: Id.nullable().default(null),
  stepId: Id.nullable().default(null),
  at: Instant.optional(),
  data: ObservationData,
  /** The observation this one corrects. */
  replaces: Id.nullable().default(null),
});
/** See {@link ObservationPut}. */
export type ObservationPut = z.input<typeof ObservationPut>;

/** A run of temperatures of one probe on one step. Times are seconds from `startedAt`; they need not be in order. */
export const ReadingsPut = z
  .object({
    stepId: Id,
    place: Place,
    startedAt: Instant,
    seconds: z.array(z.number().min(-1e7).max(1e7)).min(1).max(200_000),
    celsius: z.array(z.number().min(-100).max(600)).min(1).max(200_000),
    source: Text(60).default('hand'),
  })
  .refine((r) => r.seconds.length === r.celsius.length, {
    path: ['celsius'],
    message: 'as many temperatures as times are needed',
  });
/** See {@link ReadingsPut}. */
export type ReadingsPut = z.input<typeof ReadingsPut>;

/** Undoing one's own last entry; the entry is named so that a repeated tap undoes nothing more. */
export const UndoPut = z.object({ seq: z.int().positive() });
