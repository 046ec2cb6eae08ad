import { and, eq, gt, isNull } from 'drizzle-orm';
import type { PlanRoomView } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { classEvent, recipe } from '../db/schema/index.ts';
import { barOf, loadClass } from './load.ts';

/** What a class still to come needs of a recipe. */
export type PlannedClass = PlanRoomView['classes'][number];

/**
 * Classes still to come whose chocolate is not made yet, with the bars’ worth of it they need: every place taken, every guest choosing the most
 * of the base. A class that cannot be reckoned needs nothing here; its own page says why.
 *
 * @param now epoch ms
 * @param barMgOf mass of a recipe’s bars, mg
 */
export async function plannedClasses(
  db: Db,
  now: number,
  barMgOf: (recipeId: string) => number | null,
): Promise<PlannedClass[]> {
  const rows = await db
    .select({ id: classEvent.id, startsAt: classEvent.startsAt })
    .from(classEvent)
    .where(
      and(
        eq(classEvent.voided, false),
        isNull(classEvent.heldAt),
        gt(classEvent.startsAt, new Date(now).toISOString()),
      ),
    );
  const found: PlannedClass[] = [];
  for (const { id, startsAt } of rows) {
    const of = await loadClass(db, id);
    const { title, places, state, sweetness, base } = of.facts;
    if (state === 'called-off' || base.of !== 'recipe') continue;
    const recipeId = await currentOf(db, base.id);
    const barMg = recipeId === null ? null : barMgOf(recipeId);
    const each = sweetness.map(
      (cacaoPercent) => barOf(of, { cacaoPercent, flavourIds: [] }).bar?.baseMg ?? 0,
    );
    const bars = barMg === null ? 0 : Math.ceil((places * Math.max(...each)) / barMg);
    if (recipeId !== null && bars > 0) found.push({ id, title, startsAt, recipeId, bars });
  }
  return found;
}

/** The recipe of that name that is made now: the one a class was planned with may have been written anew. */
async function currentOf(db: Db, recipeId: string): Promise<string | null> {
  const [asked] = await db
    .select({ name: recipe.name, current: recipe.current })
    .from(recipe)
    .where(eq(recipe.id, recipeId));
  if (!asked) return null;
  if (asked.current) return recipeId;
  const [now] = await db
    .select({ id: recipe.id })
    .from(recipe)
    .where(and(eq(recipe.name, asked.name), eq(recipe.current, true)));
  return now?.id ?? null;
}
