import {
  bigint,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  doublePrecision,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import type { StoredTrial } from '@wunsch/contract';
import type { LabelLanguage } from '@wunsch/core/label';
import type { Composition, Nutrition } from '@wunsch/core/recipe';
import { CHOCOLATE_TYPES } from '@wunsch/core/temper';
import { instant, massMg } from '../columns.ts';

/** Ingredients with their composition per 100 g. */
export const ingredient = pgTable('ingredient', {
  id: uuid().primaryKey(),
  key: text().notNull(),
  name: text().notNull(),
  cacao: text({ enum: ['bean', 'butter', 'powder', 'none'] }).notNull(),
  composition: jsonb().$type<Composition>().notNull(),
  pricePerKg: doublePrecision('price_per_kg').notNull(),
  allergens: jsonb().$type<string[]>().notNull(),
  strong: boolean().notNull().default(false),
  labelNames: jsonb('label_names').$type<Partial<Record<LabelLanguage, string>>>().notNull().default({}),
  nutrition: jsonb().$type<Nutrition>(),
  densityGPerMl: doublePrecision('density_g_per_ml'),
  crystalUm: doublePrecision('crystal_um'),
  stockMg: massMg('stock_mg'),
  /** The entry that said so: what is weighed off the shelf after it is gone from it. */
  stockSeq: bigint('stock_seq', { mode: 'number' }),
  origin: text().notNull().default(''),
  version: integer().notNull().default(1),
});

/** Recipes, one row a version; a version is never changed. */
export const recipe = pgTable(
  'recipe',
  {
    id: uuid().primaryKey(),
    name: text().notNull(),
    kind: text({ enum: CHOCOLATE_TYPES }).notNull(),
    lines: jsonb().$type<{ ingredientId: string; massMg: number }[]>().notNull(),
    aimUm: doublePrecision('aim_um'),
    tempered: boolean(),
    conched: boolean(),
    /** Nibs and liquor, % of the whole, when it was written. */
    beansShare: doublePrecision('beans_share').notNull(),
    notes: text().notNull(),
    follows: uuid(),
    number: integer().notNull(),
    current: boolean().notNull().default(true),
    createdAt: instant('created_at').notNull(),
    by: text(),
  },
  (t) => [index('recipe_follows').on(t.follows)],
);

/** Trials: one factor varied between parts of one material. */
export const trial = pgTable('trial', {
  id: uuid().primaryKey(),
  facts: jsonb().$type<StoredTrial>().notNull(),
  createdAt: instant('created_at').notNull(),
  version: integer().notNull().default(1),
});
