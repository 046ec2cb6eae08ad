import { z } from 'zod';
import { Id, MassMg, Name, Text } from '../common.ts';
import { RecipePut } from './recipe.ts';

/** Code of a part of a trial: three digits that hide what it is. */
export const TrialCode = z.string().regex(/^\d{3}$/, 'three digits');

/**
 * Beginning a trial: one factor varied between parts of one material. The codes are drawn by the server and told to nobody who
 * will taste. Parts weighed out of a parcel become parcels of their own.
 */
export const TrialBegin = z
  .object({
    name: Name,
    /** What is varied, e.g. sugar early or late. */
    factor: Text(120).default(''),
    /** What the parts are weighed out of; null where they are made elsewhere. */
    parcelId: Id.nullable().default(null),
    parts: z
      .array(
        z.object({
          label: Name,
          recipeId: Id.nullable().default(null),
          batchId: Id.nullable().default(null),
          /** Mass of the part, mg; only where it comes out of a parcel. */
          massMg: MassMg.nullable().default(null),
        }),
      )
      .min(2)
      .max(8),
  })
  .refine((t) => t.parts.every((p) => (p.massMg !== null) === (t.parcelId !== null)), {
    path: ['parts'],
    message: 'parts that come out of a parcel each need a mass, and others have none',
  });
/** See {@link TrialBegin}. */
export type TrialBegin = z.input<typeof TrialBegin>;

/** What one person thinks of one part. */
export const TrialMark = z.object({
  code: TrialCode,
  score: z.number().min(0).max(10),
  note: Text(400).default(''),
});

/** One person's scores, given together: how much each part is liked, 0 to 10. */
export const TrialScore = z.object({ trialId: Id, marks: z.array(TrialMark).min(1).max(8) });
/** See {@link TrialScore}. */
export type TrialScore = z.input<typeof TrialScore>;

/** Opening a trial, or looking at its key to pour: whoever has seen the key tastes no more. */
export const TrialStep = z.object({ trialId: Id });

/** Keeping a part; its recipe, where it has one, becomes the next version in the same act. */
export const TrialKeep = z.object({
  trialId: Id,
  code: TrialCode,
  recipe: RecipePut.extend({ id: Id }).nullable().default(null),
});
/** See {@link TrialKeep}. */
export type TrialKeep = z.input<typeof TrialKeep>;

/** A part of a trial as one may see it: what it is stays null until the trial is open, and so do others' scores. */
export const TrialPart = z.object({
  code: TrialCode,
  label: z.string().nullable(),
  recipeId: Id.nullable(),
  batchId: Id.nullable(),
  parcelId: Id.nullable(),
  massMg: z.number().nullable(),
  scores: z.array(z.object({ by: z.string(), score: z.number(), note: z.string() })),
});

/** A trial as the person who asks may see it. */
export const Trial = z.object({
  id: Id,
  name: z.string(),
  factor: z.string(),
  createdAt: z.string(),
  openedAt: z.string().nullable(),
  openedBy: z.string().nullable(),
  /** Initials of those who have given scores. */
  tasters: z.array(z.string()),
  /** Initials of those who have seen the key before it was opened. */
  pourers: z.array(z.string()),
  /** Whether the one who asks has seen the key, and so may not taste. */
  iPour: z.boolean(),
  /** Codes the one who asks has scored. */
  mine: z.array(TrialMark),
  /** In the order of their codes, which says nothing of what they are. */
  parts: z.array(TrialPart),
  kept: z.string().nullable(),
});
/** See {@link Trial}. */
export type Trial = z.infer<typeof Trial>;

/** Which code is which part, for whoever pours. */
export const TrialKey = z.array(
  z.object({ code: TrialCode, label: z.string(), massMg: z.number().nullable() }),
);
/** See {@link TrialKey}. */
export type TrialKey = z.infer<typeof TrialKey>;

/** A trial as it is stored. */
export const StoredTrial = z.object({
  name: z.string(),
  factor: z.string().default(''),
  parts: z.array(
    z.object({
      code: z.string(),
      label: z.string(),
      recipeId: z.string().nullable().default(null),
      batchId: z.string().nullable().default(null),
      parcelId: z.string().nullable().default(null),
      massMg: z.number().nullable().default(null),
    }),
  ),
  scores: z
    .array(
      z.object({
        id: z.string(),
        personId: z.string().nullable().default(null),
        by: z.string(),
        marks: z.array(z.object({ code: z.string(), score: z.number(), note: z.string().default('') })),
      }),
    )
    .default([]),
  keySeen: z.array(z.object({ personId: z.string().nullable().default(null), by: z.string() })).default([]),
  openedAt: z.string().nullable().default(null),
  openedBy: z.string().nullable().default(null),
  kept: z.string().nullable().default(null),
  /** Version of the recipe that was written when a part was kept. */
  keptRecipeId: z.string().nullable().default(null),
});
/** See {@link StoredTrial}. */
export type StoredTrial = z.infer<typeof StoredTrial>;

/** A trial as the first release put it, whole, at every change. */
export const WholeTrial = z.object({
  name: Name,
  factor: Text(120).default(''),
  arms: z
    .array(
      z.object({
        code: TrialCode,
        label: Name,
        recipeId: Id.nullable().default(null),
        batchId: Id.nullable().default(null),
        scores: z
          .array(z.object({ by: Text(12), score: z.number().min(0).max(10), note: Text(400).default('') }))
          .max(200)
          .default([]),
      }),
    )
    .min(2)
    .max(8),
  kept: z.string().nullable().default(null),
});
