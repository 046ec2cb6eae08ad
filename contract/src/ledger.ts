import { z } from 'zod';
import { MATERIALS, WORK_KINDS } from '@wunsch/core/ledger';
import { Id, Instant, LARGEST_MASS_MG, MassMg, Text } from './common.ts';
import { StepPut } from './steps.ts';

/** Starting a batch from a lot. */
export const BatchPut = z.object({
  code: z.string().trim().min(1).max(24),
  lotId: Id,
  plannedMg: MassMg.nullable().default(null),
  recipeId: Id.nullable().default(null),
  barMg: z.int().positive().max(5_000_000).nullable().default(null),
  /** Work it passes through; drawn up from its arrival, recipe and the workshop's habit where null. */
  route: z.array(z.enum(WORK_KINDS)).min(1).max(WORK_KINDS.length).nullable().default(null),
  startedAt: Instant.optional(),
});
/** See {@link BatchPut}. */
export type BatchPut = z.input<typeof BatchPut>;

/** What may be changed on a batch afterwards; guarded by If-Match. */
export const BatchUpdate = BatchPut.pick({
  code: true,
  plannedMg: true,
  recipeId: true,
  barMg: true,
  route: true,
});

/** Ending a batch: finished, voided (a mistake: all weights go back) or abandoned (the material is lost, its cost stays). */
export const BatchState = z.object({
  state: z.enum(['open', 'finished', 'void', 'abandoned']),
  reason: Text(400).default(''),
});
/** See {@link BatchState}. */
export type BatchState = z.input<typeof BatchState>;

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
    /** The step it begins under that id, where it is the first weight into it: one act, one entry. */
    begins: StepPut.optional(),
    direction: z.enum(['in', 'out', 'loss']),
    /** Left out for "all that is there" (in) or "what the balance leaves" (out). */
    massMg: MassMg.nullable().default(null),
    parcelId: Id.nullable().default(null),
    /** Further parcels of which all there is goes in with it, each as a line of its own: the loads of a roast go through the winnower together. */
    also: z
      .array(z.object({ id: Id, parcelId: Id }))
      .min(1)
      .max(60)
      .optional(),
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
    if (m.begins && m.direction !== 'in') need('begins', 'a step begins with what goes into it');
    const together = [m.parcelId, ...(m.also ?? []).map((a) => a.parcelId)];
    if (m.also && (m.direction !== 'in' || !m.parcelId || m.massMg !== null || m.count !== null))
      need('also', 'parcels go in together with all that is there of each; weigh parts one by one');
    if (m.also && new Set(together).size < together.length) need('also', 'the same parcel is named twice');
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
  /** Pieces, where it is counted. */
  count: z.int().positive().max(10_000_000).nullable().default(null),
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
  count: z.int().positive().max(10_000_000).nullable().default(null),
  reason: Text(400).default(''),
});
/** See {@link CorrectionPut}. */
export type CorrectionPut = z.input<typeof CorrectionPut>;

/** Undoing one's own last entry; the entry is named so that a repeated tap undoes nothing more. */
export const UndoPut = z.object({ seq: z.int().positive().max(Number.MAX_SAFE_INTEGER) });
