import { z } from 'zod';
import { AIR_WAYS } from '@wunsch/core/conche';
import { MATERIALS } from '@wunsch/core/ledger';
import { CUT_CLASSES } from '@wunsch/core/sort';
import { CHOCOLATE_TYPES, TEMPER_METHODS } from '@wunsch/core/temper';
import { Day, Id, Instant, LARGEST_MASS_MG, MassMg, Name, StationName, Text } from './common.ts';

/** One stage of a roast plan as it is stored. */
export const RoastStage = z.object({
  name: Name,
  setC: z.number().min(20).max(400),
  minutes: z.number().positive().max(600),
  fan: z.boolean().default(false),
  until: Text(200).nullable().default(null),
  /** Bean temperature that ends the stage before its time is up, °C. */
  endBeanC: z.number().min(20).max(300).nullable().optional(),
});

/** What a roast is to come to; what is null is free. */
export const RoastAimDetails = z.object({
  doseMinutes: z.number().positive().max(200).nullable().default(null),
  /** Least share of the sharp acid driven off. */
  acidGone: z.number().min(0).max(1).nullable().default(null),
  /** Moisture left, % wet basis. */
  moistureLow: z.number().min(0).max(20).nullable().default(null),
  moistureHigh: z.number().min(0).max(20).nullable().default(null),
  surfaceMaxC: z.number().min(60).max(300).nullable().default(null),
  /** Decimal reductions wanted at the coldest part; advisory. */
  logReductions: z.number().min(0).max(20).nullable().default(null),
});
/** See {@link RoastAimDetails}. */
export type RoastAimDetails = z.infer<typeof RoastAimDetails>;

