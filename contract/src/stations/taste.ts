import { z } from 'zod';
import { BASICS, FAULTS, STRIP_SECONDS, TEXTURES } from '@wunsch/core/taste';
import { Id, Instant, Name, Text } from '../common.ts';

const score = z.number().min(0).max(10);

/** A note on the tasting strip. */
export const StrokeSchema = z
  .object({
    note: Name,
    from: z.number().min(0).max(STRIP_SECONDS),
    to: z.number().min(0).max(STRIP_SECONDS),
    strength: z.int().min(1).max(5),
  })
  .refine((s) => s.to > s.from, { path: ['to'], message: 'a stroke ends after it begins' });

/** The bench card of three taps: sourness, grit, liking. */
export const QuickCard = z.object({
  form: z.literal('quick'),
  sour: score,
  grit: score,
  liking: score,
  words: Text(2000).default(''),
});

/** The full card in the order of the senses. */
export const FullCard = z.object({
  form: z.literal('full'),
  look: z.object({
    swatch: z.int().min(1).max(9).nullable(),
    gloss: score.nullable(),
    faults: z.array(Text(40)).max(10),
  }),
  snap: z.object({ sound: score.nullable(), edge: score.nullable() }),
  smell: Text(400).default(''),
  strip: z.array(StrokeSchema).max(60),
  basics: z.partialRecord(
    z.enum(BASICS),
    z.object({ strength: score, fit: z.enum(['too little', 'right', 'too much']) }),
  ),
  texture: z.partialRecord(z.enum(TEXTURES), score),
  faults: z.array(z.enum(FAULTS)),
  liking: score,
  wouldSell: z.boolean().nullable(),
  words: Text(2000).default(''),
});

/** One person's tasting of one batch. */
export const TastingPut = z.object({
  batchId: Id,
  at: Instant.optional(),
  card: z.discriminatedUnion('form', [QuickCard, FullCard]),
});
/** See {@link TastingPut}. */
export type TastingPut = z.input<typeof TastingPut>;

/** A tasting as stored. */
export const Tasting = z.object({
  id: Id,
  batchId: Id,
  personId: Id.nullable(),
  by: z.string(),
  at: z.string(),
  card: z.discriminatedUnion('form', [QuickCard, FullCard]),
});
/** See {@link Tasting}. */
export type Tasting = z.infer<typeof Tasting>;

const NoteWord = Name.max(60);

/** The workshop’s words for notes: its families in order, and what was renamed or merged in this change. */
export const NoteListPut = z
  .object({
    families: z
      .array(z.object({ name: NoteWord, notes: z.array(NoteWord).max(80) }))
      .min(1)
      .max(30),
    /** Renamed, or merged where the new word stands in the list already. */
    renamed: z
      .array(z.object({ from: NoteWord, to: NoteWord }))
      .max(200)
      .default([]),
  })
  .refine(
    (l) => {
      const notes = l.families.flatMap((f) => f.notes.map((n) => n.toLowerCase()));
      return new Set(notes).size === notes.length;
    },
    { path: ['families'], message: 'a note stands in the list once' },
  )
  .refine(
    (l) => {
      const notes = l.families.flatMap((f) => f.notes);
      return l.renamed.every((r) => notes.includes(r.to));
    },
    { path: ['renamed'], message: 'what a note becomes must stand in the list' },
  );
/** See {@link NoteListPut}. */
export type NoteListPut = z.input<typeof NoteListPut>;

/** The list as it stands; version 0 is the one every workshop begins with. */
export const NoteListView = z.object({
  families: z.array(z.object({ name: z.string(), notes: z.array(z.string()) })),
  renames: z.record(z.string(), z.string()),
  version: z.int(),
});
/** See {@link NoteListView}. */
export type NoteListView = z.infer<typeof NoteListView>;
