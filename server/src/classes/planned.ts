import { and, eq, gt, isNull } from 'drizzle-orm';
import type { PlanRoomView } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { classEvent } from '../db/schema/index.ts';
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
    const recipeId = base.id;
    const barMg = barMgOf(recipeId);
    const each = sweetness.map(
      (cacaoPercent) => barOf(of, { cacaoPercent, flavourIds: [] }).bar?.baseMg ?? 0,
    );
    const bars = barMg === null ? 0 : Math.ceil((places * Math.max(...each)) / barMg);
    if (bars > 0) found.push({ id, title, startsAt, recipeId, bars });
  }
  return found;
}