/** Station details that hang on a step; each station uses its own few. */
export const StepDetails = z
  .object({
    plan: z.object({ name: Name, stages: z.array(RoastStage).min(1).max(20) }),
    byHand: z.boolean(),
    load: z.int().positive(),
    loads: z.int().positive(),
    ceilingC: z.number().min(40).max(300),
    /** Stir at least this often, s. */
    stirSeconds: z.number().positive().max(36_000),
    aim: RoastAimDetails,
    /** Rest after the roast before cracking, h. */
    restHours: z.number().min(0).max(240),
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
    /** What a step is beside the usual: grinding or conching at the grinder, or material leaving the workshop. */
    work: z.enum(['grind', 'conche', 'leave']),
    /** Where material went that left the workshop, and what it fetched, minor units. */
    destination: Text(80),
    fetched: z.number().nonnegative().max(1e12),
    /** Sourness a conche is to come to, 0–10. */
    sourAim: z.number().min(0).max(10),
    sugarSchool: z.enum(['early', 'late']),
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
  station: StationName,
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

/** Material that leaves the workshop; the target id is that of the closed step that says so. */
export const ParcelLeave = z.object({
  parcelId: Id,
  /** All that is there where left out. */
  massMg: MassMg.nullable().default(null),
  /** Where to, e.g. `tea`, `mulch`, `sold`, `waste`. */
  destination: Text(80).min(1),
  /** What it fetched in all, minor units. */
  fetched: z.number().nonnegative().max(1e12).default(0),
  takenId: Id,
  lossId: Id,
  at: Instant.optional(),
});
/** See {@link ParcelLeave}. */
export type ParcelLeave = z.input<typeof ParcelLeave>;

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

/** Name of one probe among several at the same place, e.g. `tray 2`; empty for the only one. */
export const Probe = Text(40);
/** See {@link Place}. */
export type Place = z.infer<typeof Place>;

const side = z.number().positive().max(20);

/** What was seen, felt or measured, beside weights. */
export const ObservationData = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('note'), text: Text(4000).min(1) }),
  z.object({
    kind: z.literal('event'),
    name: Text(80).min(1),
    note: Text(400).default(''),
    /** A number that belongs to it: the new setting in °C, or the seconds a door stood open. */
    value: z.number().nullable().optional(),
  }),
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
  z.object({
    kind: z.literal('cutTest'),
    counts: z.record(z.enum(CUT_CLASSES), z.int().min(0).max(300)),
    note: Text(400).default(''),
  }),
  z.object({ kind: z.literal('beanCount'), grams: z.array(z.number().positive().max(20)).min(1).max(300) }),
  z.object({
    kind: z.literal('traps'),
    count: z.int().min(0).max(100_000),
    traps: z.int().min(1).max(1000),
    place: Text(80).default(''),
  }),
  z.object({
    kind: z.literal('hold'),
    method: z.enum(['freezing', 'heat']),
    /** Sides of the stack as it stands, m; the shortest way in decides. */
    sides: z.tuple([side, side, side]),
    startC: z.number().min(-30).max(60),
    airC: z.number().min(-40).max(80),
    coreC: z.number().min(-40).max(80),
    days: z.number().min(0).max(60),
  }),
  z.object({
    kind: z.literal('picked'),
    /** Husk picked out of nibs, or nib picked out of husk. */
    of: z.enum(['husk', 'nib']),
    foundMg: z.int().min(0).max(LARGEST_MASS_MG),
    sampleMg: MassMg,
    pieces: z.int().min(1).max(100_000).nullable().default(null),
  }),
  z.object({
    kind: z.literal('pass'),
    /** Air setting as the maker counts it: gate, fan or dial. */
    setting: z.number().positive().max(1000).nullable().default(null),
    minutes: z.number().min(0).max(10_000).nullable().default(null),
    note: Text(200).default(''),
  }),
  z.object({
    kind: z.literal('concheSetting'),
    celsius: z.number().min(20).max(110),
    air: z.enum(AIR_WAYS),
  }),
  z.object({ kind: z.literal('sourness'), score: z.number().min(0).max(10), note: Text(200).default('') }),
  z.object({
    kind: z.literal('retaste'),
    /** The resting parcel that was tasted. */
    parcelId: Id,
    liking: z.number().min(0).max(10).nullable().default(null),
    sourness: z.number().min(0).max(10).nullable().default(null),
    note: Text(400).default(''),
  }),
  z.object({ kind: z.literal('holdProbe'), celsius: z.number().min(-60).max(100) }),
  z.object({
    kind: z.literal('ferment'),
    celsius: z.number().min(0).max(70).nullable().default(null),
    ambientC: z.number().min(-20).max(60).nullable().default(null),
    turned: z.boolean().default(false),
    drainedMg: z.int().min(0).max(LARGEST_MASS_MG).nullable().default(null),
    smell: Text(200).default(''),
    cutLook: Text(200).default(''),
  }),
  z.object({
    kind: z.literal('drying'),
    massMg: MassMg,
    /** Wet basis, %, where a meter was at hand; the first one with it is where the arithmetic starts. */
    moisture: z.number().min(0).max(90).nullable().default(null),
    note: Text(200).default(''),
  }),
]);
/** See {@link ObservationData}. */
export type ObservationData = z.infer<typeof ObservationData>;

/** An observation on a step, a batch, a lot, or the workshop as a whole. */
export const ObservationPut = z.object({
  batchId: Id.nullable().default(null),
  stepId: Id.nullable().default(null),
  lotId: Id.nullable().default(null),
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
    probe: Probe.default(''),
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

/** Readings as boards send them, several probes together; kept in the journal at once and in the store soon after. */
export const ReadingsStream = z.object({
  stepId: Id,
  place: Place,
  probe: Probe,
  source: Text(60),
  startedAt: Instant,
  seconds: z.array(z.number()).min(1).max(10_000),
  celsius: z.array(z.number().min(-100).max(600)).min(1).max(10_000),
});
/** See {@link ReadingsStream}. */
export type ReadingsStream = z.infer<typeof ReadingsStream>;

/** Undoing one's own last entry; the entry is named so that a repeated tap undoes nothing more. */
export const UndoPut = z.object({ seq: z.int().positive() });
