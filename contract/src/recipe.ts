import { z } from 'zod';
import { Id, Money, Name, Text } from './common.ts';

const share = z.number().min(0).max(100);

/** g in 100 g; the parts add up to 100 within half a gram. */
export const CompositionSchema = z
  .object({
    cocoaButter: share,
    otherFat: share,
    milkFat: share,
    cocoaSolids: share,
    sugar: share,
    milkSolids: share,
    otherSolids: share,
    water: share,
    emulsifier: share,
  })
  .refine((c) => Math.abs(Object.values(c).reduce((a, b) => a + b, 0) - 100) <= 0.5, {
    message: 'the parts of 100 g must add up to 100 g',
  });

/** An ingredient to add or change. */
export const IngredientPut = z.object({
  name: Name,
  key: Text(60).default(''),
  cacao: z.enum(['bean', 'butter', 'powder', 'none']),
  composition: CompositionSchema,
  pricePerKg: Money.default(0),
  allergens: z.array(Text(40)).max(14).default([]),
});
/** See {@link IngredientPut}. */
export type IngredientPut = z.input<typeof IngredientPut>;

/** An ingredient as stored. */
export const IngredientRecord = IngredientPut.extend({ id: Id, version: z.int() });
/** See {@link IngredientRecord}. */
export type IngredientRecord = z.infer<typeof IngredientRecord>;

/** A recipe in grams (whole mg). A change is a new recipe that names the one before it. */
export const RecipePut = z.object({
  name: Name,
  kind: z.enum(['dark', 'milk', 'white']).default('dark'),
  lines: z
    .array(z.object({ ingredientId: Id, massMg: z.int().nonnegative().max(1e11) }))
    .min(1)
    .max(40),
  aimUm: z.number().min(8).max(200).nullable().default(null),
  notes: Text(4000).default(''),
  /** The version this one follows. */
  follows: Id.nullable().default(null),
});
/** See {@link RecipePut}. */
export type RecipePut = z.input<typeof RecipePut>;

/** A recipe as stored. */
export const Recipe = RecipePut.extend({
  id: Id,
  number: z.int(),
  beansShare: z.number(),
  createdAt: z.string(),
  by: z.string().nullable(),
  current: z.boolean(),
});
/** See {@link Recipe}. */
export type Recipe = z.infer<typeof Recipe>;
