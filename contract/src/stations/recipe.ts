import { z } from 'zod';
import { LABEL_LANGUAGES } from '@wunsch/core/label';
import { CHOCOLATE_TYPES } from '@wunsch/core/temper';
import { Id, Money, Name, Text } from '../common.ts';

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

/** g in 100 g, as labels state them. */
export const NutritionSchema = z.object({
  fat: share,
  saturates: share,
  carbohydrate: share,
  sugars: share,
  fibre: share,
  protein: share,
  salt: share,
  polyols: share.optional(),
  erythritol: share.optional(),
});

/** What weighing in keeps beside its weights. */
export const RECIPE_DETAILS = { recipeId: Id };

/** An ingredient to add or change. */
export const IngredientPut = z.object({
  name: Name,
  key: Text(60).default(''),
  cacao: z.enum(['bean', 'butter', 'powder', 'none']),
  composition: CompositionSchema,
  pricePerKg: Money.default(0),
  allergens: z.array(Text(40)).max(14).default([]),
  /** Its flavour clings to stones and bowls: coffee, mint, chilli. */
  strong: z.boolean().default(false),
  /** What labels call it, by language. */
  labelNames: z.partialRecord(z.enum(LABEL_LANGUAGES), Text(120)).default({}),
  /** Per 100 g, g; worked out from the composition where null. */
  nutrition: NutritionSchema.nullable().default(null),
  /** g/mL as it is scooped. */
  densityGPerMl: z.number().gt(0).max(5).nullable().default(null),
  /** Size of the crystals as bought, µm. */
  crystalUm: z.number().positive().max(10_000).nullable().default(null),
  /** What is on the shelf beside its deliveries, where someone keeps count; it falls as it is weighed in. */
  stockMg: z.int().nonnegative().max(1e11).nullable().default(null),
  origin: Text(120).default(''),
});
/** See {@link IngredientPut}. */
export type IngredientPut = z.input<typeof IngredientPut>;

/** An ingredient as stored. */
export const IngredientRecord = IngredientPut.extend({
  id: Id,
  version: z.int(),
  /** What is left of the count on the shelf; null where nobody keeps one. */
  shelfMg: z.number().nullable(),
  /** That and what is left of its deliveries; null where there is neither. */
  onHandMg: z.number().nullable(),
  /** Day the delivery that goes next is best before; null where there is none, or nothing is printed on it. */
  nextBestBefore: z.string().nullable(),
  /** What a kg costs now, minor units: as the delivery it is taken from next, or the last there was; its own price where none had one. */
  priceNow: z.number(),
});
/** See {@link IngredientRecord}. */
export type IngredientRecord = z.infer<typeof IngredientRecord>;

/** What an ingredient was from an entry on. */
export const IngredientVersion = z.object({
  seq: z.int(),
  at: z.string(),
  by: z.string(),
  facts: IngredientPut,
});
/** See {@link IngredientVersion}. */
export type IngredientVersion = z.infer<typeof IngredientVersion>;

/** A recipe in grams (whole mg). A change is a new recipe that names the one before it. */
export const RecipePut = z.object({
  name: Name,
  kind: z.enum(CHOCOLATE_TYPES).default('dark'),
  lines: z
    .array(z.object({ ingredientId: Id, massMg: z.int().nonnegative().max(1e11) }))
    .min(1)
    .max(40),
  aimUm: z.number().min(8).max(200).nullable().default(null),
  /** Whether its chocolate is tempered and conched; by the workshop's habit where null. */
  tempered: z.boolean().nullable().default(null),
  conched: z.boolean().nullable().default(null),
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

/** One thing in a bowl, with its mass; bought chocolate is a line for its cacao and one for its sugar, under the id of its lot. */
export const BowlLine = z.object({
  ingredient: IngredientPut.pick({
    name: true,
    cacao: true,
    composition: true,
  }).extend({
    id: Id,
    /** What was paid, minor units per kg. */
    pricePerKg: z.number().nonnegative(),
    allergens: z.array(z.string()).readonly(),
    strong: z.boolean().optional(),
    labelNames: z.partialRecord(z.enum(LABEL_LANGUAGES), z.string()).optional(),
    nutrition: NutritionSchema.nullable().optional(),
    densityGPerMl: z.number().nullable().optional(),
    crystalUm: z.number().nullable().optional(),
    /** Whether a price of 0 is what it cost, and not one that nobody knows. */
    isFree: z.boolean().optional(),
  }),
  massMg: z.number().nonnegative(),
});
/** See {@link BowlLine}. */
export type BowlLine = z.infer<typeof BowlLine>;
