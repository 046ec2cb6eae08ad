import { sql } from 'drizzle-orm';
import type { PlanRoomView } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { MADE_NOW } from '../stations/recipe/index.ts';
import { printedOn } from './printed.ts';

type BarsOnHand = PlanRoomView['stock'][number];

/** Whether parcel `p` of batch `b` are bars that may go out: what is set aside may not. */
export const FREE_BARS = sql`p.material = 'bars' and p.remaining_mg > 0 and p.count > 0 and not p.on_hold and b.state <> 'void'`;

/** Bars that may go out, by the recipe made now, lot and the day they are best before. */
export async function loadBarsOnHand(db: Db): Promise<BarsOnHand[]> {
  const rows = rowsOf<{ id: string } & Omit<BarsOnHand, 'bestBefore'>>(
    await db.execute(sql`
      select p.id, n.now as "recipeId", b.lot_id as "lotId", p.count as bars
      from parcel p join batch b on b.id = p.batch_id
      left join ${MADE_NOW} n on n.id = coalesce(b.recipe_id, b.lot_id)
      where ${FREE_BARS}`),
  );
  const printed = await printedOn(
    db,
    rows.map((r) => r.id),
  );
  const found = new Map<string, BarsOnHand>();
  for (const { id, recipeId, lotId, bars } of rows) {
    const bestBefore = printed.get(id)?.bestBefore ?? null;
    const key = [recipeId, lotId, bestBefore].join();
    found.set(key, { recipeId, lotId, bestBefore, bars: bars + (found.get(key)?.bars ?? 0) });
  }
  return [...found.values()];
}
