import { desc } from 'drizzle-orm';
import { z } from 'zod';
import { IngredientRecord, IngredientVersion, Recipe } from '@wunsch/contract';
import { IdParams } from '../../http/entries.ts';
import type { App } from '../../http/types.ts';
import { recipe } from '../../db/schema/index.ts';
import { ingredientHistory } from './history.ts';
import { loadIngredients } from './shelf.ts';

/** Ingredients and recipes. */
export function recipeRoutes(app: App): void {
  const tags = ['recipe'];
  app.get(
    '/api/ingredients',
    {
      config: { cached: true },
      schema: { tags, summary: 'Ingredients by name', response: { 200: z.array(IngredientRecord) } },
    },
    (request) => loadIngredients(request.store.db),
  );
  app.get(
    '/api/ingredients/:id/history',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'What an ingredient was, the oldest first',
        params: IdParams,
        response: { 200: z.array(IngredientVersion) },
      },
    },
    (request) => ingredientHistory(request.store.db, request.params.id),
  );
  app.get(
    '/api/recipes',
    {
      config: { cached: true },
      schema: { tags, summary: 'Recipes, every version, newest first', response: { 200: z.array(Recipe) } },
    },
    async (request) =>
      request.store.db.select().from(recipe).orderBy(desc(recipe.createdAt), desc(recipe.id)),
  );
}
