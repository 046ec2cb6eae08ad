import { eq, inArray } from 'drizzle-orm';
import { IngredientPut, RecipePut } from '@wunsch/contract';
import { recipeFigures } from '@wunsch/core/recipe';
import { requireMatch } from '../../access/match.ts';
import { handler, lineOf, MAKERS, withMatch } from '../../commands/command.ts';
import { ingredient, recipe } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';

/** Adding or changing an ingredient. */
export const ingredientPut = handler({
  kind: 'ingredient.put',
  version: 1,
  put: {
    path: '/api/ingredients/:id',
    summary: 'Add an ingredient, or change one (If-Match)',
    tag: 'recipe',
    body: IngredientPut,
    guarded: true,
  },
  body: withMatch(IngredientPut),
  roles: MAKERS,
  touches: ['ingredients', 'batches'],
  line: lineOf('name'),
  async apply({ tx, target, seq, body: { ifMatch, ...facts } }) {
    const [old] = await tx.select().from(ingredient).where(eq(ingredient.id, target));
    if (!old) {
      await tx.insert(ingredient).values({ id: target, ...facts, stockSeq: seq });
      return;
    }
    requireMatch(ifMatch, old.version, 'ingredient');
    await tx
      .update(ingredient)
      .set({
        ...facts,
        version: old.version + 1,
        // Said anew it is counted from now on; a change of anything else leaves what has been used since.
        ...((facts.stockMg !== old.stockMg || old.stockSeq === null) && { stockSeq: seq }),
      })
      .where(eq(ingredient.id, target));
  },
});

/** Writing a recipe, or its next version. */
export const recipePut = handler({
  kind: 'recipe.put',
  version: 1,
  put: { path: '/api/recipes/:id', summary: 'Write a recipe, or its next version', tag: 'recipe' },
  body: RecipePut,
  roles: MAKERS,
  creates: true,
  touches: ['recipes'],
  line: lineOf('name'),
  keepsRead: true,
  async apply({ tx, target, body, at, by }) {
    const [used] = await tx.select({ id: recipe.id }).from(recipe).where(eq(recipe.id, target));
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: 'a version of a recipe is never changed; write the next version under a new id',
      });
    const wanted = [...new Set(body.lines.map((l) => l.ingredientId))];
    const known = await tx.select().from(ingredient).where(inArray(ingredient.id, wanted));
    const missing = wanted.find((id) => !known.some((k) => k.id === id));
    if (missing) throw notFound('ingredient', missing);
    if (!body.lines.some((l) => l.massMg > 0))
      throw new Problem({
        status: 422,
        code: 'empty-recipe',
        field: 'lines',
        detail: 'a recipe needs at least one ingredient with a weight',
      });
    let number = 1;
    if (body.follows) {
      const [before] = await tx.select().from(recipe).where(eq(recipe.id, body.follows));
      if (!before) throw notFound('recipe', body.follows);
      number = before.number + 1;
      await tx.update(recipe).set({ current: false }).where(eq(recipe.id, before.id));
    }
    const lines = body.lines.map((l) => ({
      ingredient: known.find((k) => k.id === l.ingredientId)!,
      massMg: l.massMg,
    }));
    const beansShare = recipeFigures(lines).cacaoBeans;
    await tx.insert(recipe).values({ id: target, ...body, number, beansShare, createdAt: at, by });
  },
});
