import { asc, desc } from 'drizzle-orm';
import { z } from 'zod';
import { IngredientPut, IngredientRecord, Recipe, RecipePut } from '@wunsch/contract';
import type { App } from '../../app.ts';
import { ingredient, recipe } from '../../db/schema/index.ts';
import { Answer, answer, IdParams, ifMatchOf, write } from '../../routes.ts';

/** Ingredients and recipes. */
export function recipeRoutes(app: App): void {
  const tags = ['recipe'];
  app.get(
    '/api/ingredients',
    { schema: { tags, summary: 'Ingredients by name', response: { 200: z.array(IngredientRecord) } } },
    async () => app.store().db.select().from(ingredient).orderBy(asc(ingredient.name)),
  );
  app.put(
    '/api/ingredients/:id',
    {
      schema: {
        tags,
        summary: 'Add an ingredient, or change one (If-Match)',
        params: IdParams,
        body: IngredientPut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) =>
      answer(
        reply,
        request.params.id,
        await write(app, request, 'ingredient.put', request.params.id, {
          ...request.body,
          ifMatch: ifMatchOf(request),
        }),
      ),
  );
  app.get(
    '/api/recipes',
    { schema: { tags, summary: 'Recipes, every version, newest first', response: { 200: z.array(Recipe) } } },
    async () => app.store().db.select().from(recipe).orderBy(desc(recipe.createdAt)),
  );
  app.put(
    '/api/recipes/:id',
    {
      schema: {
        tags,
        summary: 'Write a recipe, or its next version',
        params: IdParams,
        body: RecipePut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) =>
      answer(
        reply,
        request.params.id,
        await write(app, request, 'recipe.put', request.params.id, request.body),
      ),
  );
}
